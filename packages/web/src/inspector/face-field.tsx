import { ActionIcon, Button, Group, Stack } from '@mantine/core'
import { Plus, X } from 'lucide-react'
import { fadeTexts, fadeWays, mostStops, noFace, picturePlaces, type Face } from '@moth-lamp/core/faces'
import { faceOf, usersOf } from '@moth-lamp/core/project'
import type { ReactNode } from 'react'
import type { FaceId, PictureId } from '@moth-lamp/core/base'
import { PicturePicker } from '../controls/picture-picker.tsx'
import { Choice } from '../controls/choice.tsx'
import { ColourField } from '../controls/colour-field.tsx'
import { Pop } from '../controls/pop.tsx'
import { NumberField, TextField, YesNo } from '../controls/fields.tsx'
import { colourWords, useColours } from '../controls/colours.ts'
import { SmallPicture } from '../parts/pixels.tsx'
import { freshId } from '../session/chance.ts'
import { useProject, useSession } from '../session/context.tsx'
import { IconField, Sign } from './icon-field.tsx'
import form from '../parts/fields.module.css'

const fadeCss = (f: Face, from: string, to: string, stops: Face['stops'], hexOf: (stored: string) => string): string => {
  const all = [hexOf(from), ...stops.map(({ at, colour }) => `${hexOf(colour)} ${at}%`), hexOf(to)].join(', ')
  if (f.gradient === 'from the middle') return `radial-gradient(closest-side, ${all})`
  return `linear-gradient(${{ down: 180, right: 90, 'at an angle': f.angle }[f.gradient]}deg, ${all})`
}

/** A face as the browser draws something like it, for a small picture of it. `hexOf`: what a stored colour comes to. */
export const faceCss = (f: Face, hexOf: (stored: string) => string) => ({
  background: f.fill ? (f.fillTo ? fadeCss(f, f.fill, f.fillTo, f.stops, hexOf) : hexOf(f.fill)) : 'transparent',
  border: f.border ? `${Math.min(4, f.borderWidth)}px solid ${hexOf(f.border)}` : '1px solid var(--rule)',
  borderRadius:
    f.shape === 'ellipse'
      ? '50%'
      : f.corners.length
        ? f.corners.map((r) => `${Math.min(10, r)}px`).join(' ')
        : Math.min(10, f.radius),
  ...(f.shade ? { boxShadow: `inset 0 ${Math.min(4, f.shade)}px 3px rgb(0 0 0 / 0.45)` } : {}),
})

/** A picture that comes takes the place of what was drawn. */
const withoutBox: Partial<Face> = { fill: '', fillTo: '', stops: [], border: '', borderTo: '', borderWidth: 0 }

/** A face as a swatch that opens what it is made of. */
export function FaceField({ label, value, onChange }: { label: string; value: Face; onChange(face: Face): void }) {
  const hexOf = useColours()
  const project = useProject()
  const face = faceOf(project, value)
  const named = project.faces[value.named as FaceId]
  const picture = project.pictures[face.picture as PictureId]
  const fill = named
    ? named.name
    : picture
      ? `picture ${picture.name}`
      : colourWords(project, face.fill) || face.icon || 'no fill'
  return (
    <Pop
      position="bottom-start"
      width={282}
      target={
        <Button fullWidth justify="flex-start" aria-label={`${label}: ${fill}`}>
          <span className={form.faceDemo} style={faceCss(face, hexOf)}>
            {face.picture && <SmallPicture id={face.picture} width={28} height={20} />}
            {face.icon && <Sign name={face.icon} size={14} colour={hexOf(face.iconColour)} />}
          </span>
          <span className="cut small">{fill}</span>
        </Button>
      }
    >
      <FaceFields label={label} value={value} onChange={onChange} />
    </Pop>
  )
}

