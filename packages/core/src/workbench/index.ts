export { Workbench } from './workbench.ts'
