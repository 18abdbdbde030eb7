import { ActionIcon, Box, FileButton, Group } from '@mantine/core'
import { sameJson } from '@moth-lamp/core/base'
import { fontOf, typefaceOf, type Project } from '@moth-lamp/core/project'
import type { StyleId } from '@moth-lamp/core/palette'
import type { FontSetting } from '@moth-lamp/core/settings'
import { Plus } from 'lucide-react'
import { Choice } from '../controls/choice.tsx'
import { NumberField } from '../controls/fields.tsx'
import { fontFiles, takeFontFile } from '../session/typefaces.ts'
import { useProject, useSession } from '../session/context.tsx'

interface Props {
  label: string
  value: FontSetting
  /** Of several: what differs is shown as mixed. */
  others?: readonly FontSetting[]
  /** Without types of the project: what a type itself is made of. */
  plain?: boolean
  onChange(next: (old: FontSetting) => FontSetting): void
}

/** A type of the project by name, or a typeface and size of one's own. Of several, only what is touched is set. */
export function FontField({ label, value, others = [], plain, onChange }: Props) {
  const session = useSession()
  const project = useProject()
  const all = [value, ...others]
  const chosen = typeof value === 'string' ? value : value.typeface
  const same = all.every((font) => (typeof font === 'string' ? font : font.typeface) === chosen)
  const { size } = fontOf(project, value)
  const setTypeface = (typeface: string) => onChange((old) => ({ typeface, size: fontOf(project, old).size }))
  return (
    <Group gap={4} wrap="nowrap">
      <div className="grow">
        <Choice
          label={`${label}: typeface`}
          value={same ? chosen : 'mixed'}
          placeholder="mixed"
          options={[
            ...(plain
              ? []
              : project.styleOrder.map((id) => ({
                  value: id,
                  label: project.styles[id]!.name,
                  group: 'Project fonts',
                  detail: fontWords(project, id),
                }))),
            { value: '', label: plain ? 'default' : 'none', group: 'Custom' },
            ...project.typefaceOrder.map((id) => ({ value: id, label: project.typefaces[id]!.name, group: 'Custom' })),
          ]}
          onChange={(id) => (id.startsWith('style:') ? onChange(() => id) : setTypeface(id))}
        />
      </div>
      {!plain && (
        <FileButton
          accept={fontFiles}
          onChange={(file) => file && void takeFontFile(session, file).then((id) => id && setTypeface(id))}
        >
          {(props) => (
            <ActionIcon {...props} size={25} title="import a font file" aria-label={`${label}: from a file`}>
              <Plus size={14} />
            </ActionIcon>
          )}
        </FileButton>
      )}
      <Box component="span" w={66}>
        <NumberField
          label={`${label}: size`}
          value={all.every((font) => sameJson(fontOf(project, font).size, size)) ? size : null}
          min={6}
          max={200}
          whole
          unit="px"
          onCommit={(next) => onChange((old) => ({ typeface: fontOf(project, old).typeface, size: next }))}
        />
      </Box>
    </Group>
  )
}

/** `Atkinson Hyperlegible Mono 26` */
export const fontWords = (project: Project, font: FontSetting | StyleId): string =>
  `${typefaceOf(project, font)?.name ?? 'no typeface'} ${fontOf(project, font).size}`
