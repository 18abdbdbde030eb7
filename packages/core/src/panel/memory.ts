import { bytesToWords, sameJson, wordsToPayload, type Order } from '../base/index.ts'
import type { BuildHeader } from '../compile/index.ts'
import type { BuildCell } from '../project/index.ts'
import type { PlacedBytes, Reason } from '../frames/index.ts'
import { lookNames, type Look } from '../palette/index.ts'
import {
  CellIndex,
  decodeValue,
  encodeValue,
  freshValue,
  isInMemory,
  isInOwnWords,
  inBounds,
  isInRange,
  systemVariableNamed,
  systemVariables,
  systemVariablesIn,
  systemWords,
  wordsOf,
  unknownTime,
  type Cell,
  type PanelHas,
  type PlacedVariable,
  type Value,
} from '../variables/index.ts'
import type { Following } from './follow.ts'

/** The words of a panel. Knows what a host may write; tells who watches which words changed. */
export class Memory {
  words = new Uint16Array(0x10000)
  /** The words as host and panel last agreed on them: what a report that was refused goes back to. */
  private agreed = new Uint16Array(0x10000)
  /** Words that host or touch have written since power-on. */
  private written = new Uint8Array(0x10000)
  private pageNumbers!: Set<number>
  private popUpNumbers!: Set<number>
  private texts!: readonly Cell[]
  private cells!: CellIndex<Cell>
  /** Indexes of the variables that start with another value than one of which nothing was said. */
  private chosenStarts!: Set<number>

  constructor(
    private header: BuildHeader,
    private changed: (address: number, words: number) => void,
  ) {
    this.know(header)
    for (const { cell, initial } of header.cells) this.words.set(initial, cell.address)
    for (const variable of systemVariables())
      if (variable.atPowerOn && this.hasPlace(variable))
        this.words.set(this.systemWords(variable, variable.atPowerOn), this.addressOf(variable))
    this.words[this.addressOf(systemVariableNamed('page'))] = header.startPage ?? 0
    this.words[this.addressOf(systemVariableNamed('version'))] = header.version
    const contract = systemVariableNamed('contract')
    if (this.hasPlace(contract)) this.words.set(this.systemWords(contract, header.contract), this.addressOf(contract))
    this.words[this.addressOf(systemVariableNamed('look'))] = lookNames.indexOf(looksOf(header)[0]!)
    this.agreed.set(this.words)
  }

  private know(header: BuildHeader): void {
    this.pageNumbers = new Set(header.pages.flatMap((p) => (p.kind === 'page' ? [p.number] : [])))
    this.popUpNumbers = new Set(header.pages.flatMap((p) => (p.kind === 'page' ? [] : [p.number])))
    if (this.cells && header.cells === this.header.cells) return
    this.texts = header.cells.flatMap(({ cell }) => (cell.holds.type === 'text' ? [cell] : []))
    this.chosenStarts = new Set(
      header.cells.flatMap(({ cell, initial }) => {
        const fresh = encodeValue(cell.holds, freshValue(cell.holds), cell.order)
        return fresh.ok && sameWords(fresh.value, initial) ? [] : [cell.index]
      }),
    )
    this.cells = new CellIndex(
      header.cells.map(({ cell }) => cell),
      (cell) => cell,
    )
  }

  /** The variables that have words in a span. */
  cellsIn(address: number, words: number): Set<Cell> {
    return this.cells.in(address, words)
  }

  /**
   * Takes another build: every variable keeps its words where they mean the same, its value where only their order is
   * another, and begins anew where its type or range is another. One that nobody has written follows its start value.
   * Says whose values were reset, and whose start value is another than what they have.
   */
  become(header: BuildHeader, variables: Following): { reset: string[]; startsAt: string[] } {
    const before = this.header
    const told: { reset: string[]; startsAt: string[] } = { reset: [], startsAt: [] }
    this.know(header)
    this.header = header
    const own = { from: before.memory.ownFrom, to: header.memory.ownFrom }
    const sameOwn = own.from === own.to && before.memory.order === header.memory.order
    if (header.cells !== before.cells || !sameOwn) this.moveWords(header, variables, own, before.memory.order, told)
    this.store(this.addressOf(systemVariableNamed('version')), [header.version])
    const contract = systemVariableNamed('contract')
    if (this.hasPlace(contract)) this.store(this.addressOf(contract), this.systemWords(contract, header.contract))
    const looks = looksOf(header)
    if (!looks.includes(this.look)) this.setOwn('look', lookNames.indexOf(looks[0]!))
    return told
  }

