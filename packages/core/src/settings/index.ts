export {
  type Setting,
  type SettingType,
  type SettingValues,
  type CompileContext,
  type Follows,
  type CompiledFollow,
  settingsSchema,
  defaultsOf,
  refsOf,
  withoutRef,
  compileSettings,
  doesFollow,
  isCompiledFollow,
} from './setting.ts'
export { type FontChoice, settingTypes } from './types.ts'
