import { lengthLedStart } from '@moth-lamp/core/frames'
import type { Hand, ServerProcess } from './browser.ts'

/** A state of the interface: where it is, and what a person does to see it. */
export interface State {
  name: string
  /** Which project: the demo; one with nothing in it; one with one of each; one with linked copies; one in which much is wrong. */
  of: 'shelf' | 'demo' | 'empty' | 'one' | 'linked' | 'wrong'
  station?: 'panel' | 'artwork' | 'pages' | 'variables' | 'frames' | 'bench' | 'exchanges'
  /** Text on the screen before anything is done. */
  sees?: string
  act?(hand: Hand): Promise<unknown>
}

const button = (name: string) => (hand: Hand) => hand.click(name, 'button')
const text = (words: string) => (hand: Hand) => hand.clickOn('*', words, 8000)
const keys =
  (...all: string[]) =>
  (hand: Hand) =>
    hand.keys(...all)
const selects = async (hand: Hand) => {
  await hand.press(500, 138)
  await hand.sees('On the wire')
}
const all =
  (...acts: ((hand: Hand) => Promise<unknown>)[]) =>
  async (hand: Hand) => {
    for (const act of acts) await act(hand)
  }
/** A command of the host, pasted as bytes. */
const command = async (hand: Hand) => {
  await hand.click('+ Command', 'button')
  await (await hand.find('Frame from the manual')).type('7E 4F 10 03 E8 7E')
  await hand.clickOn('button', 'Create')
  await hand.find('Name of the command')
}
const lines = async (hand: Hand) => {
  await hand.clickOn('button', 'Template')
  await hand.clickOn('[role="menuitem"]', 'lamp lines')
  await hand.sees('inter-byte timeout')
  await hand.page.waitForFunction(() => document.body.innerText.includes('lines of text'))
}
const ran = async (hand: Hand) => {
  await hand.click('Run all', 'button')
  await hand.page.waitForFunction(() => document.querySelectorAll('[aria-label="passed"], [aria-label="failed"]').length > 5, {
    timeout: 300_000,
  })
}

const projectsInOrder: State['of'][] = ['shelf', 'empty', 'one', 'linked', 'wrong', 'demo']
const rankOf = ({ of, act }: State) => 2 * projectsInOrder.indexOf(of) + (act ? 1 : 0)

