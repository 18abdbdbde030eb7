export { type CompileContext, described } from './setting.ts'
export { type FontChoice, settingTypes } from './types.ts'
