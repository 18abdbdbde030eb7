export { compileExchange, type CompiledExchange } from './compiled.ts'
export {
  Runner,
  settleUs,
  registerStep,
  type Progress,
  type RunStep,
  runExchange,
  type ExchangeResult,
  type StepResult,
} from './runner.ts'
export { exchangeProblemWords } from './words.ts'