const everyState: State[] = [
  { name: 'shelf', of: 'shelf', sees: 'Heron Hill dome' },
  { name: 'shelf, a new panel', of: 'shelf', sees: 'Heron Hill dome', act: keys('n') },
  { name: 'shelf, menu of a project', of: 'shelf', sees: 'Heron Hill dome', act: button('More for Heron Hill dome') },
  { name: 'panel', of: 'demo', station: 'panel', sees: 'Report and acknowledge' },
  { name: 'panel, empty', of: 'empty', station: 'panel', sees: 'Report and acknowledge' },
  { name: 'panel, all settings', of: 'demo', station: 'panel', act: button('All settings of the panel') },
  { name: 'panel, profiles', of: 'demo', station: 'panel', act: button('Hardware presets') },
  { name: 'artwork', of: 'demo', station: 'artwork', sees: 'Original' },
  { name: 'artwork, empty', of: 'empty', station: 'artwork', sees: 'Drop pictures here' },
  {
    name: 'artwork, a part of a picture',
    of: 'demo',
    station: 'artwork',
    sees: 'Original',
    act: (hand) => hand.clickOn('[role="radio"]:nth-child(2)', 'crop'),
  },
  {
    name: 'artwork, a font',
    of: 'demo',
    station: 'artwork',
    act: async (hand) => {
      await hand.clickOn('section[aria-label="Fonts"] button', 'caption')
      await hand.page.waitForSelector('canvas[data-made][aria-label="Sample with 2 bit"]')
    },
  },
  {
    name: 'artwork, a face',
    of: 'demo',
    station: 'artwork',
    act: all(
      (hand) => hand.click('+ Face', 'button'),
      (hand) => hand.find('Name of the face'),
    ),
  },
  { name: 'pages', of: 'demo', station: 'pages' },
  { name: 'pages, empty', of: 'empty', station: 'pages', sees: 'Press A to add a widget' },
  { name: 'pages, one widget', of: 'one', station: 'pages' },
  { name: 'pages, one selected', of: 'demo', station: 'pages', act: selects },
  { name: 'pages, all settings', of: 'demo', station: 'pages', act: all(selects, keys('/')) },
  { name: 'pages, several selected', of: 'demo', station: 'pages', act: keys('Control+a') },
  { name: 'pages, repeat', of: 'demo', station: 'pages', act: all(selects, keys('r')) },
  { name: 'pages, kinds to add', of: 'demo', station: 'pages', act: keys('a') },
  { name: 'pages, a kind found', of: 'demo', station: 'pages', act: keys('a', '=sl') },
  { name: 'pages, theme', of: 'demo', station: 'pages', act: (hand) => hand.click('Theme', 'tab') },
  { name: 'pages, widgets of the page', of: 'demo', station: 'pages', act: (hand) => hand.clickOn('[role="tab"]', 'Widgets') },
  { name: 'pages, what overlaps', of: 'demo', station: 'pages', act: (hand) => hand.press(500, 138, 'right') },
  {
    name: 'pages, a variable picked',
    of: 'demo',
    station: 'pages',
    act: all(
      selects,
      (hand) => hand.click('Variable', 'combobox'),
      (hand) => hand.page.waitForSelector('[role="option"]', { visible: true }),
    ),
  },
  {
    name: 'pages, seen by others',
    of: 'demo',
    station: 'pages',
    act: async (hand) => {
      await hand.click('Vision simulation: normal', 'button')
      await hand.click('deuteranopia', 'radio')
    },
  },
  { name: 'pages, faces to cut', of: 'demo', station: 'pages', act: all(selects, keys('x')) },
  {
    name: 'pages, a face',
    of: 'demo',
    station: 'pages',
    act: all(
      (hand) => hand.press(500, 215),
      (hand) => hand.sees('normal'),
      (hand) => hand.page.click('[title="Edit “Face”"]'),
    ),
  },
  {
    name: 'pages, a colour',
    of: 'demo',
    station: 'pages',
    act: all(selects, (hand) => hand.click('Text colour, picked', 'button')),
  },
  {
    name: 'pages, a colour of the project',
    of: 'demo',
    station: 'pages',
    act: all(
      (hand) => hand.click('Theme', 'tab'),
      (hand) => hand.clickOn('[aria-label="Colours"] button', 'accent'),
    ),
  },
  {
    name: 'pages, groups of settings',
    of: 'demo',
    station: 'pages',
    act: all(
      (hand) => hand.clickOn('button', 'Layers'),
      (hand) => hand.clickOn('button', 'Timing'),
      (hand) => hand.clickOn('button', 'Actions'),
    ),
  },
  {
    name: 'pages, the alarms of a list',
    of: 'demo',
    station: 'pages',
    act: all(
      text('2 · Weather'),
      (hand) => hand.press(600, 330),
      (hand) => hand.sees('4 alarms …'),
      text('4 alarms …'),
    ),
  },
  { name: 'pages, as a table', of: 'demo', station: 'pages', act: keys('t', 'ArrowDown', 'ArrowRight', 'Shift+ArrowDown') },
  { name: 'pages, columns of the table', of: 'demo', station: 'pages', act: all(keys('t'), button('Columns …')) },
  { name: 'pages, columns away', of: 'demo', station: 'pages', act: keys('c') },
  { name: 'pages, one locked', of: 'one', station: 'pages', act: all(keys(']', 'k'), (h) => h.sees('is locked')) },
  { name: 'pages, linked copies', of: 'linked', station: 'pages', act: keys(']', ']') },
  { name: 'pages, touch', of: 'demo', station: 'pages', act: keys('l') },
  {
    name: 'pages, findings',
    of: 'wrong',
    station: 'pages',
    sees: 'findings',
    act: (hand) => hand.page.click('[aria-label="Findings"] button:last-child'),
  },
  { name: 'variables', of: 'demo', station: 'variables', sees: 'dome_azimuth' },
  { name: 'variables, empty', of: 'empty', station: 'variables', sees: 'No variables.' },
  { name: 'variables, one', of: 'one', station: 'variables' },
  { name: 'variables, a flags word', of: 'demo', station: 'variables', act: (hand) => hand.click('Address of weather_flags') },
  { name: 'frames', of: 'demo', station: 'frames', sees: 'dome_azimuth' },
  { name: 'frames, empty', of: 'empty', station: 'frames', sees: 'No frames yet' },
  { name: 'frames, unusable', of: 'wrong', station: 'frames', sees: 'Invalid layout' },
  {
    name: 'frames, a new command',
    of: 'linked',
    station: 'frames',
    sees: 'Layout valid',
    act: all(
      (hand) => hand.click('+ Command', 'button'),
      async (hand) => void (await (await hand.find('Frame from the manual')).type('7E 4F 10 03 E8 7E')),
    ),
  },
  { name: 'frames, a command', of: 'linked', station: 'frames', sees: 'Layout valid', act: command },
  {
    name: 'frames, bytes of a command marked',
    of: 'linked',
    station: 'frames',
    sees: 'Layout valid',
    act: all(command, (hand) => hand.clickOn('[aria-label="Bytes of the constant"] button', '10')),
  },
  {
    name: 'frames, a field of a command',
    of: 'linked',
    station: 'frames',
    sees: 'Layout valid',
    act: all(command, (hand) => hand.clickOn('[aria-label="Content"] button', 'constant')),
  },
  {
    name: 'bench, a command to send',
    of: 'linked',
    station: 'frames',
    sees: 'Layout valid',
    act: all(
      command,
      (hand) => hand.clickOn('a', 'Bench'),
      (hand) => hand.sees('Conversation'),
      (hand) => hand.clickOn('label', 'Command'),
    ),
  },
  { name: 'frames, lines of text', of: 'linked', station: 'frames', sees: 'Layout valid', act: lines },
  {
    name: 'frames, a part of a line',
    of: 'linked',
    station: 'frames',
    sees: 'Layout valid',
    act: all(lines, (hand) => hand.clickOn('[role="tabpanel"] button', 'gap')),
  },
  { name: 'frames, a part', of: 'demo', station: 'frames', act: text('2 bytes, little-endian') },
  { name: 'frames, a part to add', of: 'demo', station: 'frames', act: button('Add Field in write') },
  {
    name: 'frames, a log explained',
    of: 'demo',
    station: 'frames',
    act: async (hand) => {
      const field = await hand.find('Bytes to explain')
      await field.type('12:00:00.1 TX 7E 51 12 00 06 09 97 82 7E\nTX 7E 51 12 00 06 09 97 83 7E\nnonsense')
      await hand.sees('One bit is wrong')
    },
  },
  {
    name: 'frames, an exchange judged on a log',
    of: 'demo',
    station: 'frames',
    sees: 'Layout valid',
    act: async (hand) => {
      await hand.click('Explain large', 'button')
      const field = await hand.find('Bytes to explain')
      await field.type(
        '1.000 TX 7E 51 12 00 06 09 97 82 7E\n1.500 RX 7E 35 12 00 06 09 34 0E 7E\n2.000 TX 7E 51 12 00 06 09 97 83 7E',
      )
      await hand.sees('One bit is wrong')
      await hand.choose('Exchange to judge', 'Target stepped and reached')
      await hand.sees('no such frame')
      await hand.page.click('[data-reading]')
      await hand.sees('Shift+click another frame')
    },
  },
  { name: 'frames, no examples yet', of: 'demo', station: 'frames', sees: 'Layout valid', act: button('From examples …') },
  {
    name: 'frames, guesses from examples',
    of: 'linked',
    station: 'frames',
    sees: 'Layout valid',
    act: all(
      button('From examples …'),
      async (hand) => {
        const field = await hand.find('Frames to add')
        await field.type('3C 05 20 12 00 07 D0 | write 2000 to 0x1200\n3C 07 20 12 10 00 01 E2 40 | write 123456 to 0x1210')
        await hand.click('Add frames', 'button')
        await hand.sees('2 of 2')
      },
      (hand) => hand.clickOn('button', 'without a rival'),
    ),
  },
  {
    name: 'the calculator',
    of: 'demo',
    station: 'frames',
    sees: 'Layout valid',
    act: async (hand) => {
      const field = await hand.find('Bytes to explain')
      await field.type('7E 51 12 00')
      await hand.keys('Control+a', 'Control+.')
      await hand.sees('Checks, high byte first')
    },
  },
  { name: 'bench', of: 'demo', station: 'bench', sees: 'wind_speed = ' },
  { name: 'bench, empty', of: 'empty', station: 'bench', sees: 'Conversation' },
  {
    name: 'bench, held, a frame picked',
    of: 'demo',
    station: 'bench',
    act: all(
      (h) => h.sees('ACK'),
      keys('h'),
      (h) => h.page.click('[data-entry]'),
    ),
  },
  {
    name: 'bench, the simulated host',
    of: 'demo',
    station: 'bench',
    act: all(text('Simulated host:'), text('2. on report shutter_order')),
  },
  {
    name: 'bench, bytes typed',
    of: 'demo',
    station: 'bench',
    act: all(text('→ bytes'), async (hand) => void (await (await hand.find('Bytes to send')).type('51 12 00 06 09 00 00'))),
  },
  { name: 'exchanges', of: 'demo', station: 'exchanges', sees: '6 exchanges' },
  { name: 'exchanges, empty', of: 'empty', station: 'exchanges', sees: 'An exchange is a script' },
  { name: 'exchanges, run', of: 'demo', station: 'exchanges', act: ran },
  { name: 'exchanges, a step', of: 'demo', station: 'exchanges', act: (hand) => hand.page.click('[data-step="2"] button') },
  { name: 'exchanges, steps to add', of: 'demo', station: 'exchanges', act: button('+ Step') },
  { name: 'exchanges, a terminal sheet', of: 'demo', station: 'exchanges', act: button('Terminal sheet') },
  { name: 'exchanges, failed', of: 'wrong', station: 'exchanges', act: all(ran, (h) => h.click('failed')) },
  { name: 'the finder', of: 'demo', station: 'pages', act: all(keys('Control+k', '=wind')) },
  { name: 'the keys', of: 'demo', station: 'pages', act: keys('?') },
]

