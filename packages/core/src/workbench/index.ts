export { Workbench, type LiveValue } from './workbench.ts'
