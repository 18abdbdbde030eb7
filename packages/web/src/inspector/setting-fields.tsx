import { useInSentence } from '../controls/sentence.tsx'
import { fromHex, sameJson, toHex } from '@moth-lamp/core/base'
import type { Face } from '@moth-lamp/core/faces'
import { choiceText, doesFollow, type ValueOf } from '@moth-lamp/core/describe'
import { eventTexts, reasonTexts } from '@moth-lamp/core/frames'
import type { FontSetting } from '@moth-lamp/core/settings'
import { formatAddress, parseAddress, type HoldsType } from '@moth-lamp/core/variables'
import { ActionIcon, Group } from '@mantine/core'
import { Link2 } from 'lucide-react'
import { useState, type ReactNode } from 'react'
import { Choice } from '../controls/choice.tsx'
import { PicturePicker } from '../controls/picture-picker.tsx'
import { ColourField } from '../controls/colour-field.tsx'
import { NumberField, TextField, YesNo } from '../controls/fields.tsx'
import { CommandPicker, PagePicker, VariablePicker, WidgetPicker } from '../controls/pickers.tsx'
import { useProject, useSession } from '../session/context.tsx'
import { BitChips, BitChoice, ValueField, WordsField } from '../controls/value-field.tsx'
import { FaceField } from './face-field.tsx'
import { FontField } from './font-field.tsx'
import { IconField } from './icon-field.tsx'
import { ItemsField } from './items-field.tsx'
import type { FieldProps, NestingProps } from './field.ts'
import { KeypadField } from './keypad-field.tsx'
import { useColours } from '../controls/colours.ts'
import { freshFor, freshToFollow, holdsOf } from '../parts/lookups.ts'
import { RulesField } from './rule-sentences.tsx'
import { EffectsField, StatesField } from './record-fields.tsx'
import form from '../parts/fields.module.css'

type Field = (props: NestingProps) => ReactNode

const text: Field = ({ setting, value, mixed, onChange }) => (
  <TextField
    label={setting.label}
    value={mixed ? '' : String(value)}
    placeholder={mixed ? 'mixed' : setting.hint}
    onCommit={onChange}
  />
)
const number = (whole: boolean): Field =>
  function Number_({ setting, value, mixed, onChange }) {
    return (
      <NumberField
        label={setting.label}
        value={mixed ? null : Number(value)}
        min={setting.min}
        max={setting.max}
        step={setting.step}
        whole={whole}
        unit={setting.unit}
        zero={setting.zero}
        onCommit={onChange}
      />
    )
  }

function VariableField({ setting, value, mixed, onChange, nameHint, siblings }: FieldProps) {
  const project = useProject()
  return (
    <VariablePicker
      session={useSession()}
      project={project}
      fresh={freshFor(project, siblings, setting.key)}
      label={setting.label}
      value={mixed ? '' : String(value)}
      accepts={setting.accepts as readonly HoldsType[] | undefined}
      makes={nameHint}
      onChange={onChange}
    />
  )
}

/** A few bytes, in hex. */
function BytesField({ setting, value, onChange }: FieldProps) {
  const read = (text: string): number[] | null => {
    const bytes = text.trim() ? fromHex(text) : { ok: true as const, value: new Uint8Array() }
    const all = bytes.ok ? Array.from(bytes.value) : null
    return all && !setting.type.schema.validate(all).error ? all : null
  }
  return (
    <TextField
      mono
      label={setting.label}
      value={toHex(value as number[])}
      placeholder="none"
      check={(t) => (read(t) ? null : 'Enter bytes in hex, not too many.')}
      onCommit={(t) => onChange(read(t))}
    />
  )
}

/** A number of up to four bytes, in hex. */
function HexNumberField({ setting, value, onChange }: FieldProps) {
  const read = (text: string): number | null => (/^(0x)?[0-9a-f]{1,8}$/i.test(text.trim()) ? parseInt(text.trim(), 16) : null)
  return (
    <TextField
      mono
      label={setting.label}
      value={Number(value).toString(16).toUpperCase().padStart(4, '0')}
      check={(t) => (read(t) === null ? 'Enter up to eight hex digits.' : null)}
      onCommit={(t) => onChange(read(t))}
    />
  )
}

/** One byte, in hex. */
function ByteField({ setting, value, onChange }: FieldProps) {
  const read = (text: string): number | null => {
    const bytes = fromHex(text)
    return bytes.ok && bytes.value.length === 1 ? bytes.value[0]! : null
  }
  return (
    <TextField
      mono
      label={setting.label}
      value={toHex([value as number])}
      check={(t) => (read(t) === null ? 'Enter one byte in hex.' : null)}
      onCommit={(t) => onChange(read(t))}
    />
  )
}

const codeTexts: Readonly<Record<string, string>> = { ...eventTexts, ...reasonTexts }