/**
 * Every screen empty, with one, with several and failing; every dialog, menu and popover. Those of a project in which nothing is
 * done come one after another.
 */
export const states: State[] = everyState.toSorted((a, b) => rankOf(a) - rankOf(b))

/** The projects the states are of, by their kind; the shelf has none. */
export async function projectsFor(server: ServerProcess): Promise<Record<State['of'], string>> {
  const demo = (await server.projects())[0]!.id
  const glass = { width: 480, height: 272, diagonalInches: 4.3 }
  const empty = (await server.post<{ id: string }>('/projects', { name: 'Nothing yet', ...glass })).id
  const one = (await server.post<{ id: string }>('/projects', { name: 'One of each', ...glass })).id
  const wrong = (await server.post<{ id: string }>(`/projects/${demo}/duplicate`, {})).id
  let n = 0
  const change = async (id: string, edit: string, args: unknown) => {
    const { project, revision } = await server.opened(id)
    await server.post(`/projects/${id}/changes`, {
      form: project.format,
      base: revision,
      changes: [{ changeId: `change:states${++n}`, edit, args }],
    })
  }
  const { project } = await server.opened(one)
  await change(one, 'add variable', { id: 'variable:level', name: 'level' })
  await change(one, 'add widgets', {
    page: project.startPage,
    after: '',
    widgets: [{ id: 'widget:level', kind: 'number', name: 'level', place: { x: 40, y: 40, width: 120, height: 40 } }],
  })
  await change(one, 'add exchange', { id: 'exchange:one', after: '' })
  const linked = (await server.post<{ id: string }>(`/projects/${one}/duplicate`, {})).id
  await change(linked, 'add widgets', {
    page: project.startPage,
    after: '',
    widgets: [90, 140].map((y) => ({
      id: `widget:level${y}`,
      kind: 'number',
      like: 'widget:level',
      place: { x: 40, y, width: 120, height: 40 },
      settings: { digits: 3, colour: '#ffb347' },
    })),
  })
  // A layout without its lengths, words that do not fit, a check of a value that never comes.
  const { toPanel } = lengthLedStart
  await change(wrong, 'set layout', {
    values: { toPanel: { ...toPanel, head: toPanel.head.filter((p) => p.part !== 'length') } },
  })
  const made = (await server.opened(wrong)).project
  const labels = Object.values(made.widgets).filter((w) => w.kind === 'label' || w.kind === 'button')
  await change(wrong, 'set widgets', {
    ids: labels.slice(0, 4).map((w) => w.id),
    values: { text: 'far too many words for so little room' },
  })
  const target = Object.values(made.exchanges).find((e) => e.name === 'Target stepped and reached')!
  const step = target.stepOrder.find((id) => target.steps[id]!.kind === 'expect report')!
  await change(wrong, 'set step', { exchange: target.id, id: step, values: { value: '12.5' } })
  return { shelf: '', demo, empty, one, linked, wrong }
}
