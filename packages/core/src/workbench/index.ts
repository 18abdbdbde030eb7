export { sampleBench, sampleProject, samplePage } from './sample.ts'
export { Workbench, type LiveValue } from './workbench.ts'