/** A byte for each event or reason. */
function CodesField({ value, onChange }: FieldProps) {
  const codes = value as Record<string, number>
  return (
    <div>
      {Object.entries(codes).map(([name, code]) => (
        <div className={form.setting} key={name}>
          <label>{codeTexts[name] ?? name}</label>
          <NumberField
            label={`Code of ${codeTexts[name] ?? name}`}
            value={code}
            min={0}
            max={255}
            whole
            onCommit={(next) => onChange({ ...codes, [name]: next })}
          />
        </div>
      ))}
    </div>
  )
}

/** Characters of a line; what cannot be typed as `\\r`, `\\n`, `\\t` or `\\x41`. */
function LineTextField({ setting, value, onChange }: FieldProps) {
  const shown = [...String(value)].map(typable).join('')
  const read = (text: string): string =>
    text.replaceAll(/\\(x[0-9A-Fa-f]{2}|.)/g, (_, code: string) =>
      code.length === 3 ? String.fromCharCode(parseInt(code.slice(1), 16)) : (controls[code] ?? code),
    )
  return (
    <TextField
      mono
      label={setting.label}
      value={shown}
      check={(t) => (setting.type.schema.validate(read(t)).error ? 'Enter 1 to 64 characters.' : null)}
      onCommit={(t) => onChange(read(t))}
    />
  )
}
const typable = (c: string): string => {
  const code = c.charCodeAt(0)
  if (c === '\\') return '\\\\'
  return code < 0x20 || code > 0x7e ? `\\x${code.toString(16).toUpperCase().padStart(2, '0')}` : c
}
const controls: Readonly<Record<string, string>> = { r: '\r', n: '\n', t: '\t' }

/** A word for each event or reason. */
function WordsOfKindsField({ value, onChange }: FieldProps) {
  const words = value as Record<string, string>
  return (
    <div>
      {Object.entries(words).map(([name, word]) => (
        <div className={form.setting} key={name}>
          <label>{codeTexts[name] ?? name}</label>
          <TextField
            mono
            label={`Word of ${codeTexts[name] ?? name}`}
            value={word}
            check={(t) => (/^[\x21-\x7e]{1,24}$/.test(t) ? null : 'Enter up to 24 characters, no blanks.')}
            onCommit={(next) => onChange({ ...words, [name]: next })}
          />
        </div>
      ))}
    </div>
  )
}

/** An address of memory, in hex or decimal; 0x10000 is the end of all. */
function AddressField({ setting, value, onChange }: FieldProps) {
  const read = (text: string): number | null => (text.trim().toLowerCase() === '0x10000' ? 0x10000 : parseAddress(text))
  const fits = (n: number | null) => n !== null && n >= (setting.min ?? 0) && n <= (setting.max ?? 0xffff)
  return (
    <TextField
      mono
      label={setting.label}
      value={formatAddress(Number(value))}
      check={(t) => (fits(read(t)) ? null : 'An address such as 0x0010.')}
      onCommit={(t) => onChange(read(t))}
    />
  )
}

/** The field of each type of setting. A list of records has that of its items; whatever else has none is edited as JSON. */
const fields: Record<string, { field: Field; tall?: boolean }> = {
  text: { field: text },
  number: { field: number(false) },
  whole: { field: number(true) },
  yesNo: {
    field: ({ setting, value, mixed, onChange }) => (
      <YesNo label={setting.label} value={mixed ? null : value === true} onChange={onChange} />
    ),
  },
  choice: {
    field: ({ setting, value, mixed, onChange }) => (
      <Choice
        label={setting.label}
        value={mixed ? '' : String(value)}
        options={[
          ...(mixed ? [{ value: '', label: 'mixed' }] : []),
          ...(setting.type.choices ?? []).map((c) => ({ value: c, label: choiceText(setting.type, c) })),
        ]}
        onChange={onChange}
      />
    ),
  },
  colour: {
    field: ({ setting, value, mixed, onChange }) => (
      <ColourField label={setting.label} value={mixed ? '' : String(value)} onCommit={onChange} />
    ),
  },
  font: {
    field: ({ setting, value, onChange }) => (
      <FontField label={setting.label} value={value as FontSetting} onChange={(next) => onChange(next(value as FontSetting))} />
    ),
  },
  variable: { field: (props) => <VariableField {...props} /> },
  page: {
    field: function Page(props) {
      const { setting, value, onChange } = props
      const project = useProject()
      if (setting.accepts?.join() === 'keypad') return <KeypadField {...props} />
      return (
        <PagePicker project={project} label={setting.label} value={String(value)} accepts={setting.accepts} onChange={onChange} />
      )
    },
  },
  picture: {
    field: ({ setting, value, onChange }) => <PicturePicker label={setting.label} value={String(value)} onChange={onChange} />,
  },
  widget: {
    field: function Widget({ setting, value, onChange }) {
      return <WidgetPicker project={useProject()} label={setting.label} value={String(value)} onChange={onChange} />
    },
  },
  command: {
    field: function Command({ setting, value, onChange }) {
      return <CommandPicker project={useProject()} label={setting.label} value={String(value)} onChange={onChange} />
    },
  },
  hex: { field: (props) => <HexNumberField {...props} /> },
  byte: { field: (props) => <ByteField {...props} /> },
  bytes: { field: (props) => <BytesField {...props} /> },
  codes: { field: (props) => <CodesField {...props} />, tall: true },
  'line text': { field: (props) => <LineTextField {...props} /> },
  'words of kinds': { field: (props) => <WordsOfKindsField {...props} />, tall: true },
  address: { field: (props) => <AddressField {...props} /> },
  mask: {
    field: ({ setting, value, onChange }) => (
      <BitChips holds={null} mask={Number(value)} label={setting.label} onChange={onChange} atLeastOne />
    ),
  },
  face: {
    field: ({ setting, value, onChange }) => <FaceField label={setting.label} value={value as Face} onChange={onChange} />,
  },
  icon: {
    field: ({ setting, value, onChange }) => <IconField label={setting.label} value={String(value)} onChange={onChange} />,
  },
  states: { field: (props) => <StatesField {...props} />, tall: true },
  rules: { field: (props) => <RulesField {...props} />, tall: true },
  'page rules': { field: (props) => <RulesField {...props} />, tall: true },
  'panel rules': { field: (props) => <RulesField {...props} />, tall: true },
  effects: { field: (props) => <EffectsField {...props} />, tall: true },
}

