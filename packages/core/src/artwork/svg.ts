import { SaxesParser, type SaxesTagPlain } from 'saxes'
import { bad, good, type Result } from '../base/index.ts'
import { bytesToText } from '../variables/index.ts'

/** Elements of a drawing, and elements once all that it uses again and again is counted as often, at most. */
const mostElements = 50_000
const mostDrawn = 200_000
const mostDepth = 200

/** Elements that draw nothing by themselves, or draw things that are not in the file. */
const refusedElements: Record<string, string> = {
  script: 'scripts not allowed',
  foreignObject: 'unsupported elements',
  iframe: 'unsupported elements',
  text: 'convert text to outlines first',
  tspan: 'convert text to outlines first',
  animate: 'animation not supported',
  animateTransform: 'animation not supported',
  animateMotion: 'animation not supported',
  set: 'animation not supported',
}

/** Pixels of a length at 96 to the inch (CSS Values 4, section 6.2). */
const pixelsOf: Record<string, number> = { '': 1, px: 1, in: 96, cm: 96 / 2.54, mm: 96 / 25.4, pt: 96 / 72, pc: 16 }

function lengthOf(text: string | undefined): number | null {
  const found = /^\s*([0-9.]+)\s*([a-z]*)\s*$/.exec(text ?? '')
  const unit = found && pixelsOf[found[2]!]
  return found && unit ? Number(found[1]) * unit : null
}

/** Whether a file looks like a drawing in SVG: text that begins with a mark, and has its element early. */
export function isSvg(bytes: Uint8Array): boolean {
  let at = bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf ? 3 : 0
  while (bytes[at] === 0x20 || bytes[at] === 0x0a || bytes[at] === 0x0d || bytes[at] === 0x09) at++
  return bytes[at] === 0x3c && bytesToText(bytes.subarray(at, at + 4096), 'latin-1').includes('<svg')
}

/** Pixels of all pictures in a drawing together. */
const mostEmbedded = 16_000_000

/** The size that the head of a PNG or a JPEG says, in `data:image/…;base64,…`; null where there is none. */
function embeddedSize(url: string): { width: number; height: number } | null {
  const head = fromBase64(url.slice(url.indexOf(',') + 1, url.indexOf(',') + 1 + 4 * 32_768))
  if (head.length < 26) return null
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength)
  if (head[0] === 0x89) return { width: view.getUint32(16), height: view.getUint32(20) }
  // The frame header of a JPEG (T.81, B.2.2), whatever segments come before it.
  for (let at = 2; at + 9 < head.length && head[at] === 0xff;) {
    const marker = head[at + 1]!
    const isFrame = marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker)
    if (isFrame) return { width: view.getUint16(at + 7), height: view.getUint16(at + 5) }
    at += 2 + view.getUint16(at + 2)
  }
  return null
}

const base64Letters = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/'

/** The bytes of base64 (RFC 4648), blanks and line ends left out; it ends at whatever else is none of its letters. */
function fromBase64(text: string): Uint8Array {
  const out: number[] = []
  let [held, bits] = [0, 0]
  for (const letter of text) {
    if (/\s/.test(letter)) continue
    const value = base64Letters.indexOf(letter)
    if (value < 0) break
    held = ((held << 6) | value) & 0xffffff
    bits += 6
    if (bits >= 8) out.push((held >> (bits -= 8)) & 0xff)
  }
  return Uint8Array.from(out)
}

interface Node {
  /** Elements in it, itself included. */
  own: number
  uses: string[]
}

/** Element by element: what it is made of, by id, so that what is used many times can be counted. */
class Walk {
  private parser = new SaxesParser({})
  private open: { name: string; node: Node; id: string }[] = []
  private byId = new Map<string, Node>()
  private root: Node | null = null
  private count = 0
  private fault: string | null = null
  /** Pixels of the pictures in it. */
  private embedded = 0
  size: { width: number; height: number } | null = null

