export { compileExchange, type CompiledExchange } from './compiled.ts'
export {
  Runner,
  atOnce,
  readyRig,
  settleUs,
  registerStep,
  type Progress,
  type RunStep,
  runExchange,
  type ExchangeResult,
} from './runner.ts'
export { type StepResult } from './watch.ts'
export { judgeLog, type JudgedLog, type JudgedStep, type Verdict } from './judge.ts'
export { exchangeSheet, sheetText, type SheetLine } from './sheet.ts'
export { exchangeProblemWords } from './words.ts'
