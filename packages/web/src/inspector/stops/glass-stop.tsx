import { Button, Group, UnstyledButton } from '@mantine/core'
import { createElement } from 'react'
import { sameJson, type PictureId } from '@moth-lamp/core/base'
import type { FormField } from '@moth-lamp/core/describe'
import { noFace, type Face } from '@moth-lamp/core/faces'
import { heldWith, pixelsPerMm, shownSize, type Project, type Widget } from '@moth-lamp/core/project'
import type { FontSetting } from '@moth-lamp/core/settings'
import { nextState, statesFromWords, widgetKind, type State } from '@moth-lamp/core/widgets'
import { ColourField } from '../../controls/colour-field.tsx'
import { NumberField, TextField } from '../../controls/fields.tsx'
import { Pop } from '../../controls/pop.tsx'
import { useColours } from '../../controls/colours.ts'
import { useSession } from '../../session/context.tsx'
import { SmallPicture } from '../../parts/pixels.tsx'
import { faceCss, FaceFields } from '../face-field.tsx'
import { holdsOf } from '../../parts/lookups.ts'
import { StateFields } from '../record-fields.tsx'
import type { FieldProps } from '../field.ts'
import { FontField } from '../font-field.tsx'
import { ItemsLine } from '../items-field.tsx'
import { SettingField } from '../setting-fields.tsx'
import { LikeLine } from './like-line.tsx'
import { Line, Stop, WideLine } from './stop.tsx'
import styles from './stops.module.css'

/** Stop of the glass: place, text, font and faces of a widget. */
export function GlassStop({ project, widgets }: { project: Project; widgets: Widget[] }) {
  const session = useSession()
  const first = widgets[0]!
  const kind = widgetKind(first.kind)
  const one = widgets.length === 1
  const px = pixelsPerMm(project.panel)
  const size = `${(first.place.width / px).toFixed(1)} × ${(first.place.height / px).toFixed(1)} mm`
  const set = (key: string, value: unknown) =>
    session.edit('set widgets', {
      ids: widgets.map((w) => w.id),
      values: { [key]: value, ...fields.get(key)?.brings },
    })
  /** A face, and with its first picture what that brings. */
  const setFace = (key: string, face: Face) => {
    const picture = project.pictures[face.picture as PictureId]
    const had = (first.settings[key] as Face).picture
    const more = picture && !had ? kind?.sizedFor?.(key, shownSize(picture), first.settings as never) : {}
    session.edit('set widgets', { ids: widgets.map((w) => w.id), values: { [key]: face, ...more } })
  }
  const setFont = (next: (old: FontSetting) => FontSetting) =>
    session.edit('set each widget', {
      each: Object.fromEntries(widgets.map((w) => [w.id, { values: { font: next(w.settings['font'] as FontSetting) } }])),
    })
  const mixed = (key: string) => widgets.some((w) => !sameJson(w.settings[key], first.settings[key]))
  const fields = new Map(one || widgets.every((w) => w.kind === first.kind) ? kind?.settings.list.map((f) => [f.key, f]) : [])
  const typed = fields.has('font') && fields.has('colour')
  const rest = [...fields.values()].filter((field) => isOnGlass(field) && !(typed && field.key === 'colour'))
  return (
    <Stop
      title="On the glass"
      said={one ? `${kind?.label.toLowerCase()} ${first.number} · ${size}` : `${widgets.length} selected`}
    >
      {one && (
        <Line name="Name">
          <TextField
            label="Name of the widget"
            value={first.name}
            isName
            check={(t) => (t.trim() ? null : 'Enter a name.')}
            onCommit={(name) => session.edit('name widget', { id: first.id, name })}
          />
        </Line>
      )}
      {!one && <HeldLine project={project} widgets={widgets} />}
      <PlaceLine widgets={widgets} />
      {rest.map((field) => (
        <Line key={field.key} name={field.label}>
          {createElement(field.type.items ? ItemsOnGlass : SettingField, {
            setting: field,
            value: first.settings[field.key],
            mixed: mixed(field.key),
            nameHint: first.name,
            siblings: first.settings,
            onChange: (value: unknown) => set(field.key, value),
          })}
        </Line>
      ))}
      {typed && (
        <WideLine>
          <Group gap={4} wrap="nowrap">
            <div className="grow">
              <FontField
                label="Font"
                value={first.settings['font'] as FontSetting}
                others={widgets.map((w) => w.settings['font'] as FontSetting)}
                onChange={setFont}
              />
            </div>
            {typeof first.settings['colour'] === 'string' && (
              <ColourField
                swatchOnly
                label="Text colour"
                value={mixed('colour') ? '' : first.settings['colour']}
                onCommit={(colour) => set('colour', colour)}
              />
            )}
          </Group>
        </WideLine>
      )}
      {one && <LikeLine project={project} widget={first} />}
      {one && <Looks widget={first} fields={fields} set={set} setFace={setFace} project={project} />}
    </Stop>
  )
}