  constructor(text: string) {
    this.parser.on('error', (error) => (this.fault ??= `invalid XML: ${error.message.slice(0, 80)}`))
    this.parser.on('doctype', (what) => /\[/.test(what) && this.refuse('custom entities not allowed'))
    this.parser.on(
      'processinginstruction',
      ({ target }) => target === 'xml-stylesheet' && this.refuse('external references not allowed'),
    )
    this.parser.on('opentag', (tag) => this.enter(tag))
    this.parser.on('closetag', () => void this.open.pop())
    const style = (words: string) => this.open.at(-1)?.name === 'style' && this.styles(words)
    this.parser.on('text', style)
    this.parser.on('cdata', style)
    // In parts, so that what is refused is not read to its end.
    for (let at = 0; at < text.length && !this.fault; at += 65_536) this.parser.write(text.slice(at, at + 65_536))
    if (!this.fault) this.parser.close()
  }

  get result(): Result<{ width: number; height: number }> {
    if (this.fault) return bad('picture.drawing', { what: this.fault })
    if (!this.root || !this.size) return bad('picture.drawing', { what: 'no size given' })
    const drawn = this.drawn(this.root, new Map(), new Set())
    if (drawn > mostDrawn) return bad('picture.drawing', { what: `more than ${mostDrawn} drawn elements` })
    return good(this.size)
  }

  private refuse(why: string): void {
    this.fault ??= why
  }

  private enter({ name, attributes }: SaxesTagPlain): void {
    const plain = name.replace(/^.*:/, '')
    if (++this.count > mostElements) this.refuse(`more than ${mostElements} elements`)
    if (this.open.length >= mostDepth) this.refuse(`nested deeper than ${mostDepth} levels`)
    if (Object.hasOwn(refusedElements, plain)) this.refuse(refusedElements[plain]!)
    if (!this.root) {
      if (plain !== 'svg') return this.refuse('not an SVG')
      this.size = sizeOf(attributes)
    }
    const node: Node = { own: 1, uses: [] }
    this.root ??= node
    for (const { node: outer } of this.open) outer.own++
    this.open.push({ name: plain, node, id: attributes['id'] ?? '' })
    if (attributes['id']) this.byId.set(attributes['id'], node)
    for (const [key, value] of Object.entries(attributes)) this.attribute(plain, key, value)
  }

  private attribute(element: string, key: string, value: string): void {
    if (/^on/i.test(key)) return this.refuse('scripts not allowed')
    if (key === 'href' || key.endsWith(':href')) {
      const inside = value.startsWith('#')
      if (!inside && !/^data:image\/(png|jpeg);base64,/.test(value)) return this.refuse('external references not allowed')
      if (!inside) return this.embeds(value)
      if (!inside || element !== 'use') return
      for (const { node } of this.open) node.uses.push(value.slice(1))
      return
    }
    if (key === 'style' || value.includes('url(')) this.styles(value)
  }

  /** A picture in the drawing: its size is told by its head, before anything unpacks it. */
  private embeds(url: string): void {
    const size = embeddedSize(url)
    if (!size) return this.refuse('unreadable embedded image')
    this.embedded += size.width * size.height
    if (this.embedded > mostEmbedded) this.refuse(`embedded images exceed ${mostEmbedded} pixels`)
  }

  private styles(words: string): void {
    if (/@import|@font-face/i.test(words) || /url\(\s*["']?(?!#)[^)]/i.test(words)) this.refuse('external references not allowed')
  }

  /** Elements that are drawn, what is used counted as often as it is. */
  private drawn(node: Node, known: Map<Node, number>, above: Set<Node>): number {
    const before = known.get(node)
    if (before !== undefined) return before
    if (above.has(node)) return (this.refuse('circular reference'), mostDrawn + 1)
    above.add(node)
    let sum = node.own
    for (const id of node.uses) {
      const used = this.byId.get(id)
      if (used) sum = Math.min(mostDrawn + 1, sum + this.drawn(used, known, above))
      if (sum > mostDrawn) break
    }
    above.delete(node)
    known.set(node, sum)
    return sum
  }
}

/** Pixels that a drawing says it has, or has in its own measure where it does not. */
function sizeOf(attributes: Record<string, string>): { width: number; height: number } | null {
  const box = (attributes['viewBox'] ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number)
  const [boxWide, boxHigh] = box.length === 4 && box.every(Number.isFinite) ? [box[2]!, box[3]!] : [0, 0]
  const wide = lengthOf(attributes['width'])
  const high = lengthOf(attributes['height'])
  const width = wide ?? (high && boxHigh ? (high * boxWide) / boxHigh : boxWide)
  const height = high ?? (wide && boxWide ? (wide * boxHigh) / boxWide : boxHigh)
  return width > 0 && height > 0 ? { width: Math.max(1, Math.round(width)), height: Math.max(1, Math.round(height)) } : null
}

/**
 * Walks a drawing in SVG (1.1, in UTF-8) before anything draws it: whole XML, nothing from outside, no script, no text (there are no
 * fonts where it is drawn), no more parts than can be drawn, also where one is used many times. Its own size, px. Problem:
 * `picture.drawing` (what).
 */
export function walkSvg(bytes: Uint8Array): Result<{ width: number; height: number }> {
  const text = bytesToText(bytes, 'utf-8')
  if (text.includes('\ufffd') || text.length === 0) return bad('picture.drawing', { what: 'not UTF-8 text' })
  return new Walk(text.replace(/^\ufeff/, '')).result
}
