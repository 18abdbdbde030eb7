import { Button, Stack } from '@mantine/core'
import { picturePlaces, type Face } from '@moth-lamp/core/faces'
import type { ReactNode } from 'react'
import type { PictureId } from '@moth-lamp/core/base'
import { PicturePicker } from '../controls/picture-picker.tsx'
import { Choice } from '../controls/choice.tsx'
import { ColourField } from '../controls/colour-field.tsx'
import { Pop } from '../controls/pop.tsx'
import { NumberField } from '../controls/fields.tsx'
import { colourWords, useColours } from '../parts/colours.ts'
import { useProject } from '../shell/context.tsx'
import form from './fields.module.css'

/** A face as the browser draws something like it, for a small picture of it. `hexOf`: what a stored colour comes to. */
export const faceCss = (f: Face, hexOf: (stored: string) => string) => ({
  background: f.fill
    ? f.fillTo
      ? `linear-gradient(${f.gradient === 'down' ? '180deg' : '90deg'}, ${hexOf(f.fill)}, ${hexOf(f.fillTo)})`
      : hexOf(f.fill)
    : 'transparent',
  border: f.border ? `${Math.min(4, f.borderWidth)}px solid ${hexOf(f.border)}` : '1px solid var(--rule)',
  borderRadius: f.shape === 'ellipse' ? '50%' : Math.min(10, f.radius),
})

/** A face as a swatch that opens what it is made of. */
export function FaceField({ label, value, onChange }: { label: string; value: Face; onChange(face: Face): void }) {
  const hexOf = useColours()
  const project = useProject()
  const picture = project.pictures[value.picture as PictureId]
  const fill = picture ? `picture ${picture.name}` : colourWords(project, value.fill) || 'no fill'
  return (
    <Pop
      position="left"
      width={270}
      target={
        <Button fullWidth justify="flex-start" aria-label={`${label}: ${fill}`}>
          <span className={form.faceDemo} style={faceCss(value, hexOf)} />
          <span className="cut small">{fill}</span>
        </Button>
      }
    >
      <FaceFields label={label} value={value} onChange={onChange} />
    </Pop>
  )
}

/** What a face is made of. */
export function FaceFields({ label, value, onChange }: { label: string; value: Face; onChange(face: Face): void }) {
  const set = (change: Partial<Face>) => onChange({ ...value, ...change })
  return (
    <Stack gap={5}>
      <strong>{label}</strong>
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
      <Line name="Fades to">
        <ColourField optional label={`${label}: fades to`} value={value.fillTo} onCommit={(fillTo) => set({ fillTo })} />
      </Line>
      <Line name="Fades">
        <Choice
          label={`${label}: direction`}
          value={value.gradient}
          options={['down', 'right']}
          onChange={(gradient) => set({ gradient: gradient as Face['gradient'] })}
        />
      </Line>
      <Line name="Border">
        <ColourField
          optional
          label={`${label}: border`}
          value={value.border}
          onCommit={(border) => set({ border, borderWidth: border && !value.borderWidth ? 1 : value.borderWidth })}
        />
      </Line>
      <Line name="Border width">
        <NumberField
          label={`${label}: border width`}
          value={value.borderWidth}
          min={0}
          max={40}
          whole
          unit="px"
          onCommit={(borderWidth) => set({ borderWidth })}
        />
      </Line>
      <Line name="Radius">
        <NumberField
          label={`${label}: radius`}
          value={value.radius}
          min={0}
          max={400}
          whole
          unit="px"
          onCommit={(radius) => set({ radius })}
        />
      </Line>
      <Line name="Picture">
        <PicturePicker label={`${label}: picture`} value={value.picture} onChange={(picture) => set({ picture })} />
      </Line>
      {value.picture && (
        <Line name="Stands">
          <Choice
            label={`${label}: where it stands`}
            value={value.pictureAt}
            options={[...picturePlaces]}
            onChange={(pictureAt) => set({ pictureAt: pictureAt as Face['pictureAt'] })}
          />
        </Line>
      )}
    </Stack>
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
