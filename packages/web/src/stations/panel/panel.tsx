import { Box, Button } from '@mantine/core'
import { Disclosure } from '../../controls/disclosure.tsx'
import { TextField } from '../../controls/fields.tsx'
import type { NamedField } from '@moth-lamp/core/describe'
import { linkInWords, linkSettings } from '@moth-lamp/core/frames'
import { conductSettings, panelSettings } from '@moth-lamp/core/project'
import { SettingRow } from '../../inspector/setting-fields.tsx'
import { FindingBar } from '../../parts/finding-bar.tsx'
import { useProject, useSession } from '../../session/context.tsx'
import { GlassPicture } from './glass-picture.tsx'
import { Ladder } from './ladder.tsx'
import { LinePicture } from './line-picture.tsx'
import { MemoryBar } from './memory-bar.tsx'
import { PanelProfiles } from './panel-profiles.tsx'
import styles from './panel.module.css'
import form from '../../parts/fields.module.css'
import station from '../../parts/station.module.css'

function ProjectNameField() {
  const session = useSession()
  const name = useProject().name
  return (
    <TextField
      label="Project name"
      value={name}
      isName
      check={(t) => (t.trim() ? null : 'Enter a name.')}
      onCommit={(value) => session.edit('set project', { values: { name: value } })}
    />
  )
}

/** Every setting of a record by its description, under the headings of its groups, but those that stand in a picture. */
function Described({
  list,
  shown,
  values,
  set,
}: {
  list: readonly NamedField<never>[]
  shown: readonly string[]
  values: Record<string, unknown>
  set(values: Record<string, unknown>): void
}) {
  const rest = list.filter((field) => !shown.includes(field.key))
  return (
    <div className={styles.described}>
      {[...new Set(rest.map((field) => field.group))].map((group) => (
        <div key={group}>
          <div className={form.group}>{group}</div>
          {rest
            .filter((field) => field.group === group)
            .map((field) => (
              <SettingRow
                key={field.key}
                setting={field}
                value={values[field.key]}
                mixed={false}
                nameHint=""
                siblings={values}
                onChange={(value) => set({ [field.key]: value })}
              />
            ))}
        </div>
      ))}
    </div>
  )
}

/** Settings in the pictures, left out of the lists. */
const inPictures = {
  panel: ['width', 'height', 'diagonalInches', 'finger', 'memoryFrom', 'memoryTo', 'ownFrom'],
  link: ['baud', 'parity', 'stopBits', 'answers', 'confirm', 'confirmTimeoutMs', 'tries', 'latencyMs', 'aliveMs'],
}

/** The module as a picture: its glass to scale, its line byte by byte, its memory from end to end. */
export function PanelStation() {
  const session = useSession()
  const project = useProject()
  const { panel, link } = project
  return (
    <div className={`${station.pad} ${styles.columns}`}>
      <section className={station.card} aria-label="Panel">
        <header>
          <h2>The glass</h2>
          <Box component="span" w={180}>
            <ProjectNameField />
          </Box>
          <Button
            className="end"
            onClick={() => session.edit('set panel', { values: { width: panel.height, height: panel.width } })}
          >
            Rotate 90°
          </Button>
          <PanelProfiles />
        </header>
        <div className={station.body}>
          <GlassPicture project={project} />
          <Disclosure title="All settings of the panel">
            <Described
              list={panelSettings.list}
              shown={inPictures.panel}
              values={panel}
              set={(values) => session.edit('set panel', { values })}
            />
          </Disclosure>
        </div>
      </section>
      <section className={station.card} aria-label="Link">
        <header>
          <h2>Serial line</h2>
          <span className="end muted small">{linkInWords(link)}</span>
        </header>
        <div className={station.body}>
          <LinePicture project={project} />
          <Ladder project={project} />
          {linkSettings.list.some((field) => !inPictures.link.includes(field.key)) && (
            <Disclosure title="All settings of the line">
              <Described
                list={linkSettings.list}
                shown={inPictures.link}
                values={link}
                set={(values) => session.edit('set link', { values })}
              />
            </Disclosure>
          )}
        </div>
      </section>
      <section className={`${station.card} ${styles.whole}`} aria-label="Memory">
        <MemoryBar project={project} />
      </section>
      <section className={`${station.card} ${styles.whole}`} aria-label="Behaviour">
        <header>
          <h2>Behaviour</h2>
          <span className="muted small">touch beep, dimming, home page, access levels, units, date formats, panel actions</span>
        </header>
        <div className={station.body}>
          <Described
            list={conductSettings.list}
            shown={[]}
            values={project.conduct}
            set={(values) => session.edit('set conduct', { values })}
          />
        </div>
      </section>
      <div className={styles.whole}>
        <FindingBar station="Panel" />
      </div>
    </div>
  )
}
