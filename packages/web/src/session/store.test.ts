import { expect, test } from 'vitest'
import { Store } from './store.ts'

test('who watches hears of what is another value, once, and of nothing else', () => {
  const store = new Store<{ page: string; widgets: string[]; swept: null | { at: number } }>({
    page: 'a',
    widgets: [],
    swept: null,
  })
  const heard: unknown[] = []
  const stop = store.subscribe(() => heard.push(store.value))
  const before = store.value
  store.set({})
  store.set({ page: 'a', swept: null, widgets: before.widgets })
  expect([heard, store.value]).toEqual([[], before])
  expect(store.value).toBe(before)
  store.set({ page: 'b', swept: null })
  expect(heard).toEqual([{ page: 'b', widgets: [], swept: null }])
  expect(before.page).toBe('a')
  // Another object is another value, whatever is in it.
  store.set({ widgets: [] })
  expect(heard.length).toBe(2)
  stop()
  store.set({ page: 'c' })
  expect(heard.length).toBe(2)
})
