import { ActionIcon, Button, ColorSwatch, Group, SegmentedControl, SimpleGrid, Stack, UnstyledButton } from '@mantine/core'
import { Plus, X } from 'lucide-react'
import { sameJson } from '@moth-lamp/core/base'
import {
  contrastOf,
  isRole,
  isStyleRole,
  lookNames,
  palettes,
  roleMeanings,
  shownOnGlass,
  type ColourRole,
  type Look,
  type NamedColour,
  type TypeStyle,
} from '@moth-lamp/core/palette'
import { fontOf, type Project } from '@moth-lamp/core/project'
import { Choice } from '../../controls/choice.tsx'
import { TextField } from '../../controls/fields.tsx'
import { Pop } from '../../controls/pop.tsx'
import { FontField, fontWords } from '../../inspector/font-field.tsx'
import { useLook } from '../../controls/colours.ts'
import { freshId } from '../../session/chance.ts'
import { useSession } from '../../session/context.tsx'
import { PlainColour } from './plain-colour.tsx'
import form from '../../parts/fields.module.css'
import styles from './pages.module.css'

/** The colours and fonts of the project by name: a change here reaches every widget that uses them. */
export function ThemeSettings({ project }: { project: Project }) {
  const session = useSession()
  const look = useLook()
  return (
    <section aria-label="Theme" className="stack">
      <div className={form.setting}>
        <label>Palette</label>
        <Choice
          label="Palette"
          value={paletteOf(project)}
          placeholder="custom"
          options={palettes.map((p) => ({ value: p.name, label: p.name, detail: p.meaning }))}
          onChange={(palette) => session.edit('use palette', { palette })}
        />
      </div>
      <div className={form.setting}>
        <label title="with both, the system variable look selects one">Themes</label>
        <Group gap={6} wrap="nowrap">
          <Choice
            label="Themes"
            value={project.looks}
            options={[
              { value: 'night', label: 'night' },
              { value: 'day', label: 'day' },
              { value: 'both', label: 'both' },
            ]}
            onChange={(looks) => session.edit('set looks', { looks })}
          />
          {project.looks === 'both' && (
            <SegmentedControl
              size="xs"
              aria-label="Preview theme"
              data={[...lookNames]}
              value={look}
              onChange={(next) => session.showLook(next as Look)}
            />
          )}
        </Group>
      </div>
      <div className="row">
        <h2 className="grow">Colours</h2>
        <span className="muted small">contrast on background</span>
      </div>
      <SimpleGrid cols={2} spacing={2} verticalSpacing={1} role="group" aria-label="Colours">
        {project.colourOrder.map((id) => (
          <NamedColourButton key={id} project={project} colour={project.colours[id]!} look={look} />
        ))}
      </SimpleGrid>
      <Group gap={4} my={4}>
        <Button
          size="compact-xs"
          variant="subtle"
          leftSection={<Plus size={12} />}
          onClick={() => session.edit('add colour', { id: freshId('colour'), name: 'Colour 1', ...colourToBeginWith(project) })}
        >
          Colour
        </Button>
      </Group>
      <h2>Fonts</h2>
      {project.styleOrder.map((id) => (
        <StyleRow key={id} project={project} style={project.styles[id]!} />
      ))}
      <Group gap={4} my={4}>
        <Button
          size="compact-xs"
          variant="subtle"
          leftSection={<Plus size={12} />}
          onClick={() => session.edit('add style', { id: freshId('style'), name: 'Font 1', ...fontOf(project, 'style:caption') })}
        >
          Font
        </Button>
      </Group>
    </section>
  )
}

const colourToBeginWith = ({ colours }: Project) => ({
  night: colours['colour:accent']?.night ?? '#808080',
  day: colours['colour:accent']?.day ?? '#808080',
})

/** The palette whose ten colours the project has as they are; '' for none. */
const paletteOf = (project: Project): string =>
  palettes.find((p) =>
    Object.entries(p.colours).every(([role, [night, day]]) => {
      const has = project.colours[`colour:${role}`]
      return sameJson([has?.night, has?.day], [night, day])
    }),
  )?.name ?? ''

