import { Button, FileButton, Group, UnstyledButton } from '@mantine/core'
import type { ReactNode } from 'react'
import { sortedLetters, type LetterSpec } from '@moth-lamp/core/artwork'
import { letterBytes } from '@moth-lamp/core/compile'
import { isStyleRole, type TypeStyle } from '@moth-lamp/core/palette'
import { typefaceOf } from '@moth-lamp/core/project'
import { hasGlyph, smoothings, textWidth, type GlyphSheet, type Smoothing } from '@moth-lamp/core/raster'
import { textMargin } from '@moth-lamp/core/widgets'
import { Choice } from '../../controls/choice.tsx'
import { NumberField, TextField } from '../../controls/fields.tsx'
import { OwnNumber } from './own-number.tsx'
import { LetterField } from '../../parts/letter-field.tsx'
import { freshId } from '../../session/chance.ts'
import { bundled, fontFiles, takeBundled, takeFontFile } from '../../session/typefaces.ts'
import { useProject, useSession } from '../../session/context.tsx'
import { keysOf, lettersOf, sampleOf, textsOf, type FontInUse } from './fonts.ts'
import { useChunk } from '../../parts/pixels.tsx'
import { bytesWords } from './words.ts'
import { sheetOfChunk, Written } from './written.tsx'
import { DeleteUsed } from '../../parts/delete-used.tsx'
import styles from './artwork.module.css'
import station from '../../parts/station.module.css'

/** Texts for the licence of a typeface. */
const licences = {
  unsaid: 'embedding: not stated',
  installable: 'embedding: installable',
  editable: 'embedding: editable',
  whole: 'embedding: no subsetting; a panel needs a subset',
  preview: 'embedding: preview only',
  restricted: 'embedding: restricted',
} as const

/** How the letters of one font are made, which it has, and how its texts come out. */
export function FontRecipe({ font }: { font: FontInUse }) {
  const session = useSession()
  const project = useProject()
  const { style, spec } = font
  const letters = lettersOf(font)
  const typeface = typefaceOf(project, font.font)
  const set = (values: Partial<TypeStyle>) => void (style && session.edit('set style', { id: style.id, values }))
  const makeNamed = () => {
    const id = freshId('style')
    session.edit('name font', { id, name: font.name, font: font.font, widgets: keysOf(font) })
  }
  return (
    <section className={station.card} aria-label={`Font ${font.name}`}>
      <header>
        <div className="grow">
          {style && !isStyleRole(style.id) ? (
            <TextField
              label="Name of the font"
              value={style.name}
              isName
              check={(text) => (text.trim() ? null : 'Enter a name.')}
              onCommit={(name) => set({ name })}
            />
          ) : (
            <h2>{font.name}</h2>
          )}
        </div>
        {style && <OwnNumber of="font" value={style.number} onCommit={(number) => set({ number })} />}
        {!style && (
          <Button onClick={makeNamed} title="save this typeface and size as a project font; its users get it">
            Save as project font
          </Button>
        )}
        {style && !isStyleRole(style.id) && (
          <DeleteUsed
            key={style.id}
            name={style.name}
            users={[...new Set(font.users.map(({ widget }) => widget.name))]}
            then="Its texts use “caption” instead."
            onDelete={() => session.edit('delete style', { id: style.id })}
          />
        )}
      </header>
      <div className={styles.recipe}>
        <p className="small muted">
          {font.users.length
            ? `in ${[...new Set(font.users.map(({ widget }) => widget.name))].slice(0, 8).join(', ')}${font.users.length > 8 ? ' …' : ''}`
            : 'unused'}
        </p>
        <Written spec={spec} letters={letters} text={sampleOf(font)} label="Sample texts" width={560} />
        {style && (
          <div className={styles.fields}>
            <TypefaceFields font={font} set={set} />
            <div>
              <label>Size, 6 to 200</label>
              <NumberField
                label="Size of the font"
                value={style.size}
                min={6}
                max={200}
                whole
                unit="px"
                onCommit={(size) => set({ size })}
              />
            </div>
            {typeface && typeface.weightTo > 0 && (
              <div>
                <label>
                  Weight, {typeface.weightFrom} to {typeface.weightTo}
                </label>
                <NumberField
                  label="Weight of the font"
                  value={style.weight || typeface.weightFrom}
                  min={typeface.weightFrom}
                  max={typeface.weightTo}
                  whole
                  onCommit={(weight) => set({ weight })}
                />
              </div>
            )}
          </div>
        )}
        {typeface && (
          <p className="small muted">
            {typeface.name}: {licences[typeface.embedding]}.
          </p>
        )}
        <Part title="Anti-aliasing" detail="bits per pixel and flash size">
          <div className={styles.smoothings} role="radiogroup" aria-label="Anti-aliasing">
            {smoothings.map((bits) => (
              <SmoothingCard key={bits} font={font} letters={letters} bits={bits} onChoose={style ? () => set({ bits }) : null} />
            ))}
          </div>
        </Part>
        <WidestTexts font={font} letters={letters} />
        <Part title={`Character set, ${[...letters].length}`} detail="used by texts, states, units, keypads and host data">
          <LetterGrid spec={spec} letters={letters} />
          {style && (
            <div className={styles.more}>
              <label>Extra characters</label>
              <LetterField
                label="Extra characters"
                value={style.more}
                placeholder="characters to include in any case"
                onChange={(more) => set({ more })}
              />
            </div>
          )}
        </Part>
      </div>
    </section>
  )
}