const ItemsOnGlass = (props: FieldProps) => <ItemsLine {...props} Field={SettingField} />

/** Of the essential fields those that say what is seen; faces, states, type and what is bound have places of their own. */
const elsewhere = ['font', 'variable', 'rules', 'keypad']
const isOnGlass = (field: FormField): boolean =>
  (field.essential === true || field.type.items !== undefined) &&
  !elsewhere.includes(field.key) &&
  !['face', 'states'].includes(field.type.name)

/** Members of a group, each to be selected alone. */
function HeldLine({ project, widgets }: { project: Project; widgets: Widget[] }) {
  const session = useSession()
  const held = heldWith(project, widgets[0]!.id)
  if (held.length !== widgets.length || !widgets.every((w) => held.includes(w.id))) return null
  return (
    <Line name="Group">
      <Group gap={4}>
        {held.map((id) => (
          <Button
            key={id}
            size="compact-xs"
            variant="default"
            title={`${project.widgets[id]!.kind}: select only this`}
            onClick={() => session.view.set({ widgets: [id], variable: null })}
          >
            {project.widgets[id]!.name}
          </Button>
        ))}
      </Group>
    </Line>
  )
}

function PlaceLine({ widgets }: { widgets: Widget[] }) {
  const session = useSession()
  const shared = (key: keyof Widget['place']) => {
    const [first, ...rest] = widgets.map((w) => w.place[key])
    return rest.every((v) => v === first) ? first! : null
  }
  const setBy = (key: keyof Widget['place']) => (by: (value: number) => number) => {
    const least = key === 'width' || key === 'height' ? 1 : -Infinity
    const places = widgets.map((w) => [w.id, { [key]: Math.max(least, Math.round(by(w.place[key]))) }] as const)
    return session.edit('place widgets', { places: Object.fromEntries(places) })
  }
  const set = (key: keyof Widget['place']) => (value: number) => setBy(key)(() => value)
  const names = { x: 'Left', y: 'Top', width: 'Width of the widget', height: 'Height of the widget' } as const
  return (
    <WideLine>
      <span className={styles.quad}>
        {(['x', 'y', 'width', 'height'] as const).map((key) => (
          <NumberField
            key={key}
            label={names[key]}
            left={key[0]!}
            value={shared(key)}
            whole
            {...(key === 'width' || key === 'height' ? { min: 1 } : {})}
            onCommit={set(key)}
            {...(widgets.length > 1 ? { onChangeEach: setBy(key) } : {})}
          />
        ))}
      </span>
    </WideLine>
  )
}

/** `Face when pressed` → `pressed`. */
const shortName = (label: string): string => label.replace(/ ?face$/i, '').toLowerCase() || 'face'

interface LooksProps {
  widget: Widget
  project: Project
  fields: Map<string, FormField>
  set(key: string, value: unknown): void
  setFace(key: string, face: Face): void
}

