import { PNG } from 'pngjs'
import { describe, expect, test } from 'vitest'
import { sha256Hex } from '../base/index.ts'
import { noFace } from '../faces/index.ts'
import { pictureSettings, type Project } from '../project/index.ts'
import { testAssets } from '../testing/fonts.ts'
import { Job, whole } from '../testing/job.ts'
import { softPicture } from '../testing/pictures.ts'
import { Workbench } from '../workbench/index.ts'

const made = new PNG({ width: 400, height: 300 })
made.data = Buffer.from(softPicture(400, 300).rgba)
const png = new Uint8Array(PNG.sync.write(made))
const assets = new Map([...testAssets, [sha256Hex(png), png]])
const record = { ...pictureSettings.defaults, id: 'picture:dusk', name: 'dusk', file: '', format: 'png', asset: sha256Hex(png), fromWidth: 400, fromHeight: 300, width: 400, height: 300, way: 'exact' } // prettier-ignore

/** A page with a picture behind, a card and words that never change, a number over both, and a card over that. */
function page(): Job {
  const job = new Job().variable('n', whole(0, 999)).edit('set looks', { looks: 'both' })
  job.edit('add pictures', { pictures: [record], after: '' })
  job.edit('set page', { id: job.first, values: { background: { ...noFace, picture: 'picture:dusk' } } })
  return job
    .widget('shape', 'card', [40, 40, 200, 120], { face: { ...noFace, fill: 'colour:surface', radius: 20 } })
    .widget('label', 'words', [60, 50, 160, 30], { text: 'Harbour' })
    .widget('number', 'value', [60, 90, 120, 50], { variable: 'variable:n' })
    .widget('shape', 'above', [150, 100, 120, 100], { face: { ...noFace, fill: 'colour:accent', radius: 30 } })
}
const scratch = (project: Project, n: number, look: number) => {
  const bench = new Workbench(project, assets)
  setTo(bench, n, look)
  bench.paint()
  return bench.rig.panel.glass.surface.pixels
}
const setTo = (bench: Workbench, n: number, look: number) => {
  const { memory } = bench.rig.panel
  memory.setOwn('look', look)
  memory.write(bench.build.header.cells.find(({ cell }) => cell.words === 1)!.cell, n)
}

describe('the ground of a page that is painted again and again', () => {
  test('is what it would be from scratch: after a value, in another look, and after any edit', () => {
    const job = page()
    const bench = new Workbench(job.project, assets)
    const { glass } = bench.rig.panel
    const same = (n: number, look = 0) => {
      setTo(bench, n, look)
      bench.paint()
      expect(glass.surface.pixels).toEqual(scratch(job.project, n, look))
    }
    const whole = () => {
      for (let k = 0; k < 3; k++) {
        glass.markAll()
        bench.paint()
      }
    }
    whole()
    for (const [n, look] of [
      [7, 0],
      [42, 0],
      [42, 1],
      [640, 1],
      [640, 0],
    ] as const) {
      same(n, look)
      whole()
      same(n + 1, look)
    }
    const edit = (name: string, args: unknown) => {
      job.edit(name, args)
      bench.take(job.project)
      whole()
      same(11)
    }
    edit('set widgets', { ids: ['widget:words'], values: { text: 'Quay' } })
    edit('set picture', { id: 'picture:dusk', values: { turn: 'upside down' } })
    edit('set widgets', { ids: ['widget:card'], values: { visible: { follows: 'variable:n' } } })
    edit('delete widgets', { ids: ['widget:card'] })
    edit('set page', { id: job.first, values: { background: { ...noFace, fill: '#204060' } } })
  })
  test('costs little more than a copy of its pixels', () => {
    const job = page()
    const bench = new Workbench(job.project, assets)
    const { glass } = bench.rig.panel
    const written = () => {
      const before = glass.surface.written
      glass.markAll()
      bench.paint()
      return glass.surface.written - before
    }
    written()
    written()
    expect(written()).toBeLessThan(1.3 * 400 * 300)
  })
})
