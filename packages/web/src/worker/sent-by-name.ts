/** Values by name as the page has been told them. */
export class SentByName<T> {
  private told = new Map<string, string>()

  /**
   * Of some values, or of `all` that there are, those that are others than told; null: none. With another set of names, or in
   * another order, all of them.
   */
  news(values: readonly (readonly [string, T])[], all: boolean): { all: boolean; of: (readonly [string, T])[] } | null {
    const names = all ? [...this.told.keys()] : []
    const others = all && (names.length !== values.length || values.some(([name], k) => name !== names[k]))
    if (others) this.told.clear()
    const of = values.filter(([name, value]) => {
      const text = JSON.stringify(value)
      if (this.told.get(name) === text) return false
      this.told.set(name, text)
      return true
    })
    return others || of.length ? { all: others, of } : null
  }
}