/** The faces of a widget as miniatures, each opening what it is made of: at rest and pressed, or one a state. */
function Looks({ widget, fields, set, setFace, project }: LooksProps) {
  const s = widget.settings
  const words = typeof s['text'] === 'string' ? s['text'] : ''
  const ink = typeof s['colour'] === 'string' ? s['colour'] : 'colour:ink'
  const faces = [...fields.values()]
    .filter(({ type }) => type.name === 'face')
    .map(({ key, label }, _, all) => ({ key, name: key === 'face' && all.length > 1 ? 'normal' : shortName(label) }))
  const statesKey = [...fields.values()].find(({ type }) => type.name === 'states')?.key ?? ''
  const states = statesKey ? (s[statesKey] as State[]) : null
  const holds = holdsOf(project, s['variable'])
  const fromWords = states && statesFromWords(states, holds)
  if (!faces.length && !states) return null
  return (
    <div className={styles.states}>
      {faces.map(({ key, name }) => (
        <Mini
          key={key}
          label={fields.get(key)!.label}
          name={name}
          face={s[key] as Face}
          instead={key !== 'face' && !(s[key] as Face).picture ? (s['face'] as Face | undefined)?.picture : ''}
          isPressed={key === 'pressedFace'}
          words={words}
          ink={key === 'pressedFace' && typeof s['pressedColour'] === 'string' && s['sill'] === true ? s['pressedColour'] : ink}
        >
          <FaceFields label={fields.get(key)!.label} value={s[key] as Face} onChange={(face) => setFace(key, face)} />
        </Mini>
      ))}
      {states?.map((state, i) => (
        <Mini
          key={i}
          label={`State ${i + 1}`}
          name={state.meaning || '(no label)'}
          face={state.face}
          words={s['writes'] || !fields.has('writes') ? state.meaning : ''}
          ink={state.textColour}
        >
          <StateFields
            label={`State ${i + 1}`}
            state={state}
            holds={holds}
            set={(next) => set(statesKey, states.with(i, next))}
            remove={() =>
              set(
                statesKey,
                states.filter((_, k) => k !== i),
              )
            }
          />
        </Mini>
      ))}
      {states && (
        <Button size="compact-xs" variant="subtle" onClick={() => set(statesKey, [...states, nextState(states, holds)])}>
          + State
        </Button>
      )}
      {fromWords &&
        !sameJson(
          fromWords.map(({ when }) => when),
          states!.map(({ when }) => when),
        ) && (
          <Button
            size="compact-xs"
            variant="subtle"
            title={holds?.type === 'flags' ? 'one for the bit set, one for it clear' : 'one per value label'}
            onClick={() => set(statesKey, fromWords)}
          >
            Create states from {holds?.type === 'flags' ? 'a bit' : 'value labels'}
          </Button>
        )}
    </div>
  )
}

interface MiniProps {
  label: string
  name: string
  face: Face
  words: string
  ink: string
  /** A picture at rest that the panel shows instead, since this face has none. */
  instead?: string | undefined
  /** Such a picture is darker then. */
  isPressed?: boolean
  children: React.ReactNode
}

function Mini({ label, name, face, words, ink, instead, isPressed, children }: MiniProps) {
  const picture = face.picture || instead
  const hexOf = useColours()
  return (
    <Pop
      position="bottom-start"
      width={282}
      target={
        <UnstyledButton className={styles.state} title={`Edit “${label}”`}>
          <span
            aria-hidden
            className={`${styles.mini} ${face.shape === 'ellipse' ? styles.round : ''}`}
            style={{
              ...faceCss(instead ? noFace : face, hexOf),
              color: hexOf(ink),
              ...(instead && isPressed ? { filter: 'brightness(0.62)' } : {}),
            }}
          >
            {picture ? <SmallPicture id={picture} width={52} height={22} /> : words}
          </span>
          <span className="visually-hidden">{label}: </span>
          {name}
        </UnstyledButton>
      }
    >
      {children}
    </Pop>
  )
}
