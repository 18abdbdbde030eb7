// Takes icons out of @phosphor-icons/core (MIT) and keeps them as cubic curves:
//   npm pack @phosphor-icons/core, unpack it, then  npx tsx scripts/icons.ts FOLDER-OF-THE-PACKAGE
// The package is not needed for anything else, so it is none of ours.
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

const names = `
airplane airplane-in-flight alarm anchor arrow-arc-left arrow-arc-right arrow-bend-up-left arrow-bend-up-right arrow-clockwise
arrow-counter-clockwise arrow-down arrow-elbow-down-left arrow-elbow-down-right arrow-fat-down arrow-fat-left arrow-fat-right
arrow-fat-up arrow-left arrow-line-down arrow-line-left arrow-line-right arrow-line-up arrow-right arrow-square-down
arrow-square-left arrow-square-right arrow-square-up arrow-u-down-left arrow-u-up-left arrow-up arrows-clockwise
arrows-counter-clockwise arrows-horizontal arrows-in arrows-left-right arrows-out arrows-out-cardinal arrows-vertical asterisk at
barbell barcode bathtub battery-charging battery-empty battery-full battery-high battery-low battery-medium battery-warning bed
beer-bottle bell bell-ringing bell-slash bell-z bicycle binoculars bird blueprint bluetooth boat bomb book book-open bookmark books
boot bounding-box bowl-food brain briefcase broadcast bug buildings bus butterfly calculator calendar calendar-check camera
camera-slash campfire car car-battery cardholder caret-circle-down caret-circle-up caret-double-down caret-double-left
caret-double-right caret-double-up caret-down caret-left caret-right caret-up carrot cell-signal-full cell-signal-high
cell-signal-low cell-signal-medium cell-signal-none chair charging-station chart-bar chart-line chart-line-up chart-pie chat
chat-circle check check-circle check-square checks circle circle-half circle-notch clipboard clock clock-afternoon
clock-clockwise clock-counter-clockwise cloud cloud-fog cloud-lightning cloud-moon cloud-rain cloud-slash cloud-snow cloud-sun
coffee coins columns command compass compass-tool computer-tower copy corners-in corners-out couch cpu crane credit-card crop
crosshair crosshair-simple cube cylinder database desktop diamond disc dog door door-open dots-nine dots-six dots-three
dots-three-vertical download drop drop-half drop-slash ear eject elevator engine envelope equalizer equals eraser eye eye-closed
eye-slash eyedropper factory fan faucet fediverse-logo file file-text film-strip fingerprint fire fire-extinguisher fire-simple
first-aid fish flag flag-checkered flame flashlight flask floppy-disk flow-arrow flower folder folder-open footprints fork-knife
function funnel garage gas-can gas-pump gauge gear gear-six ghost gift globe grains graph guitar hammer hand hand-palm
hand-pointing hand-tap hard-drive hard-hat hash headlights headphones heart heartbeat hexagon hourglass house house-line
house-simple ice-cream image infinity info intersect jeep joystick key keyboard keyhole knife ladder lamp lamp-pendant laptop
leaf lifebuoy light-bulb lightbulb lightbulb-filament lighthouse lightning lightning-slash line-segment link link-break list
list-bullets list-checks list-numbers lock lock-key lock-key-open lock-open lock-simple lock-simple-open magnet magnifying-glass
magnifying-glass-minus magnifying-glass-plus map-pin map-trifold medal megaphone metronome microphone microphone-slash microscope
minus minus-circle minus-square money monitor moon moon-stars motorcycle mountains mouse music-note navigation-arrow network
network-slash nut octagon option orange orange-slice oven package paint-brush paint-bucket paint-roller paper-plane
parallelogram park password path pause pause-circle paw-print pen pencil pencil-simple pentagon pepper percent person
person-simple-run person-simple-walk phone phone-call picnic-table pill pinwheel pipe pipe-wrench pizza placeholder plant play
play-circle play-pause plug plug-charging plugs plugs-connected plus plus-circle plus-minus plus-square polygon power
presentation printer prohibit projector-screen pulse push-pin puzzle-piece qr-code question radical radio radio-button
radioactive rainbow rainbow-cloud receipt record rectangle recycle repeat repeat-once rewind road rocket rocket-launch rows rss
ruler sailboat scales scan scissors screwdriver seat selection-all sensor share shield shield-check shield-warning ship
shipping-container shooting-star shovel shower shuffle sidebar sign-in sign-out siren skip-back skip-forward sliders
sliders-horizontal smiley snowflake soccer-ball solar-panel solar-roof sort-ascending sort-descending spade spanner speaker-high
speaker-low speaker-none speaker-simple-slash speaker-slash speaker-x speedometer spinner square stack stairs star star-half
steering-wheel stethoscope stop stop-circle storefront subtract suitcase sun sun-dim sun-horizon swap swatches swimming-pool
syringe table tag target taxi television tent test-tube thermometer thermometer-cold thermometer-hot thermometer-simple
thumbs-down thumbs-up ticket timer toggle-left toggle-right toilet toolbox tooth tornado tractor traffic-cone traffic-sign
traffic-signal train tram trash tray tree tree-evergreen tree-palm trend-down trend-up triangle trophy truck umbrella unite
upload usb user user-circle users vault vibrate video-camera virus wall wallet warehouse warning warning-circle warning-diamond
warning-octagon washing-machine watch waveform waves webcam wheelchair wifi-high wifi-low wifi-medium wifi-none wifi-slash
wifi-x wind windmill wine wrench x x-circle x-square yin-yang
`
  .trim()
  .split(/\s+/)