  private moveWords(
    header: BuildHeader,
    variables: Following,
    own: { from: number; to: number },
    order: Order,
    told: { reset: string[]; startsAt: string[] },
  ): void {
    const [words, agreed, written] = [this.words, this.agreed, this.written]
    this.words = new Uint16Array(0x10000)
    this.agreed = new Uint16Array(0x10000)
    this.written = new Uint8Array(0x10000)
    for (const { cell, initial } of header.cells) {
      this.words.set(initial, cell.address)
      this.agreed.set(initial, cell.address)
    }
    for (const { name, from, to, same } of variables.list) {
      const [a, b] = [from.cell, to.cell]
      const hasWritten = written.subarray(a.address, a.address + a.words).includes(1)
      const before = words.subarray(a.address, a.address + a.words)
      const started = sameWords(before, from.initial)
      if (!hasWritten && started) continue
      if (same || sameJson(a.holds, b.holds)) {
        const carried = (all: Uint16Array) =>
          same
            ? all.subarray(a.address, a.address + a.words)
            : (this.encode(b, decodeValue(a.holds, all.subarray(a.address, a.address + a.words), a.order)) ?? to.initial)
        this.words.set(carried(words), b.address)
        this.agreed.set(carried(agreed), b.address)
        this.written.fill(hasWritten ? 1 : 0, b.address, b.address + b.words)
        if (!sameWords(from.initial, to.initial)) told.startsAt.push(name)
      } else if (decodeValue(a.holds, before, a.order) !== this.read(b).value) told.reset.push(name)
    }
    // A module whose memory ends sooner has fewer of them.
    const count = Math.min(systemWords(), 0x10000 - own.from, 0x10000 - own.to)
    this.words.set(words.subarray(own.from, own.from + count), own.to)
    this.agreed.set(words.subarray(own.from, own.from + count), own.to)
    if (order === header.memory.order) return
    for (const variable of systemVariables()) {
      const at = own.to + variable.offset
      if (wordsOf(variable.holds) === 2 && this.hasPlace(variable)) this.words.set([this.words[at + 1]!, this.words[at]!], at)
    }
  }

  /** Whether host or touch have written a variable since power-on. */
  isWritten(cell: Cell): boolean {
    for (let k = 0; k < cell.words; k++) if (this.written[cell.address + k]) return true
    return false
  }

  /** Whether there is a value to show before anybody has written one: a start value that somebody chose. */
  isKnown(cell: Cell): boolean {
    return this.isWritten(cell) || this.chosenStarts.has(cell.index)
  }

  /** Gives a variable its start value again, as if nobody had ever written it. */
  reset({ cell, initial }: BuildCell): void {
    this.written.fill(0, cell.address, cell.address + cell.words)
    this.agreed.set(initial, cell.address)
    this.store(cell.address, initial)
  }

  /** Both sides know these words now: the host wrote them, or has confirmed a report of them. */
  agree(address: number, words: ArrayLike<number>): void {
    this.agreed.set(words, address)
  }

  /** Words that the host would not have: they become again what both sides last agreed on. */
  takeBack(address: number, words: number): void {
    this.store(address, this.agreed.slice(address, address + words))
  }

  /** Memory may end before the last of them. */
  private hasPlace(variable: PlacedVariable): boolean {
    return this.addressOf(variable) + wordsOf(variable.holds) <= 0x10000
  }

  private addressOf({ offset }: PlacedVariable): number {
    return this.header.memory.ownFrom + offset
  }

