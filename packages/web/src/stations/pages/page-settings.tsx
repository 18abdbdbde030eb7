import { Box, Button } from '@mantine/core'
import { sameJson } from '@moth-lamp/core/base'
import type { Face } from '@moth-lamp/core/faces'
import type { FormField, Values } from '@moth-lamp/core/describe'
import { pageKinds, pageSettings, type Page, type Project } from '@moth-lamp/core/project'
import { Choice } from '../../controls/choice.tsx'
import { Disclosure } from '../../controls/disclosure.tsx'
import { NumberField, TextField } from '../../controls/fields.tsx'
import { FaceField } from '../../inspector/face-field.tsx'
import { SettingRow } from '../../inspector/setting-fields.tsx'
import { useSession } from '../../session/context.tsx'
import { SplashForm } from './splash-form.tsx'
import form from '../../parts/fields.module.css'

const kindWords: Record<Page['kind'], string> = {
  page: 'a full page',
  layer: 'shown with the pages that share it',
  'pop-up': 'opens above a page',
  keypad: 'a pop-up that an entry opens',
}

/** The groups of a page's settings, in the order of the description; its background has a row of its own. */
function groupsOf(list: readonly FormField[]): [string, readonly FormField[]][] {
  const shown = list.filter(({ key }) => key !== 'background')
  return [...new Set(shown.map(({ group }) => group))].map((group) => [group, shown.filter((f) => f.group === group)])
}

/** How many of these settings differ from their default, for a fold that is closed. */
function setInWords(fields: readonly FormField[], page: Page): string {
  const count = fields.filter((f) => !sameJson((page as unknown as Values)[f.key], f.default)).length
  return count ? `${count} set` : ''
}

/** The settings of a page. */
export function PageSettings({ project, page }: { project: Project; page: Page }) {
  const session = useSession()
  const set = (values: Partial<Page>) => session.edit('set page', { id: page.id, values })
  const at = project.pageOrder.indexOf(page.id)
  return (
    <Box component="section" aria-label="Page settings" className="stack" pt={6}>
      <div className="row">
        <h2 className="grow">Page {page.number}</h2>
        <span className="muted small">{page.widgets.length === 1 ? '1 widget' : `${page.widgets.length} widgets`}</span>
      </div>
      <div className={form.setting}>
        <label>Name</label>
        <TextField
          label="Name of the page"
          value={page.name}
          isName
          check={(t) => (t.trim() ? null : 'Enter a name.')}
          onCommit={(name) => set({ name })}
        />
      </div>
      <div className={form.setting}>
        <label>Kind</label>
        <Choice
          label="Kind of page"
          value={page.kind}
          disabled={project.startPage === page.id}
          options={pageKinds.map((kind) => ({ value: kind, label: kind, detail: kindWords[kind] }))}
          onChange={(kind) => set({ kind: kind as Page['kind'] })}
        />
      </div>
      <div className={form.setting}>
        <label>Number</label>
        <NumberField
          label="Number of the page"
          value={page.number}
          min={page.kind === 'page' ? 0 : 1}
          max={65_535}
          whole
          onCommit={(number) => set({ number })}
        />
      </div>
      <div className={form.setting}>
        <label>Background</label>
        <FaceField label="Background" value={page.background} onChange={(background: Face) => set({ background })} />
      </div>
      <div className={`${form.setting} ${form.tall}`}>
        <label>Notes</label>
        <TextField lines={3} label="Notes of the page" value={page.note} onCommit={(note) => set({ note })} />
      </div>
      <div className="row wrap">
        <Button
          disabled={project.startPage === page.id || page.kind !== 'page'}
          onClick={() => session.edit('set start page', { id: page.id })}
        >
          {project.startPage === page.id ? 'Start page ✓' : 'Set as start page'}
        </Button>
        <Button
          disabled={at <= 0}
          onClick={() => session.edit('move page', { id: page.id, after: project.pageOrder[at - 2] ?? null })}
        >
          Move up
        </Button>
        <Button
          disabled={at >= project.pageOrder.length - 1}
          onClick={() => session.edit('move page', { id: page.id, after: project.pageOrder[at + 1] })}
        >
          Move down
        </Button>
        <Button disabled={project.pageOrder.length < 2} onClick={() => session.edit('delete page', { id: page.id })}>
          Delete page
        </Button>
      </div>
      {groupsOf(pageSettings.list as readonly FormField[]).map(([group, fields]) => (
        <Disclosure key={group} title={group} detail={setInWords(fields, page)}>
          <RecordRows fields={fields} values={page} nameHint={page.name} onSet={set} />
        </Disclosure>
      ))}
      <SplashForm key={page.id} project={project} page={page} />
    </Box>
  )
}

interface RowsProps {
  fields: readonly FormField[]
  values: object
  nameHint: string
  onSet(values: Record<string, unknown>): void
}

/** Every setting of a record, one a row. */
function RecordRows({ fields, values, nameHint, onSet }: RowsProps) {
  return fields.map((field) => (
    <SettingRow
      key={field.key}
      setting={field}
      value={(values as Values)[field.key]}
      mixed={false}
      nameHint={nameHint}
      siblings={values as Values}
      onChange={(value) => onSet({ [field.key]: value })}
    />
  ))
}