function Part({ title, detail, children }: { title: string; detail?: string; children: ReactNode }) {
  return (
    <div className={styles.part} role="group" aria-label={title}>
      <h3>
        {title} {detail && <span className="small muted">{detail}</span>}
      </h3>
      {children}
    </div>
  )
}

/** Which typeface it is set in, and where letters come from that it lacks. */
function TypefaceFields({ font, set }: { font: FontInUse; set(values: Partial<TypeStyle>): void }) {
  const session = useSession()
  const project = useProject()
  const typeface = typefaceOf(project, font.font)
  const own = project.typefaceOrder.map((id) => ({
    value: id as string,
    label: project.typefaces[id]!.name,
    group: 'In the project',
  }))
  const names = new Set(own.map(({ label }) => label))
  const boxed = bundled
    .filter(({ name }) => !names.has(name))
    .map(({ name, use }) => ({ value: name, label: name, detail: use, group: 'Included' }))
  /** One of the project, or one that comes with the program, which is taken in first. */
  const choose = (value: string, then: (id: string) => void) => {
    const one = bundled.find(({ name }) => name === value)
    if (one) void takeBundled(session, one).then((id) => id && then(id))
    else then(value)
  }
  return (
    <>
      <div className={styles.wide}>
        <label>Typeface</label>
        <Group gap={4} wrap="nowrap">
          <div className="grow">
            <Choice
              label="Typeface"
              value={font.font.typeface}
              options={[...own, ...boxed]}
              onChange={(value) => choose(value, (id) => set({ typeface: id }))}
            />
          </div>
          <FileButton
            accept={fontFiles}
            onChange={(file) => file && void takeFontFile(session, file).then((id) => id && set({ typeface: id }))}
          >
            {(props) => (
              <Button {...props} title="TrueType, OpenType, WOFF or WOFF2; up to 8 MB">
                File …
              </Button>
            )}
          </FileButton>
        </Group>
      </div>
      {typeface && (
        <div className={styles.wide}>
          <label>Fallback font</label>
          <Choice
            label="Fallback font"
            value={typeface.fallback}
            options={[{ value: '', label: 'none (empty box)' }, ...own.filter(({ value }) => value !== typeface.id), ...boxed]}
            onChange={(value) =>
              choose(value, (id) => session.edit('set typeface', { id: typeface.id, values: { fallback: id } }))
            }
          />
        </div>
      )}
    </>
  )
}

