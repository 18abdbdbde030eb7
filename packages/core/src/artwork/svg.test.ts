import { describe, expect, test } from 'vitest'
import { mustHold, seededRandom, sha256Hex } from '../base/index.ts'
import { pictureSettings } from '../project/index.ts'
import { pictureUse } from '../compile/index.ts'
import { expand565 } from '../raster/index.ts'
import { testCodecs } from '../testing/codecs.ts'
import { decodePicture, lookIntoPicture, makeChunk, pictureFormat, pictureSentences } from './index.ts'

const bytesOf = (text: string) => new TextEncoder().encode(text)
const svg = (inside: string, head = 'width="40" height="30"') =>
  bytesOf(
    `<?xml version="1.0"?>\n<!-- drawn -->\n<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${head}>${inside}</svg>`,
  )
const moon = svg(
  '<rect width="20" height="30" fill="#ff0000"/><circle cx="30" cy="15" r="10" fill="#0000ff" fill-opacity="0.5"/>',
)

describe('a drawing in SVG', () => {
  test('is known by its text, and has the size that it says, in whatever unit, or that of its own measure', () => {
    expect(pictureFormat(moon)).toBe('svg')
    expect(pictureFormat(bytesOf('<html><body>no</body></html>'))).toBeNull()
    const sizes = ['width="40" height="30"', 'width="1in" height="10mm"', 'viewBox="0 0 64 48"', 'width="32" viewBox="0 0 64 48"', 'width="100%" height="100%" viewBox="0 0 9 8"'] // prettier-ignore
    expect(
      sizes.map((head) => {
        const info = lookIntoPicture(svg('', head))
        return info.ok && [info.value.width, info.value.height]
      }),
    ).toEqual([
      [40, 30],
      [96, 38],
      [64, 48],
      [32, 24],
      [9, 8],
    ])
  })
  test('is drawn with its transparency, and as large as it is needed: edges stay sharp', () => {
    const { width, height, rgba } = mustHold(decodePicture(moon, testCodecs))
    const at = (x: number, y: number) => [...rgba.slice(4 * (y * width + x), 4 * (y * width + x) + 4)]
    expect([width, height]).toEqual([40, 30])
    expect([at(3, 3), at(39, 0), at(30, 15)]).toEqual([
      [255, 0, 0, 255],
      [0, 0, 0, 0],
      [0, 0, 255, 128],
    ])
    const asset = sha256Hex(moon)
    const record = { ...pictureSettings.defaults, id: 'picture:moon', number: 1, name: 'moon', file: '', format: 'svg', asset, fromWidth: 40, fromHeight: 30 } as const // prettier-ignore
    const large = mustHold(
      makeChunk(pictureUse({ ...record, width: 400, height: 300, way: 'stretch' }, '#000000').request, () => moon),
    )
    const line = Array.from(large.parts.pixels.slice(400 * 10, 400 * 10 + 400), (pixel) => expand565(pixel).red)
    // Ten times as large the edge of the red is still one pixel wide.
    expect(line.filter((red) => red > 8 && red < 247).length).toBeLessThanOrEqual(2)
    expect(line.filter((red) => red >= 247).length).toBeGreaterThanOrEqual(198)
    expect(large.header.from).toEqual({ width: 40, height: 30 })
  })
  const refused: [string, Uint8Array, RegExp][] = [
    ['a script', svg('<script>1</script>'), /scripts not allowed/],
    ['a script in an attribute', svg('<rect onclick="1" width="3" height="3"/>'), /scripts not allowed/],
    ['a picture from outside', svg('<image href="https://example.org/a.png" width="3" height="3"/>'), /external references/],
    ['a style from outside', svg('<style>@import url(a.css);</style>'), /external references/],
    ['a fill from outside', svg('<rect fill="url(http://example.org/x#a)" width="3" height="3"/>'), /external references/],
    ['signs of its own', bytesOf('<!DOCTYPE svg [<!ENTITY a "b">]><svg width="3" height="3">&a;</svg>'), /custom entities/],
    ['text', svg('<text x="1" y="9">12</text>'), /outlines/],
    ['HTML', svg('<foreignObject><p>no</p></foreignObject>'), /unsupported elements/],
    ['movement', svg('<rect><animate attributeName="x"/></rect>'), /animation/],
    ['no size', svg('', ''), /no size given/],
    ['an end that is missing', moon.slice(0, moon.length - 8), /invalid XML/],
    ['no XML', bytesOf('<svg width="3" height="3"><g></svg>'), /invalid XML/],
    ['other bytes', Uint8Array.from([...moon.slice(0, 90), 0xff, 0xfe, ...moon.slice(90)]), /UTF-8/],
    ['itself in it', svg('<g id="a"><use href="#a"/></g>'), /drawn elements/],
    [
      'one in another again and again',
      svg(
        `<g id="a0"><rect/></g>${Array.from({ length: 30 }, (_, k) => `<g id="a${k + 1}">${`<use href="#a${k}"/>`.repeat(4)}</g>`).join('')}`,
      ),
      /more than .* drawn elements/,
    ],
    ['parts without end', svg('<rect/>'.repeat(60_000)), /more than 50000 elements/],
    ['parts nested deeper', svg('<g>'.repeat(300) + '</g>'.repeat(300)), /nested deeper/],
    ['more pixels than are taken', svg('', 'width="20000" height="10"'), /20000 × 10/],
  ]
  test.each(refused)('with %s is refused with the reason', (_name, bytes, why) => {
    const made = decodePicture(bytes, testCodecs)
    expect(made.ok).toBe(false)
    if (made.ok) return
    const { code, facts } = made.problem
    const words = pictureSentences[code]!.replaceAll(/\{(\w+)\}/g, (_, key: string) => String(facts[key]))
    expect(words).toMatch(why)
  })
  test('with any bit flipped is drawn or refused, and the next one is drawn as before', () => {
    const before = mustHold(decodePicture(moon, testCodecs)).rgba
    const random = seededRandom(11)
    for (let k = 0; k < 150; k++) {
      const copy = moon.slice()
      copy[random.below(copy.length)]! ^= 1 << random.below(8)
      const made = decodePicture(copy, testCodecs)
      if (!made.ok) expect(pictureSentences).toHaveProperty([made.problem.code])
    }
    expect(mustHold(decodePicture(moon, testCodecs)).rgba).toEqual(before)
  })
  test('what it has in itself is drawn: a gradient, a pattern used twice', () => {
    const bytes = svg(
      '<defs><linearGradient id="g"><stop stop-color="#fff"/><stop offset="1" stop-color="#000"/></linearGradient><rect id="r" width="5" height="5" fill="#00ff00"/></defs><rect width="40" height="30" fill="url(#g)"/><use xlink:href="#r" x="4" y="4"/><use href="#r" x="20" y="4"/>',
    )
    const { width, rgba } = mustHold(decodePicture(bytes, testCodecs))
    const green = (x: number, y: number) => rgba[4 * (y * width + x)]! === 0 && rgba[4 * (y * width + x) + 1]! === 255
    expect([green(6, 6), green(22, 6), green(12, 6)]).toEqual([true, true, false])
  })
})

