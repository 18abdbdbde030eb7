import { expect } from 'vitest'
import { MadeChunks } from '../artwork/index.ts'
import { mustHold, newId, seededRandom } from '../base/index.ts'
import { Compiler, compileHost } from '../compile/index.ts'
import { checkProject, findingWords, Viewer, type Finding } from '../findings/index.ts'
import {
  applyPatches,
  edits,
  freshProject,
  narrowed,
  passGate,
  plainPanel,
  undoOf,
  validateProject,
  type Project,
} from '../project/index.ts'
import { Workbench } from '../workbench/index.ts'
import { demo } from './demo.ts'
import { EditMaker } from './edits.ts'
import { testTypefaces } from './fonts.ts'

// Laws over all edits, each for so many rounds: a few with every change, all before something is called done.

const seed = Number(process.env['SEED'] ?? 4600)
const withoutSpent = ({ spent: _, ...rest }: Project) => rest

/** Patches name ids, apply, are undone by their inverse, and the document stays valid. */
export function patchesAreSound(rounds: number): EditMaker {
  const random = seededRandom(seed)
  const maker = new EditMaker(random)
  let project = freshProject('Test', plainPanel, testTypefaces)
  let applied = 0
  const untried = () => [...edits.keys()].filter((name) => !maker.tried.has(name))
  // Edits that chance has not come to by then are tried by name, for as long again.
  for (let i = 0; i < rounds || (i < 2 * rounds && untried().length); i++) {
    const missing = i < rounds ? [] : untried()
    const named = missing.length ? maker.request(project, missing[random.below(missing.length)]) : null
    const request = named ?? maker.request(project)
    if (!request) continue
    const done = passGate(project, request)
    if (!done.ok) continue
    const { change, project: after } = done.value
    applied++
    for (const patch of [...change.patches, ...change.inverse]) expect(patch.path).not.toMatch(/\/\d+(\/|$)/)
    expect(applyPatches(project, change.patches)).toEqual(after)
    const undo = undoOf(change, newId('change', random))
    if (undo) {
      const undone = passGate(after, undo)
      if (!undone.ok) throw new Error(`${request.edit}: ${JSON.stringify(undone.problem)}`)
      expect(withoutSpent(undone.value.project)).toEqual(withoutSpent(project))
      expect(undone.value.project.spent.lastNumbers).toEqual(after.spent.lastNumbers)
      if (!change.edit.startsWith('release'))
        expect(Object.keys(undone.value.project.spent.addresses)).toEqual(
          expect.arrayContaining(Object.keys(after.spent.addresses)),
        )
    }
    maker.saw(change)
    // Deleting is likelier than adding among the edits: keep enough to work on.
    if (!request.edit.startsWith('delete') || Object.keys(project.widgets).length > 12) project = after
    if (i % 50 === 0) expect(validateProject(project).ok).toBe(true)
  }
  expect(applied).toBeGreaterThan(0.45 * rounds)
  return maker
}

/** Narrowed to what it changes, an edit does what it did whole. */
export function narrowedIsWhole(rounds: number): void {
  const random = seededRandom(seed)
  const maker = new EditMaker(random)
  let at = demo.project
  let narrower = 0
  for (let i = 0; i < rounds; i++) {
    const made = maker.request(at)
    const whole = made && passGate(at, made)
    if (!made || !whole?.ok || (made.edit.startsWith('delete') && random.below(4))) continue
    const part = narrowed(at, made)
    if (part === null) expect(whole.value.change.patches).toEqual([])
    else {
      expect(mustHold(passGate(at, part)).project).toEqual(whole.value.project)
      if (JSON.stringify(part.args).length < JSON.stringify(made.args).length) narrower++
    }
    maker.saw(whole.value.change)
    at = whole.value.project
  }
  expect(narrower).toBeGreaterThan(rounds / 70)
}

/** After anything at all, the dirty rectangles give what a full repaint gives. */
export function dirtyIsFull(rounds: number): void {
  const random = seededRandom(seed)
  const bench = new Workbench(demo.project, demo.assets)
  for (let i = 0; i < rounds; i++) {
    const [x, y] = [random.below(800), random.below(480)]
    bench.rig.panel.touchDown(x, y)
    bench.advance(random.below(300_000))
    bench.paint()
    bench.rig.panel.touchUp(random.below(4) ? x : random.below(800), y)
    if (random.below(6) === 0) bench.hostWrites('variable:weather_flags', random.below(16))
    bench.advance(random.below(2_000_000))
    bench.paint()
    // As if it were painted for the first time, with whatever pop-up is open.
    const { glass } = bench.rig.panel
    const inParts = glass.surface.pixels.slice()
    glass.markAll()
    bench.paint()
    expect([i, inParts]).toEqual([i, glass.surface.pixels])
  }
}

/** A compiler with a memory gives what one without gives. */
export function warmIsCold(rounds: number): void {
  const random = seededRandom(seed)
  const maker = new EditMaker(random)
  const warm = new Compiler(new MadeChunks(demo.assets))
  let at = demo.project
  let n = 0
  for (let i = 0; i < rounds; i++) {
    const request = maker.request(at)
    const done = request ? passGate(at, request) : null
    if (!done?.ok || (request!.edit.startsWith('delete') && random.below(3))) continue
    maker.saw(done.value.change)
    at = done.value.project
    const build = warm.compile(at)
    const host = compileHost(at, warm.cells)
    if (n++ % 4) continue
    const cold = new Compiler(new MadeChunks(demo.assets))
    expect({ header: build.header, symbols: build.symbols, chunks: Object.keys(build.chunks).sort() }).toEqual(
      (({ header, symbols, chunks }) => ({ header, symbols, chunks: Object.keys(chunks).sort() }))(cold.compile(at)),
    )
    expect(host).toEqual(compileHost(at))
  }
  expect(n).toBeGreaterThan(0.3 * rounds)
}

/** Every finding of a random document has its words, and its mend passes the gate and takes it away. */
export function findingsMend(rounds: number): void {
  const random = seededRandom(seed)
  let [mended, seen] = [0, 0]
  for (let round = 0; round < rounds; round++) {
    const maker = new EditMaker(random)
    let at = demo.project
    for (let k = 0; k < 60; k++) {
      const request = maker.request(at)
      const done = request ? passGate(at, request) : null
      if (!done?.ok) continue
      maker.saw(done.value.change)
      at = done.value.project
    }
    const view = new Viewer(demo.assets)
    const list = checkProject(view.view(at))
    for (const finding of list) {
      seen++
      expect(findingWords(finding)).not.toMatch(/\{|undefined|NaN/)
      if (!finding.fix) continue
      const { edit, args, label } = finding.fix
      const done = passGate(at, { changeId: 'change:mend', edit, args })
      expect([finding.code, label, done.ok ? '' : done.problem]).toEqual([finding.code, label, ''])
      if (!done.ok) continue
      const same = (f: Finding) => f.code === finding.code && f.at === finding.at && f.fix?.edit === edit
      const left = checkProject(view.view(done.value.project)).filter(same)
      // One of several of the same kind at the same place may be left, none that is word for word the same.
      expect(left.map(findingWords)).not.toContain(findingWords(finding))
      mended++
    }
  }
  expect([seen > 10 * rounds, mended > 6 * rounds]).toEqual([true, true])
}