function SmoothingCard(props: { font: FontInUse; letters: string; bits: Smoothing; onChoose: (() => void) | null }) {
  const { font, letters, bits, onChoose } = props
  const spec = { ...font.spec, bits }
  const chunk = useChunk({ make: 'letters', ...spec, letters: sortedLetters(letters) })
  const { drawsLetters } = useProject().panel
  const bytes = chunk && letterBytes(chunk.parts.metrics, (chunk.parts.kerning?.length ?? 0) / 3, bits)
  const text = sampleOf(font).slice(0, 10)
  return (
    <UnstyledButton
      className={styles.way}
      role="radio"
      aria-checked={font.spec.bits === bits}
      disabled={!onChoose}
      onClick={onChoose ?? undefined}
    >
      <Written spec={spec} letters={letters} text={text} label={`Sample with ${bits} bit`} width={120} />
      <strong>{bits === 1 ? '1 bit' : `${bits} bits`}</strong>
      <span className="small muted mono">{drawsLetters ? 'as outlines' : bytes === null ? '…' : bytesWords(bytes)}</span>
    </UnstyledButton>
  )
}

/** The texts that need most of their places. */
function WidestTexts({ font, letters }: { font: FontInUse; letters: string }) {
  const chunk = useChunk({ make: 'letters', ...font.spec, letters: sortedLetters(letters + textsOf(font).join('')) })
  if (!chunk) return null
  const sheet = sheetOfChunk(chunk)
  const rows = font.users
    .flatMap(({ widget, texts }) =>
      texts.map((text) => ({ widget, text, wide: textWidth(sheet, text), room: widget.place.width - 2 * textMargin })),
    )
    .sort((a, b) => b.wide / b.room - a.wide / a.room)
    .slice(0, 5)
  if (!rows.length) return null
  return (
    <Part title="Widest texts" detail="and available width">
      <div className={styles.widest}>
        {rows.map(({ widget, text, wide, room }, k) => (
          <div key={k}>
            <Written
              spec={font.spec}
              letters={letters + textsOf(font).join('')}
              text={text}
              label={`“${text}” on the glass`}
              width={330}
            />
            <span className="small cut">{widget.name}</span>
            <span className={`small mono ${wide > room ? 'bad' : 'muted'}`}>
              {wide > room ? `${wide - room} px over` : `${wide} of ${room} px`}
            </span>
          </div>
        ))}
      </div>
    </Part>
  )
}

const gridWidth = 600

/** Letters in as many lines as they need. */
function linesOf(sheet: GlyphSheet, letters: readonly string[]): string[] {
  const lines: string[] = ['']
  for (const letter of letters) {
    if (textWidth(sheet, lines.at(-1)! + letter) > gridWidth - 10) lines.push('')
    lines.push(`${lines.pop()!}${letter}`)
  }
  return lines
}

/** Every letter as it is drawn; one that no typeface has is told. */
function LetterGrid({ spec, letters }: { spec: LetterSpec; letters: string }) {
  const request = { make: 'letters' as const, ...spec, letters: sortedLetters(letters) }
  const chunk = useChunk(request)
  const sheet = chunk && sheetOfChunk(chunk)
  const lacking = sheet ? [...letters].filter((letter) => !hasGlyph(sheet, letter.codePointAt(0)!)) : []
  return (
    <>
      <div className={styles.letters}>
        {(sheet
          ? linesOf(
              sheet,
              [...letters].filter((letter) => !lacking.includes(letter)),
            )
          : []
        ).map((line, k) => (
          <Written key={k} spec={spec} letters={letters} text={line} label={`Letters: ${line}`} width={gridWidth} />
        ))}
      </div>
      {lacking.length > 0 && (
        <p className="small">
          <strong className="bad">Missing</strong> <span className="mono">{lacking.join(' ')}</span> (shown as boxes)
        </p>
      )}
    </>
  )
}
