export { signalPaths, nameOfId, type SignalPath, type Selection, type VariableStop } from './path.ts'