/** Fields of a face; of a shared face, for all its users. */
export function FaceFields({ label, value, onChange }: { label: string; value: Face; onChange(face: Face): void }) {
  const session = useSession()
  const project = useProject()
  const named = project.faces[value.named as FaceId]
  const set = named
    ? (change: Partial<Face>) => void session.edit('set face', { id: named.id, values: { face: { ...named.face, ...change } } })
    : (change: Partial<Face>) => onChange({ ...value, ...change })
  const takeName = () => {
    const id = freshId('face')
    if (session.edit('add face', { id, name: label.toLowerCase(), face: value })) onChange({ ...value, named: id })
  }
  return (
    <Stack gap={5}>
      <strong>{label}</strong>
      <Line name="Shared face">
        <Group gap={4} wrap="nowrap">
          <div className="grow">
            <Choice
              label={`${label}: shared face`}
              value={value.named}
              options={[
                { value: '', label: 'custom' },
                ...project.faceOrder.map((id) => ({ value: id as string, label: project.faces[id]!.name })),
              ]}
              onChange={(id) =>
                onChange(id ? { ...project.faces[id as FaceId]!.face, named: id } : { ...faceOf(project, value), named: '' })
              }
            />
          </div>
          {!named && (
            <ActionIcon
              size={25}
              title="save as shared face (changes apply to all users)"
              aria-label={`${label}: save as shared face`}
              onClick={takeName}
            >
              <Plus size={14} />
            </ActionIcon>
          )}
        </Group>
      </Line>
      {named && <NamedFace id={named.id} label={label} onFree={() => onChange({ ...named.face, named: '' })} />}
      <FaceParts label={label} value={named ? named.face : value} set={set} />
    </Stack>
  )
}

/** The name of a face that others have as well. */
function NamedFace({ id, label, onFree }: { id: FaceId; label: string; onFree(): void }) {
  const session = useSession()
  const project = useProject()
  const { name } = project.faces[id]!
  const users = new Set(usersOf(project, id).map(({ from }) => from)).size
  return (
    <Line name="Face name">
      <Group gap={4} wrap="nowrap">
        <div className="grow">
          <TextField
            label={`${label}: name of the face`}
            value={name}
            isName
            check={(text) => (text.trim() ? null : 'Enter a name.')}
            onCommit={(next) => session.edit('set face', { id, values: { name: next } })}
          />
        </div>
        <Button size="compact-xs" onClick={onFree} title="detach: later changes apply here only">
          detach from {users}
        </Button>
        <ActionIcon
          size={25}
          variant="subtle"
          aria-label={`Delete the face ${name}`}
          title="Delete shared face (widgets keep their look)"
          onClick={() => session.edit('delete face', { id })}
        >
          <X size={14} />
        </ActionIcon>
      </Group>
    </Line>
  )
}

/** Every part of a face, those first that most faces have. */
export function FaceParts({ label, value, set }: { label: string; value: Face; set(change: Partial<Face>): void }) {
  const number = (
    name: string,
    key: 'borderWidth' | 'radius' | 'shade' | 'ridges' | 'pictureKeeps' | 'iconSize',
    max: number,
    more: { zero?: string; why?: string } = {},
  ) => (
    <Line name={name}>
      <NumberField
        label={`${label}: ${name.toLowerCase()}`}
        value={value[key]}
        min={0}
        max={max}
        whole
        unit="px"
        {...more}
        onCommit={(next) => set({ [key]: next })}
      />
    </Line>
  )
  return (
    <>
      <Line name="Shape">
        <Choice
          label={`${label}: shape`}
          value={value.shape}
          options={['box', 'ellipse']}
          onChange={(shape) => set({ shape: shape as Face['shape'] })}
        />
      </Line>
      <Line name="Fill">
        <ColourField optional label={`${label}: fill`} value={value.fill} onCommit={(fill) => set({ fill })} />
      </Line>
      {value.fillTo && <Stops label={label} value={value} set={set} />}
      <Line name="Gradient to">
        <ColourField optional label={`${label}: gradient to`} value={value.fillTo} onCommit={(fillTo) => set({ fillTo })} />
      </Line>
      {(value.fillTo || value.borderTo) && (
        <Line name="Gradient">
          <Group gap={4} wrap="nowrap">
            <div className="grow">
              <Choice
                label={`${label}: direction`}
                value={value.gradient}
                options={fadeWays.map((value) => ({ value, label: fadeTexts[value] }))}
                onChange={(gradient) => set({ gradient: gradient as Face['gradient'] })}
              />
            </div>
            {value.gradient === 'at an angle' && (
              <NumberField
                label={`${label}: angle`}
                value={value.angle}
                min={0}
                max={359}
                whole
                unit="°"
                onCommit={(angle) => set({ angle })}
              />
            )}
          </Group>
        </Line>
      )}
      <Line name="Border">
        <ColourField
          optional
          label={`${label}: border`}
          value={value.border}
          onCommit={(border) => set({ border, borderWidth: border && !value.borderWidth ? 1 : value.borderWidth })}
        />
      </Line>
      {value.border && (
        <>
          {number('Border width', 'borderWidth', 40)}
          <Line name="Border gradient to">
            <ColourField
              optional
              label={`${label}: border gradient to`}
              value={value.borderTo}
              onCommit={(borderTo) => set({ borderTo })}
            />
          </Line>
        </>
      )}
      {value.shape === 'box' && <CornerFields label={label} value={value} set={set} />}
      {number('Inner shadow', 'shade', 40)}
      {number('Grooves, pitch', 'ridges', 40)}
      <Line name="Picture">
        <PicturePicker
          label={`${label}: picture`}
          value={value.picture}
          onChange={(picture) => set({ picture, ...(picture && !value.picture ? withoutBox : {}) })}
        />
      </Line>
      {value.picture &&
        number('9-slice margin', 'pictureKeeps', 400, {
          zero: 'none',
          why: 'edges keep their size, the middle is stretched',
        })}
      <Line name="Icon">
        <IconField
          label={`${label}: icon`}
          value={value.icon}
          onChange={(icon) => set({ icon, iconColour: icon && !value.iconColour ? 'colour:ink' : value.iconColour })}
        />
      </Line>
      {value.icon && (
        <>
          <Line name="Icon colour">
            <ColourField
              label={`${label}: colour of the icon`}
              value={value.iconColour || '#ffffff'}
              onCommit={(iconColour) => set({ iconColour })}
            />
          </Line>
          {number('Icon size', 'iconSize', 400, {
            zero: 'fitted',
            why: 'auto: 2/3 of the shorter side',
          })}
        </>
      )}
      {((value.picture && !value.pictureKeeps) || value.icon) && (
        <Line name="Icon position">
          <Choice
            label={`${label}: position`}
            value={value.pictureAt}
            options={[...picturePlaces]}
            onChange={(pictureAt) => set({ pictureAt: pictureAt as Face['pictureAt'] })}
          />
        </Line>
      )}
    </>
  )
}

