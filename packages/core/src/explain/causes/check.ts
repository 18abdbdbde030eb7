import {
  checksumFunction,
  checksumNames,
  checksums,
  checksumSize,
  putNumber,
  takeNumber,
  toHex,
  type Order,
} from '../../base/index.ts'
import { bodyOfPieces, partsOf, standingParts, wayOf, isCheck, isPayload, type BinaryWay, type Form } from '../../frames/index.ts'
import {
  causeOf,
  checkBits,
  isPlausible,
  sureOf,
  wholeFrame,
  wordsOf,
  type Cause,
  type CauseFinder,
  type Mark,
  type Suspect,
} from './cause.ts'

const checkMarks = ({ anatomy }: Suspect): Mark[] =>
  anatomy.pieces.filter(({ kind }) => kind === 'checksum').map(({ from, to }) => ({ from, to }))

/** The message of a frame once its check is right; null where it is none even so. */
function contentsOf(suspect: Suspect) {
  const right = suspect.protocol.mend(suspect.direction, suspect.bytes)
  const message = right && wholeFrame(suspect, suspect.direction, right)
  return right && message ? { right, message } : null
}

/** The bytes of the check as they are, and as they would be right. */
function bothChecks(suspect: Suspect, right: Uint8Array): { found: Uint8Array; wanted: Uint8Array } | null {
  const of = (anatomy: Suspect['anatomy']) => anatomy.pieces.find(({ kind }) => kind === 'checksum')?.plain
  const [found, wanted] = [of(suspect.anatomy), of(suspect.protocol.dissect(suspect.direction, right))]
  return found && wanted ? { found, wanted } : null
}

/** The bytes of the check in each other's place. */
export const checkSwapped: CauseFinder = (suspect) => {
  if (suspect.code !== 'check') return null
  const contents = contentsOf(suspect)
  const both = contents && bothChecks(suspect, contents.right)
  if (!contents || !both || both.found.length < 2) return null
  const isTurned = both.found.every((byte, k) => byte === both.wanted[both.wanted.length - 1 - k])
  if (!isTurned || both.found.every((byte, k) => byte === both.wanted[k])) return null
  const sure = sureOf(both.found.length * 8, 1, isPlausible(suspect, contents.message))
  return causeOf(
    'check-swapped',
    sure,
    { right: toHex(both.wanted), reads: wordsOf(suspect, contents.message) },
    checkMarks(suspect),
  )
}

/** A check begins so far from the start at most. */
const furthest = 6

/** Another algorithm of the catalogue, or the same over other bytes, gives what stands there. */
export const checkKind: CauseFinder = (suspect) => {
  const { layout, direction, anatomy, code } = suspect
  const way = wayOf(layout, direction)
  if (code !== 'check' || way.kind !== 'binary') return null
  const contents = contentsOf(suspect)
  const place = contents && placeOfCheck(way, suspect)
  if (!contents || !place) return null
  const body = bodyOfPieces(anatomy.pieces)
  const size = place.to - place.from
  let tries = 0
  const found: { other: string }[] = []
  const isOwn = (name: string, order: Order, from: number) =>
    name === place.algorithm && order === place.order && from === place.first
  for (const name of checksumNames) {
    if (checksumSize(name) !== size) continue
    const run = checksumFunction(name)
    for (const order of size > 1 ? (['low', 'high'] as const) : (['high'] as const))
      for (let from = 0; from <= furthest && from < place.from - 1; from++) {
        tries++
        if (isOwn(name, order, from) || run(body, from, place.from) !== takeNumber(body, place.from, size, order)) continue
        const ends = size > 1 ? `, ${order} byte first` : ''
        found.push({ other: `${checksums[name].label}${ends}, from byte ${from + 1}` })
      }
  }
  const [first] = found
  if (!first) return null
  const sure = sureOf(size * 8, tries, false)
  const facts = { other: first.other, own: place.label, reads: wordsOf(suspect, contents.message) }
  return causeOf('check-kind', sure, facts, checkMarks(suspect))
}

interface CheckPlace extends Mark {
  algorithm: string
  order: Order
  first: number
  label: string
}

/** The check of the form that a frame has, and where it stands in the body. */
function placeOfCheck(way: BinaryWay, { anatomy, direction }: Suspect): CheckPlace | null {
  const body = bodyOfPieces(anatomy.pieces)
  const kinds = anatomy.pieces.map(({ kind }) => kind)
  for (const form of way.forms.filter((one) => one.directions.includes(direction))) {
    const fixed = standingParts(way, form, 0).at(-1)?.to ?? 0
    const payload = body.length - fixed
    if (payload < 0 || (payload > 0 && !partsOf(way, form).some(isPayload))) continue
    const standing = standingParts(way, form, payload).find(({ part }) => isCheck(part))
    if (!standing || !hasParts(kinds, way, form)) continue
    const { part, from, to } = standing
    if (part.part !== 'checksum' || part.spelling !== 'binary' || part.algorithm === 'own crc') return null
    const start = 'start' in way.framing ? way.framing.start.length : 0
    const first =
      part.covers === 'everything before'
        ? 0
        : part.covers === 'after the start'
          ? start
          : part.covers === 'from byte'
            ? part.first
            : -1
    return { from, to, algorithm: part.algorithm, order: part.order, first, label: checksums[part.algorithm].label }
  }
  return null
}

