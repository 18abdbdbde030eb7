export { Line, noTrouble, type Trouble, type Passed } from './line.ts'