/** One colour: what it is by night and by day, and how well it is read. */
function NamedColourButton({ project, colour, look }: { project: Project; colour: NamedColour; look: Look }) {
  const session = useSession()
  const own = !isRole(colour.id)
  const set = (values: Partial<NamedColour>) => session.edit('set colour', { id: colour.id, values })
  const shown = project.looks === 'both' ? lookNames : [project.looks]
  return (
    <Pop
      position="bottom-start"
      width={276}
      target={
        <UnstyledButton className={styles.colour} title={own ? undefined : roleMeanings[colour.name as ColourRole]}>
          <ColorSwatch color={colour[look]} size={16} radius={4} withShadow />
          <span className="cut grow">{colour.name}</span>
          <span className="muted small">{ratio(project, colour.id, look)} : 1</span>
        </UnstyledButton>
      }
    >
      <Stack gap={5}>
        {own ? (
          <Group gap={4} wrap="nowrap">
            <div className="grow">
              <TextField
                label="Name of the colour"
                value={colour.name}
                isName
                check={(t) => (t.trim() ? null : 'Enter a name.')}
                onCommit={(name) => set({ name })}
              />
            </div>
            <ActionIcon
              size={25}
              variant="subtle"
              aria-label={`Delete ${colour.name}`}
              title="Delete; widgets keep the colour"
              onClick={() => session.edit('delete colour', { id: colour.id })}
            >
              <X size={14} />
            </ActionIcon>
          </Group>
        ) : (
          <strong>
            {colour.name} <span className="muted small">{roleMeanings[colour.name as ColourRole]}</span>
          </strong>
        )}
        {shown.map((which) => (
          <div key={which}>
            <div className={form.setting}>
              <label>{which === 'night' ? 'Night value' : 'Day value'}</label>
              <PlainColour
                label={`${colour.name}, ${which} value`}
                value={colour[which]}
                onCommit={(hex) => set({ [which]: hex })}
              />
            </div>
            <p className="muted small">
              on the glass <span className="mono">{shownOnGlass(colour[which])}</span>, {contrasts(project, colour.id, which)}
            </p>
          </div>
        ))}
      </Stack>
    </Pop>
  )
}

const against = ({ colours }: Project, id: NamedColour['id'], role: 'ground' | 'surface', look: Look): number =>
  contrastOf(colours[id]![look], colours[`colour:${role}`]?.[look] ?? '#000000')
/** Contrast on the ground; of the ground itself, with the ink on it. */
const ratio = ({ colours }: Project, id: NamedColour['id'], look: Look): string => {
  const other = id === 'colour:ground' || id === 'colour:surface' ? 'colour:ink' : 'colour:ground'
  return contrastOf(colours[id]![look], colours[other]?.[look] ?? '#000000').toFixed(1)
}
const contrasts = (project: Project, id: NamedColour['id'], look: Look): string =>
  `${against(project, id, 'ground', look).toFixed(1)} : 1 on background, ${against(project, id, 'surface', look).toFixed(1)} on surface`

function StyleRow({ project, style }: { project: Project; style: TypeStyle }) {
  const session = useSession()
  const own = !isStyleRole(style.id)
  const set = (values: Partial<TypeStyle>) => session.edit('set style', { id: style.id, values })
  return (
    <div className={`${form.setting} ${styles.type}`} title={fontWords(project, style.id)}>
      {own ? (
        <Group gap={0} wrap="nowrap">
          <div className="grow">
            <TextField
              label="Name of the font"
              value={style.name}
              isName
              check={(t) => (t.trim() ? null : 'Enter a name.')}
              onCommit={(name) => set({ name })}
            />
          </div>
          <ActionIcon
            size={20}
            variant="subtle"
            aria-label={`Delete ${style.name}`}
            onClick={() => session.edit('delete style', { id: style.id })}
          >
            <X size={12} />
          </ActionIcon>
        </Group>
      ) : (
        <label>{style.name}</label>
      )}
      <FontField
        plain
        label={`Font ${style.name}`}
        value={{ typeface: style.typeface, size: style.size }}
        onChange={(next) => set(next({ typeface: style.typeface, size: style.size }) as Partial<TypeStyle>)}
      />
    </div>
  )
}