function JsonField({ setting, value, onChange }: FieldProps) {
  const read = (source: string): unknown => {
    try {
      return JSON.parse(source) as unknown
    } catch {
      return undefined
    }
  }
  return (
    <TextField
      mono
      label={setting.label}
      value={JSON.stringify(value)}
      check={(t) => (read(t) === undefined ? 'Invalid JSON.' : null)}
      onCommit={(t) => onChange(read(t))}
    />
  )
}

/** A value of a variable that stands beside it, by the type of that variable. */
function ValueOfField({ setting, value, onChange, siblings, of }: FieldProps & { of: ValueOf }) {
  const project = useProject()
  const id = siblings[of.variable]
  const holds = holdsOf(project, doesFollow(id) ? id.follows : id)
  const byBit = of.compare !== undefined && String(siblings[of.compare]).endsWith('bit')
  const { label } = setting
  if (of.as === 'bits') return <BitChips holds={holds} mask={Number(value)} label={label} onChange={onChange} atLeastOne />
  if (of.as === 'bit')
    return <BitChoice holds={holds} label={label} bit={Number(value)} onChange={onChange} whole="whole value" />
  if (of.as === 'words' && holds) return <WordsField holds={holds} words={String(value)} label={label} onChange={onChange} />
  if (byBit && holds?.type === 'flags') return <BitChoice holds={holds} label={label} bit={Number(value)} onChange={onChange} />
  if (of.as === 'words') return <TextField label={label} value={String(value)} onCommit={onChange} />
  return (
    <ValueField
      holds={holds?.type === 'text' || byBit ? null : holds}
      value={Number(value)}
      label={label}
      onChange={onChange}
      isStep={of.as === 'step'}
    />
  )
}

/** The field of one setting: fixed, or following a variable where it may. */
export function SettingField(props: FieldProps) {
  const { setting, value, onChange } = props
  const session = useSession()
  const project = useProject()
  const inSentence = useInSentence()
  const hexOf = useColours()
  const follows = setting.follows && doesFollow(value) ? value : null
  /** As it was before it followed: there a variable that is made for it starts. */
  const [lastFixed, setLastFixed] = useState<unknown>(setting.default)
  if (!follows && !sameJson(lastFixed, value)) setLastFixed(value)
  const Field = fields[setting.type.name]?.field ?? (setting.type.items ? ItemsField : JsonField)
  const field = follows ? (
    <VariablePicker
      session={session}
      project={project}
      label={`${setting.label} from variable`}
      value={follows.follows}
      makes={props.nameHint}
      accepts={setting.type.name === 'colour' ? ['colour'] : undefined}
      fresh={freshToFollow(setting.type.name, lastFixed, hexOf)}
      onChange={(id) => onChange({ follows: id })}
    />
  ) : setting.of && !props.mixed ? (
    <ValueOfField {...props} of={setting.of} />
  ) : (
    <Field {...props} Field={SettingField} />
  )
  if (!setting.follows) return field
  return (
    <Group gap={inSentence ? 1 : 4} wrap="nowrap" align={inSentence ? 'center' : 'flex-start'}>
      <div className="grow">{field}</div>
      <ActionIcon
        size={inSentence ? 17 : 25}
        variant={follows ? 'filled' : inSentence ? 'subtle' : 'default'}
        aria-pressed={follows !== null}
        title={follows ? 'use a fixed value' : 'bind to a variable'}
        aria-label={`${setting.label}: bind to a variable`}
        onClick={() => onChange(follows ? lastFixed : { follows: '' })}
      >
        <Link2 size={13} />
      </ActionIcon>
    </Group>
  )
}

/** One setting with its name. */
export function SettingRow(props: FieldProps) {
  const { setting } = props
  return (
    <div className={`${form.setting} ${fields[setting.type.name]?.tall || setting.type.items ? form.tall : ''}`}>
      <label title={setting.hint}>{props.shown ?? setting.label}</label>
      <SettingField {...props} />
    </div>
  )
}