  /** The first word of a system variable, by its name. */
  own(name: string): number {
    return this.words[this.addressOf(systemVariableNamed(name))]!
  }

  /** Sets a system variable as the panel itself does. */
  setOwn(name: string, value: number): void {
    const variable = systemVariableNamed(name)
    this.store(this.addressOf(variable), this.systemWords(variable, value))
  }

  /** The look that is shown. */
  get look(): Look {
    return lookNames[this.own('look')] ?? 'night'
  }

  /** The words of a raw value of a system variable. */
  private systemWords({ holds }: PlacedVariable, raw: number): number[] {
    if (wordsOf(holds) === 1) return [raw]
    const [low, high] = [raw % 65536, Math.floor(raw / 65536)]
    return this.header.memory.order === 'low' ? [low, high] : [high, low]
  }

  /** The time of day, s since midnight; null until someone has set it. */
  clock(): number | null {
    const at = this.addressOf(systemVariableNamed('clock'))
    const seconds = Number(decodeValue({ type: 'time' }, this.words.subarray(at, at + 2), this.header.memory.order))
    return seconds === unknownTime ? null : seconds
  }

  read(cell: Cell): { value: Value; inRange: boolean } {
    const value = this.decode(cell, this.words.subarray(cell.address, cell.address + cell.words))
    return { value, inRange: isInRange(cell.holds, value) }
  }

  /** The value that some words would be in a cell. */
  decode(cell: Cell, words: Uint16Array): Value {
    return decodeValue(cell.holds, words, cell.order)
  }

  /** A value brought into the range of its cell; no touch and no rule makes the glass darker than anybody reads. */
  bounded(cell: Cell, value: Value): Value {
    const inside = inBounds(cell.holds, value)
    return cell.address === this.addressOf(systemVariableNamed('backlight')) && typeof inside === 'number'
      ? Math.max(inside, this.header.conduct.darkest)
      : inside
  }

  /** The words of a value in shown units; null where it does not fit the type. */
  encode(cell: Cell, value: Value): Uint16Array | null {
    const encoded = encodeValue(cell.holds, value, cell.order)
    return encoded.ok ? encoded.value : null
  }

  wordsOf(cell: Cell): Uint16Array {
    return this.words.slice(cell.address, cell.address + cell.words)
  }

  /** Writes a value in shown units; what does not fit its type is left out. Returns whether it was written. */
  write(cell: Cell, value: Value): boolean {
    const words = this.encode(cell, value)
    if (words) this.store(cell.address, words)
    return words !== null
  }

  /** Writes a value of the panel itself, within the limits of system variables. Returns whether it was written. */
  panelWrite(address: number, words: Uint16Array): boolean {
    if (this.mayWrite(address, words)) return false
    this.storeSaid(address, words)
    return true
  }

  /** The bytes of some words as they stand in memory. */
  bytesOf(address: number, words: number): number[] {
    return wordsToPayload(this.words.subarray(address, address + words), this.header.memory.order)
  }

  /** Words of memory as the payload of a message, and back. */
  payloadOf(words: Uint16Array): number[] {
    return wordsToPayload(words, this.header.memory.order)
  }

  wordsIn(payload: readonly number[]): Uint16Array {
    return bytesToWords(payload, this.header.memory.order)
  }

  /** Writes values of a host, all or none: null when written, or the reason why not. */
  hostWrite(address: number, payload: readonly number[]): Reason | null {
    return this.hostWritePlaces([{ address, payload }])
  }

  /** The same of several places. */
  hostWritePlaces(places: readonly PlacedBytes[]): Reason | null {
    const writes: { address: number; words: Uint16Array }[] = []
    for (const { address, payload } of places) {
      const words = this.wordsToWrite(address, payload)
      if (!words) return 'length'
      writes.push({ address, words })
    }
    return this.hostWriteAll(writes)
  }

  private take(address: number, words: Uint16Array): Reason | null {
    const reason = this.mayWrite(address, words)
    if (reason) return reason
    this.agreed.set(words, address)
    this.storeSaid(address, words)
    return null
  }

