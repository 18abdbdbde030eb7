import { bytesToWords, wordsToPayload } from '../base/index.ts'
import type { BuildHeader } from '../compile/index.ts'
import type { Reason } from '../frames/index.ts'
import {
  decodeValue,
  encodeValue,
  isInMemory,
  isInOwnWords,
  isInRange,
  ownOffset,
  ownWords,
  type Cell,
  type Value,
} from '../variables/index.ts'

/** The words of a panel. Knows what a host may write; tells who watches which words changed. */
export class Memory {
  readonly words = new Uint16Array(0x10000)
  private pageNumbers: Set<number>
  private texts: readonly Cell[]

  constructor(
    private header: BuildHeader,
    private changed: (address: number, words: number) => void,
  ) {
    this.texts = header.cells.flatMap(({ cell }) => (cell.holds.type === 'text' ? [cell] : []))
    this.pageNumbers = new Set(header.pages.map((p) => p.number))
    for (const { cell, initial } of header.cells) this.words.set(initial, cell.address)
    this.setOwn('page', header.startPage)
    this.setOwn('backlight', 100)
    this.setOwn('version', header.version)
  }

  private ownAddress(name: keyof typeof ownOffset): number {
    return this.header.memory.ownFrom + ownOffset[name]
  }

  own(name: keyof typeof ownOffset): number {
    return this.words[this.ownAddress(name)]!
  }

  /** Sets an own word as the panel itself does. */
  setOwn(name: keyof typeof ownOffset, value: number): void {
    const address = this.ownAddress(name)
    if (name === 'clock') return this.store(address, this.clockWords(value))
    this.store(address, [value])
  }

  private clockWords(seconds: number): number[] {
    const [low, high] = [seconds % 65536, Math.floor(seconds / 65536)]
    return this.header.memory.order === 'low' ? [low, high] : [high, low]
  }

  clock(): number {
    return Number(
      decodeValue(
        { type: 'time' },
        this.words.subarray(this.ownAddress('clock'), this.ownAddress('clock') + 2),
        this.header.memory.order,
      ),
    )
  }

  read(cell: Cell): { value: Value; inRange: boolean } {
    const value = this.decode(cell, this.words.subarray(cell.address, cell.address + cell.words))
    return { value, inRange: isInRange(cell.holds, value) }
  }

  /** The value that some words would be in a cell. */
  decode(cell: Cell, words: Uint16Array): Value {
    return decodeValue(cell.holds, words, cell.order)
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

  /** What the panel itself writes, bound by the limits of its own words like any host. Returns whether it was written. */
  panelWrite(address: number, words: Uint16Array): boolean {
    if (this.mayWrite(address, words)) return false
    this.store(address, words)
    return true
  }

  /** Takes over the words that another memory has for a cell: of the same type, in the same order. */
  copy(to: Cell, from: Memory, cell: Cell): void {
    this.store(to.address, from.words.subarray(cell.address, cell.address + cell.words))
  }

  /** The bytes of some words as they stand in memory. */
  bytesOf(address: number, words: number): number[] {
    return wordsToPayload(this.words.subarray(address, address + words), this.header.memory.order)
  }

  /** What a host wants to write, wholly or not at all: null when it was written, or why not. */
  hostWrite(address: number, payload: readonly number[]): Reason | null {
    const words = this.wordsIn(address, payload)
    if (!words) return 'length'
    const reason = this.mayWrite(address, words)
    if (!reason) this.store(address, words)
    return reason
  }

  /**
   * What a payload writes. One that ends inside a text clears the rest of that variable, and may have an odd number of
   * bytes there; anywhere else half a word is refused: null.
   */
  private wordsIn(address: number, payload: readonly number[]): Uint16Array | null {
    const count = Math.ceil(payload.length / 2)
    const last = address + count - 1
    const text = this.texts.find((cell) => last >= cell.address && last < cell.address + cell.words)
    if (!count || (payload.length % 2 && !text)) return null
    const whole = new Uint8Array(2 * (text ? text.address + text.words - address : count))
    whole.set(payload)
    return bytesToWords(whole, this.header.memory.order)
  }

  hostSetBits(address: number, mask: number, bits: number): Reason | null {
    const words = Uint16Array.of((this.words[address]! & ~mask) | (bits & mask))
    const reason = this.mayWrite(address, words)
    if (!reason) this.store(address, words)
    return reason
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
    for (let i = 0; i < words.length; i++) {
      const word = ownWords.find(
        (w) =>
          address + i >= memory.ownFrom + w.offset && address + i < memory.ownFrom + w.offset + (w.holds.type === 'time' ? 2 : 1),
      )
      if (!word?.writable) return 'not writable'
      if (word.name === 'page' && !this.pageNumbers.has(words[i]!)) return 'value'
      if (word.holds.type === 'u16' && (words[i]! < word.holds.min || words[i]! > word.holds.max)) return 'value'
    }
    const clockAt = memory.ownFrom + ownOffset.clock
    // As it would be afterwards, also where only one of its two words is written.
    const clock = [clockAt, clockAt + 1].map((at) => words[at - address] ?? this.words[at]!)
    if (Number(decodeValue({ type: 'time' }, Uint16Array.from(clock), this.header.memory.order)) > 86_399) return 'value'
    return null
  }

  private store(address: number, words: ArrayLike<number>): void {
    let differs = false
    for (let i = 0; i < words.length; i++) {
      if (this.words[address + i] !== words[i]) differs = true
      this.words[address + i] = words[i]!
    }
    if (differs) this.changed(address, words.length)
  }
}
