type Numbers = Uint8Array | Uint32Array | Int32Array | Float64Array

/** Numbers of one kind that grow at their end: a million of them take as much memory as they have bytes. */
export class Column<T extends Numbers> {
  length = 0
  private items: T

  constructor(private make: new (length: number) => T) {
    this.items = new make(256)
  }

  push(value: number): void {
    this.reserve(this.length + 1)
    this.items[this.length++] = value
  }

  append(values: ArrayLike<number>): void {
    this.reserve(this.length + values.length)
    this.items.set(values, this.length)
    this.length += values.length
  }

  at(k: number): number {
    return this.items[k]!
  }

  /** The items from one to another, which must not be written to. */
  part(from: number, to: number): T {
    return this.items.subarray(from, to) as T
  }

  /** How many items are at most a value, of items that never fall. */
  upTo(value: number): number {
    let [low, high] = [0, this.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if (this.items[middle]! <= value) low = middle + 1
      else high = middle
    }
    return low
  }

  private reserve(length: number): void {
    if (length <= this.items.length) return
    const grown = new this.make(Math.max(length, Math.floor(this.items.length * 1.6)))
    grown.set(this.items)
    this.items = grown
  }
}