/** Colours between the two ends of a gradient. */
function Stops({ label, value, set }: { label: string; value: Face; set(change: Partial<Face>): void }) {
  const { stops } = value
  const change = (k: number, stop: Partial<Face['stops'][number]>) =>
    set({ stops: stops.map((one, i) => (i === k ? { ...one, ...stop } : one)) })
  return (
    <>
      {stops.map((stop, k) => (
        <Line key={k} name={`Stop ${k + 2}`}>
          <Group gap={4} wrap="nowrap">
            <div className="grow">
              <ColourField label={`${label}: colour ${k + 1}`} value={stop.colour} onCommit={(colour) => change(k, { colour })} />
            </div>
            <NumberField
              label={`${label}: stop ${k + 1} position`}
              value={stop.at}
              min={1}
              max={99}
              whole
              unit="%"
              onCommit={(at) => change(k, { at })}
            />
            <ActionIcon
              size={25}
              variant="subtle"
              aria-label={`${label}: remove stop ${k + 1}`}
              onClick={() => set({ stops: stops.filter((_, i) => i !== k) })}
            >
              <X size={14} />
            </ActionIcon>
          </Group>
        </Line>
      ))}
      {stops.length < mostStops && (
        <Line name="">
          <Button
            size="compact-xs"
            onClick={() => set({ stops: [...stops, { at: Math.min(99, (stops.at(-1)?.at ?? 25) + 25), colour: value.fillTo }] })}
          >
            + Colour stop
          </Button>
        </Line>
      )}
    </>
  )
}

const cornerNames = ['top left', 'top right', 'bottom right', 'bottom left']

function CornerFields({ label, value, set }: { label: string; value: Face; set(change: Partial<Face>): void }) {
  const each = value.corners.length === 4
  return (
    <>
      <Line name="Radius">
        {each ? (
          <span className={form.four}>
            {cornerNames.map((name, k) => (
              <NumberField
                key={name}
                label={`${label}: radius ${name}`}
                value={value.corners[k]!}
                min={0}
                max={400}
                whole
                onCommit={(radius) => set({ corners: value.corners.map((one, i) => (i === k ? radius : one)) })}
              />
            ))}
          </span>
        ) : (
          <NumberField
            label={`${label}: radius`}
            value={value.radius}
            min={0}
            max={400}
            whole
            unit="px"
            onCommit={(radius) => set({ radius })}
          />
        )}
      </Line>
      <Line name="">
        <YesNo
          label={`${label}: individual corners`}
          words="individual corners"
          value={each}
          onChange={(own) => set({ corners: own ? cornerNames.map(() => value.radius) : noFace.corners })}
        />
      </Line>
    </>
  )
}

function Line({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className={form.setting}>
      <label>{name}</label>
      {children}
    </div>
  )
}
