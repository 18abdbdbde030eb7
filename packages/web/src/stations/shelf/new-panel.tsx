import { Button, Group, TextInput, UnstyledButton } from '@mantine/core'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { panelSettings } from '@moth-lamp/core/project'
import { DescribedNumber } from '../../parts/described-number.tsx'
import { glassSizes } from '../../parts/glass-sizes.ts'
import { api } from '../../session/api.ts'
import { said } from './said.ts'
import styles from './shelf.module.css'

interface Glass {
  width: number
  height: number
  inches: number
}

/** Of the screen for a millimetre of glass. */
const pxPerMm = 0.86
const fingerMm = 9

const mmOf = ({ width, height, inches }: Glass): { width: number; height: number } => {
  const perMm = Math.hypot(width, height) / (inches * 25.4)
  return { width: width / perMm, height: height / perMm }
}

/** A new panel: its name, and its glass among the usual ones, all drawn to one scale beside a fingertip. */
export function NewPanel({ onClose, onMade }: { onClose(): void; onMade(id: string): void }) {
  const [name, setName] = useState('')
  const [glass, setGlass] = useState<Glass>(glassSizes[4])
  const make = useMutation({
    mutationFn: () =>
      api.create({ name: name.trim() || 'New project', width: glass.width, height: glass.height, diagonalInches: glass.inches }),
    onSuccess: ({ id }) => onMade(id),
  })
  return (
    <form
      className={styles.newPanel}
      aria-label="New project"
      onSubmit={(e) => {
        e.preventDefault()
        make.mutate()
      }}
      onKeyDown={(e) => e.key === 'Escape' && onClose()}
    >
      <Group gap={12}>
        <h2>New project</h2>
        <TextInput
          aria-label="Name"
          w={250}
          value={name}
          maxLength={60}
          autoFocus
          placeholder="New project"
          onChange={(e) => setName(e.currentTarget.value)}
        />
        <span className="muted small">Protocol: lamp binary, 19 200 Bd (can be changed later)</span>
        <Group gap={6} ml="auto">
          <Button type="button" onClick={onClose}>
            Cancel{' '}
            <span className="key" aria-hidden>
              Esc
            </span>
          </Button>
          <Button variant="filled" type="submit" disabled={make.isPending}>
            Create ⏎
          </Button>
        </Group>
      </Group>
      <div className={styles.scaleHead}>
        <strong>Glass size</strong> <span className="small muted">drawn to scale; the dot is a {fingerMm} mm fingertip</span>
      </div>
      <div className={styles.sizes} role="group" aria-label="Glass size">
        {glassSizes.map((s) => {
          const mm = mmOf(s)
          const here = s.width === glass.width && s.height === glass.height && s.inches === glass.inches
          return (
            <UnstyledButton
              type="button"
              key={`${s.width} ${s.height} ${s.inches}`}
              aria-pressed={here}
              onClick={() => setGlass(s)}
              // Picked already, Enter goes on.
              onKeyDown={(e) => {
                if (e.key !== 'Enter' || !here) return
                e.preventDefault()
                e.currentTarget.form?.requestSubmit()
              }}
            >
              <i style={{ width: mm.width * pxPerMm, height: mm.height * pxPerMm }}>
                <b style={{ width: fingerMm * pxPerMm, height: fingerMm * pxPerMm }} />
              </i>
              <strong className="mono">
                {s.width} × {s.height}
              </strong>
              <span className="small muted">
                {s.inches}″ · {Math.round(mm.width)} × {Math.round(mm.height)} mm
              </span>
            </UnstyledButton>
          )
        })}
        <div className={styles.own}>
          <DescribedNumber
            field={panelSettings.fields.width}
            left="w"
            value={glass.width}
            onCommit={(width) => setGlass({ ...glass, width })}
          />
          <DescribedNumber
            field={panelSettings.fields.height}
            left="h"
            value={glass.height}
            onCommit={(height) => setGlass({ ...glass, height })}
          />
          <DescribedNumber
            field={panelSettings.fields.diagonalInches}
            left="⌀"
            value={glass.inches}
            onCommit={(inches) => setGlass({ ...glass, inches })}
          />
          <Button type="button" onClick={() => setGlass({ ...glass, width: glass.height, height: glass.width })}>
            Rotate 90°
          </Button>
        </div>
      </div>
      {make.isError && (
        <p className="bad" role="alert">
          {said(make.error)}
        </p>
      )}
    </form>
  )
}
