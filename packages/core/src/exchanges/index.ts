export { compileExchange, type CompiledExchange } from './compiled.ts'
export { Runner, runExchange, type ExchangeResult, type StepResult } from './runner.ts'
export { exchangeProblemWords, stepWords } from './words.ts'
