export { sayMessage, sentenceOf, type Said } from './message.ts'
export { explainBytes, type Explained, type Explanation } from './bytes.ts'
export { catalogue, framesOfVariable, framesOfWidget, type FrameExample } from './catalogue.ts'
export { explainLog, mostLogLines, type ExplainedLog, type LogPart } from './log.ts'
