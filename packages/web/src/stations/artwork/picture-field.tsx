import { pictureSettings, type PictureRecord } from '@moth-lamp/core/project'
import { SettingField } from '../../inspector/setting-fields.tsx'

interface Props {
  /** Those that it stands for: one that differs is said to be mixed. */
  pictures: readonly PictureRecord[]
  setting: keyof typeof pictureSettings.fields
  onChange(value: unknown): void
}

/** A setting of one picture, or of several at once, under its label. */
export function PictureField({ pictures, setting, onChange }: Props) {
  const first = pictures[0]!
  return (
    <div>
      <label>{pictureSettings.fields[setting].label}</label>
      <SettingField
        setting={pictureSettings.list.find(({ key }) => key === setting)!}
        value={first[setting]}
        mixed={pictures.some((picture) => picture[setting] !== first[setting])}
        nameHint={first.name}
        siblings={first as never}
        onChange={onChange}
      />
    </div>
  )
}
