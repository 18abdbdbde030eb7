import { PNG } from 'pngjs'
import { softPicture } from '../packages/core/src/testing/pictures.ts'
import type { Hand } from './browser.ts'

/** A drawing as somebody would bring it: a file of a name and a size. */
export interface Drawn {
  name: string
  width: number
  height: number
  /** Drawings of another shade are other pictures. */
  shade?: number
  /** Its corners are seen through. */
  round?: boolean
}

const pngOf = ({ width, height, shade = 0, round }: Drawn): string => {
  const made = new PNG({ width, height })
  made.data = Buffer.from(softPicture(width, height).rgba)
  for (let i = 0; i < made.data.length; i += 4) {
    made.data[i] = (made.data[i]! + shade) & 0xff
    const [x, y] = [(i / 4) % width, Math.floor(i / 4 / width)]
    if (round && Math.hypot((x - width / 2) / width, (y - height / 2) / height) > 0.5) made.data[i + 3] = 0
  }
  return PNG.sync.write(made).toString('base64')
}

/** Drops drawings on what a selector finds, at a point of the screen. */
export async function dropDrawings(
  { page }: Hand,
  selector: string,
  at: readonly [number, number] | null,
  drawings: readonly Drawn[],
): Promise<void> {
  const files = drawings.map((drawing) => ({ name: drawing.name, bytes: pngOf(drawing) }))
  await page.waitForSelector(selector)
  await page.evaluate(
    (where, point, list) => {
      const data = new DataTransfer()
      for (const { name: file, bytes } of list)
        data.items.add(new File([Uint8Array.from(atob(bytes), (c) => c.charCodeAt(0))], file, { type: 'image/png' }))
      const [clientX, clientY] = point ?? [0, 0]
      document
        .querySelector(where)!
        .dispatchEvent(new DragEvent('drop', { bubbles: true, cancelable: true, dataTransfer: data, clientX, clientY }))
    },
    selector,
    at,
    files,
  )
}
