import { useSyncExternalStore } from 'react'

/** A value that parts of the page watch. Each new value is a new object. */
export class Store<T> {
  private listeners = new Set<() => void>()

  /** `before`: hears of a change before it is one. */
  constructor(
    public value: T,
    private before?: (change: Partial<T>) => void,
  ) {}

  /** Those who watch hear of it where something is another value than before. */
  set(change: Partial<T>): void {
    const keys = Object.keys(change) as (keyof T)[]
    if (keys.every((key) => Object.is(change[key], this.value[key]))) return
    this.before?.(change)
    this.value = { ...this.value, ...change }
    for (const listener of this.listeners) listener()
  }

  subscribe = (listener: () => void) => {
    this.listeners.add(listener)
    return () => void this.listeners.delete(listener)
  }
}

/** The part of a store that a component needs; it renders again when that part is another. */
export const useStore = <T, P>(store: Store<T>, part: (value: T) => P): P =>
  useSyncExternalStore(store.subscribe, () => part(store.value))