const hasParts = (kinds: readonly string[], way: BinaryWay, form: Form): boolean =>
  partsOf(way, form).every(({ part }) => kinds.includes(part) || part === 'payload' || part === 'digits' || part === 'pairs')

/** A longer frame is not searched for a flipped bit. */
const mostSearched = 300

/** The one bit with which, turned, a frame is good; nothing where there is none, or more than one. */
export const flipped: CauseFinder = (suspect) => {
  const { bytes, protocol, direction, code } = suspect
  if (code !== 'check' || bytes.length > mostSearched) return null
  const hint = protocol.hint(direction, bytes, code).find((one) => one.code === 'hint.flipped')
  if (!hint?.reads) return null
  const at = Number(hint.facts['byte']) - 1
  const sure = sureOf(checkBits(suspect.anatomy), bytes.length * 8, isPlausible(suspect, hint.reads))
  return causeOf('flipped', sure, { ...hint.facts, reads: wordsOf(suspect, hint.reads) }, [{ from: at, to: at + 1 }])
}

/** The check is what is wrong, whatever the reason. */
export const checkWrong: CauseFinder = (suspect) => {
  if (suspect.code !== 'check') return null
  const contents = contentsOf(suspect)
  const both = contents && bothChecks(suspect, contents.right)
  if (!contents || !both) return null
  const reads = wordsOf(suspect, contents.message)
  return causeOf(
    'check',
    'possible',
    { right: suspect.anatomy.isText ? String.fromCharCode(...both.wanted) : toHex(both.wanted), reads },
    checkMarks(suspect),
  )
}

/** The length counts from another place than the layout says. */
export const lengthWrong: CauseFinder = (suspect): Cause | null => {
  const { bytes, protocol, direction, layout } = suspect
  const way = wayOf(layout, direction)
  if (way.kind !== 'binary' || bytes.length > mostSearched) return null
  const right = protocol.mend(direction, bytes)
  const message = right && wholeFrame(suspect, direction, right)
  if (!right || !message || right.length !== bytes.length) return null
  const anatomy = protocol.dissect(direction, right)
  const length = anatomy.pieces.find(({ kind }) => kind === 'length')
  if (!length) return null
  const isChanged = (at: number) => right[at] !== bytes[at]
  const inside = (at: number, kind: string) =>
    anatomy.pieces.some((piece) => piece.kind === kind && at >= piece.from && at < piece.to)
  const changed = [...right.keys()].filter(isChanged)
  if (!changed.some((at) => inside(at, 'length')) || !changed.every((at) => inside(at, 'length') || inside(at, 'checksum')))
    return null
  const part = way.forms.flatMap((form) => partsOf(way, form)).find((one) => one.part === 'length')
  if (part?.part !== 'length' || part.spelling !== 'binary') return null
  const number = (from: Uint8Array) => takeNumber(from, length.from, part.size, part.order)
  const [said, wanted] = [number(bytes), number(right)]
  // Where the check fits the frame as it was sent, the sender means what it says.
  const isMeant = !changed.some((at) => inside(at, 'checksum')) || checkOf(suspect, way, bytes) === true
  const bits = isMeant ? checkBits(anatomy) : 0
  const counts = countsWords(said, bytes.length, length.to, anatomy)
  // That it counts otherwise is more than that it is wrong: one frame cannot prove it.
  const proven = sureOf(bits, 2, isPlausible(suspect, message))
  const sure = counts && proven === 'certain' ? 'likely' : proven
  const facts = {
    said,
    right: wanted,
    counts,
    reads: wordsOf(suspect, message),
  }
  return causeOf('length', sure, facts, [{ from: length.from, to: length.to }])
}

/** Whether the check of a frame fits its bytes as they stand, whatever its length says. */
function checkOf(suspect: Suspect, way: BinaryWay, bytes: Uint8Array): boolean | null {
  const right = suspect.protocol.mend(suspect.direction, bytes)
  if (!right) return null
  const place = placeOfCheck(way, { ...suspect, anatomy: suspect.protocol.dissect(suspect.direction, right) })
  if (!place || place.first < 0) return null
  const name = checksumNames.find((one) => one === place.algorithm)!
  const body = bytes.slice()
  const wanted = new Uint8Array(place.to - place.from)
  putNumber(wanted, 0, wanted.length, place.order, checksumFunction(name)(body, place.first, place.from))
  return wanted.every((byte, k) => body[place.from + k] === byte)
}

/** Which count the length would be right for. */
function countsWords(said: number, size: number, behind: number, anatomy: Suspect['anatomy']): string {
  const payload = anatomy.pieces.find(({ kind }) => kind === 'payload')
  const check = anatomy.pieces.find(({ kind }) => kind === 'checksum')
  if (said === size) return ': it counts the whole frame'
  if (said === size - behind) return ': it counts the bytes behind it'
  if (payload && said === payload.to - payload.from) return ': it counts the data only'
  if (check && said === size - behind - (check.to - check.from)) return ': it leaves the checksum out'
  if (said === size - behind + 1) return ': it counts itself too'
  return ''
}