type Point = [number, number]

/** The numbers of a path, where a flag of an arc may stand without a blank to the next. */
function tokensOf(path: string): { command: string; numbers: number[] }[] {
  const out: { command: string; numbers: number[] }[] = []
  for (const [, command = '', rest = ''] of path.matchAll(/([MLHVCSQTAZmlhvcsqtaz])([^MLHVCSQTAZmlhvcsqtaz]*)/g)) {
    const numbers: number[] = []
    let text = rest
    while ((text = text.replace(/^[\s,]+/, ''))) {
      const isFlag = command.toLowerCase() === 'a' && (numbers.length % 7 === 3 || numbers.length % 7 === 4)
      const found = (isFlag ? /^[01]/ : /^[+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?/i).exec(text)
      if (!found) throw new Error(`no number: ${text}`)
      numbers.push(Number(found[0]))
      text = text.slice(found[0].length)
    }
    out.push({ command, numbers })
  }
  return out
}

/** An arc of an ellipse as cubic curves of at most a quarter each (SVG 1.1, appendix F.6). */
function arc([x0, y0]: Point, rx: number, ry: number, turn: number, large: number, sweep: number, [x1, y1]: Point): number[][] {
  if (rx === 0 || ry === 0) return [[x0, y0, x1, y1, x1, y1]]
  const phi = (turn * Math.PI) / 180
  const [c, s] = [Math.cos(phi), Math.sin(phi)]
  const [dx, dy] = [(x0 - x1) / 2, (y0 - y1) / 2]
  const [px, py] = [c * dx + s * dy, -s * dx + c * dy]
  const grow = Math.max(1, (px / rx) ** 2 + (py / ry) ** 2)
  const [a, b] = [rx * Math.sqrt(grow), ry * Math.sqrt(grow)]
  const under = a * a * b * b - a * a * py * py - b * b * px * px
  const f = (large === sweep ? -1 : 1) * Math.sqrt(Math.max(0, under / (a * a * py * py + b * b * px * px)))
  const [qx, qy] = [(f * a * py) / b, (-f * b * px) / a]
  const [cx, cy] = [c * qx - s * qy + (x0 + x1) / 2, s * qx + c * qy + (y0 + y1) / 2]
  const from = Math.atan2((py - qy) / b, (px - qx) / a)
  let whole = Math.atan2((-py - qy) / b, (-px - qx) / a) - from
  if (sweep && whole < 0) whole += 2 * Math.PI
  if (!sweep && whole > 0) whole -= 2 * Math.PI
  const parts = Math.max(1, Math.ceil(Math.abs(whole) / (Math.PI / 2) - 1e-9))
  const each = whole / parts
  const k = (4 / 3) * Math.tan(each / 4)
  const at = (angle: number, along: number): Point => {
    const [u, v] = [a * (Math.cos(angle) - along * Math.sin(angle)), b * (Math.sin(angle) + along * Math.cos(angle))]
    return [cx + c * u - s * v, cy + s * u + c * v]
  }
  return Array.from({ length: parts }, (_, n) => {
    const [begin, end] = [from + n * each, from + (n + 1) * each]
    return [...at(begin, k), ...at(end, -k), ...at(end, 0)]
  })
}

const tenth = (n: number): string => String(Math.round(n * 10) / 10)

/** A path as moves, lines, cubic curves and ends alone, all absolute, in tenths of the grid of 256. */
function cubic(path: string): string {
  let at: Point = [0, 0]
  let start: Point = [0, 0]
  let control: Point | null = null
  const out: string[] = []
  const put = (letter: string, ...numbers: number[]) => out.push(letter + numbers.map(tenth).join(' '))
  const curve = (numbers: number[]) => {
    put('C', ...numbers)
    at = [numbers[4]!, numbers[5]!]
  }
  for (const { command, numbers } of tokensOf(path)) {
    const upper = command.toUpperCase()
    const relative = command !== upper
    const sizes: Record<string, number> = { M: 2, L: 2, H: 1, V: 1, C: 6, S: 4, Q: 4, T: 2, A: 7, Z: 0 }
    const size = sizes[upper]!
    for (let n = 0; n < Math.max(1, size ? numbers.length / size : 1); n++) {
      const [ox, oy] = relative ? at : [0, 0]
      const v = numbers.slice(n * size, (n + 1) * size)
      const point = (k: number): Point => [v[k]! + ox, v[k + 1]! + oy]
      if (upper === 'M' && n === 0) {
        at = start = point(0)
        put('M', ...at)
      } else if (upper === 'M' || upper === 'L') put('L', ...(at = point(0)))
      else if (upper === 'H') put('L', ...(at = [v[0]! + ox, at[1]]))
      else if (upper === 'V') put('L', ...(at = [at[0], v[0]! + oy]))
      else if (upper === 'C') {
        const all = [...point(0), ...point(2), ...point(4)]
        control = [all[2]!, all[3]!]
        curve(all)
        continue
      } else if (upper === 'Q') {
        const [q, end] = [point(0), point(2)]
        const between = (a: Point, b: Point): Point => [a[0] + (2 / 3) * (b[0] - a[0]), a[1] + (2 / 3) * (b[1] - a[1])]
        curve([...between(at, q), ...between(end, q), ...end])
      } else if (upper === 'S') {
        const first: Point = control ? [2 * at[0] - control[0], 2 * at[1] - control[1]] : at
        control = point(0)
        curve([...first, ...control, ...point(2)])
        continue
      } else if (upper === 'A')
        for (const part of arc(at, Math.abs(v[0]!), Math.abs(v[1]!), v[2]!, v[3]!, v[4]!, [v[5]! + ox, v[6]! + oy])) curve(part)
      else if (upper === 'Z') {
        out.push('Z')
        at = start
      } else throw new Error(`${command} is not looked for`)
      control = null
    }
  }
  return out.join('')
}

const folder = process.argv[2]
if (!folder) throw new Error('which folder holds the package?')
const icons: Record<string, string> = {}
for (const name of [...new Set(names)].sort()) {
  const file = join(folder, 'assets/bold', `${name}-bold.svg`)
  if (!existsSync(file)) continue
  const svg = readFileSync(file, 'utf8')
  const paths = [...svg.matchAll(/<path d="([^"]+)"/g)].map(([, d]) => d!)
  if (!paths.length || /<(rect|circle|line|polyline|polygon|ellipse)/.test(svg)) continue
  icons[name] = paths.map(cubic).join('')
}
const target = new URL('../packages/core/src/artwork/icons.json', import.meta.url).pathname
writeFileSync(target, `${JSON.stringify(icons, null, 0).replaceAll('","', '",\n"')}\n`)
console.log(`${Object.keys(icons).length} icons, ${Math.round(JSON.stringify(icons).length / 1024)} KiB`)
