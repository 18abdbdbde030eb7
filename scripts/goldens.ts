// Draws the contact sheet of every kind of widget, by night and by day.
//   npm run goldens:accept            keeps their hashes, and docs/widgets.png
//   npx tsx scripts/goldens.ts look   writes the sheets to build/goldens, to be looked at
import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { PNG } from 'pngjs'
import { hashOfWords } from '@moth-lamp/core/base'
import { lookNames } from '@moth-lamp/core/palette'
import { expand565, type Surface } from '@moth-lamp/core/raster'
import { widgetKinds } from '@moth-lamp/core/widgets'
import { contactSheet } from '../packages/core/src/testing/contact-sheets.ts'

const root = new URL('..', import.meta.url).pathname
const out = join(root, 'build/goldens')
mkdirSync(out, { recursive: true })

function paste(png: PNG, surface: Surface, left: number, top: number): void {
  for (let y = 0; y < surface.height; y++)
    for (let x = 0; x < surface.width; x++) {
      const { red, green, blue } = expand565(surface.pixels[y * surface.width + x]!)
      png.data.set([red, green, blue, 255], 4 * ((top + y) * png.width + left + x))
    }
}
const pngOf = (surface: Surface): Buffer => {
  const png = new PNG({ width: surface.width, height: surface.height })
  paste(png, surface, 0, 0)
  return PNG.sync.write(png)
}

const hashes: Record<string, string> = {}
const sheets: Surface[] = []
const only = process.argv.slice(3)
for (const { kind } of widgetKinds()) {
  if (only.length && !only.includes(kind)) continue
  for (const look of lookNames) {
    const sheet = contactSheet(kind, look)
    hashes[`${kind} by ${look}`] = hashOfWords(sheet.pixels)
    if (look === 'night') sheets.push(sheet)
    writeFileSync(join(out, `${kind}-${look}.png`), pngOf(sheet))
  }
}
/** All sheets in two columns, the shorter column next. */
const columns = [[], []] as Surface[][]
const heights = [0, 0]
for (const sheet of sheets) {
  const k = heights[0]! <= heights[1]! ? 0 : 1
  columns[k]!.push(sheet)
  heights[k]! += sheet.height
}
const all = new PNG({ width: 1280, height: Math.max(...heights) })
all.data.fill(0)
columns.forEach((list, k) => {
  let top = 0
  for (const sheet of list) {
    paste(all, sheet, 640 * k, top)
    top += sheet.height
  }
})
writeFileSync(join(out, 'all.png'), PNG.sync.write(all))
if (process.argv[2] === 'accept') {
  writeFileSync(join(root, 'packages/core/src/testing/goldens.json'), `${JSON.stringify(hashes, null, 2)}\n`)
  writeFileSync(join(root, 'docs/widgets.png'), PNG.sync.write(all))
  console.log(`${Object.keys(hashes).length} contact sheets accepted`)
} else console.log(`Look at ${out}`)
