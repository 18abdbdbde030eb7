export { type CompileContext, type FontChoice, type FontSetting, described } from './setting.ts'
export { settingTypes } from './types.ts'