  /**
   * Writes of a payload. One that ends inside a text clears the rest of that variable, and may have an odd number of
   * bytes there; anywhere else half a word is refused: null.
   */
  private wordsToWrite(address: number, payload: readonly number[]): Uint16Array | null {
    const count = Math.ceil(payload.length / 2)
    const last = address + count - 1
    const text = this.texts.find((cell) => last >= cell.address && last < cell.address + cell.words)
    if (!count || (payload.length % 2 && !text)) return null
    const whole = new Uint8Array(2 * (text ? text.address + text.words - address : count))
    whole.set(payload)
    return bytesToWords(whole, this.header.memory.order)
  }

  /** Writes several values of a host, all or none. */
  hostWriteAll(writes: readonly { address: number; words: Uint16Array }[]): Reason | null {
    for (const { address, words } of writes) {
      const reason = this.mayWrite(address, words)
      if (reason) return reason
    }
    for (const { address, words } of writes) this.take(address, words)
    return null
  }

  hostSetBits(address: number, mask: number, bits: number): Reason | null {
    const words = Uint16Array.of((this.words[address]! & ~mask) | (bits & mask))
    return this.take(address, words)
  }

  /** Whether a span is memory at all. */
  isThere(address: number, words: number): boolean {
    const span = { address, words }
    const { memory } = this.header
    return isInMemory(memory, span) || (address >= memory.ownFrom && address + words <= memory.ownTo)
  }

  private mayWrite(address: number, words: Uint16Array): Reason | null {
    const { memory } = this.header
    if (!this.isThere(address, words.length)) return 'address'
    if (!isInOwnWords(memory, { address, words: words.length })) return null
    const from = address - memory.ownFrom
    const written = systemVariablesIn(from, words.length)
    const isHole = (at: number) => !written.some((one) => at >= one.offset && at < one.offset + wordsOf(one.holds))
    for (let i = 0; i < words.length; i++) if (isHole(from + i)) return 'not writable'
    if (written.some((variable) => !variable.writable)) return 'not writable'
    // Each as it would be afterwards, also where only one of its two words is written.
    return written.every((variable) => this.isAllowed(variable, (at) => words[at - address] ?? this.words[at]!)) ? null : 'value'
  }

  private isAllowed(variable: PlacedVariable, wordAt: (address: number) => number): boolean {
    const at = this.addressOf(variable)
    const { holds } = variable
    const [first, second] = this.header.memory.order === 'low' ? [at, at + 1] : [at + 1, at]
    const raw = wordsOf(holds) === 1 ? wordAt(at) : wordAt(first) + 65536 * wordAt(second)
    if (holds.type === 'u16' && (raw < holds.min || raw > holds.max)) return false
    return variable.allows?.(raw, this.has) ?? true
  }

  private has: PanelHas = {
    isPage: (number) => this.pageNumbers.has(number),
    isPopUp: (number) => this.popUpNumbers.has(number),
    hasLook: (value) => looksOf(this.header).some((look) => lookNames.indexOf(look) === value),
  }

  /** A received value: known from now on, which is a change even if it equals the initial value. */
  private storeSaid(address: number, words: Uint16Array): void {
    const isFirst = this.written.subarray(address, address + words.length).includes(0)
    this.written.fill(1, address, address + words.length)
    this.store(address, words, isFirst)
  }

  private store(address: number, words: ArrayLike<number>, isFirst = false): void {
    let differs = isFirst
    for (let i = 0; i < words.length; i++) {
      if (this.words[address + i] !== words[i]) differs = true
      this.words[address + i] = words[i]!
    }
    if (differs) this.changed(address, words.length)
  }
}

const looksOf = ({ looks }: BuildHeader): readonly Look[] => (looks === 'both' ? lookNames : [looks])

const sameWords = (a: ArrayLike<number>, b: ArrayLike<number>): boolean => {
  for (let k = 0; k < b.length; k++) if (a[k] !== b[k]) return false
  return true
}