test('a picture in a drawing is as large as the glass may need, and no larger: its head is looked at before it is unpacked', () => {
  const head = (width: number, height: number) => {
    const bytes = new Uint8Array(40)
    bytes.set([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10, 0, 0, 0, 13, 0x49, 0x48, 0x44, 0x52])
    new DataView(bytes.buffer).setUint32(16, width)
    new DataView(bytes.buffer).setUint32(20, height)
    return Buffer.from(bytes).toString('base64')
  }
  const jpeg = Buffer.from([
    0xff,
    0xd8,
    0xff,
    0xe0,
    0,
    4,
    0,
    0,
    0xff,
    0xc0,
    0,
    11,
    8,
    0x75,
    0x30,
    0x75,
    0x30,
    3,
    ...Array<number>(20).fill(0),
  ])
  const holding = (url: string, times = 1) => {
    const info = lookIntoPicture(svg(`<image width="9" height="9" href="${url}"/>`.repeat(times)))
    return info.ok ? 'taken' : String(info.problem.facts['what'])
  }
  expect(holding(`data:image/png;base64,${head(300, 200)}`)).toBe('taken')
  expect(holding(`data:image/png;base64,${head(20_000, 20_000)}`)).toContain('exceed 16000000 pixels')
  expect(holding(`data:image/png;base64,${head(3000, 2000)}`, 3)).toContain('exceed 16000000 pixels')
  expect(holding(`data:image/jpeg;base64,${jpeg.toString('base64')}`)).toContain('exceed 16000000 pixels')
  expect(holding('data:image/png;base64,AAAA')).toContain('unreadable embedded image')
})
