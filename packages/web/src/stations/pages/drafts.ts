import { useState } from 'react'
import type { Session } from '../../session/session.ts'

const drafts = new WeakMap<Session, Map<string, unknown>>()

const draftsOf = (session: Session): Map<string, unknown> => {
  const all = drafts.get(session) ?? new Map<string, unknown>()
  drafts.set(session, all)
  return all
}

/**
 * State of a form that survives when another selection takes its place, so that nothing typed is lost; the key names the form and its
 * widgets. A value that is put in once stays until the drafts are dropped.
 */
export function useDraft<T>(session: Session, key: string, initial: () => T): [T, (value: T) => void] {
  const [value, setValue] = useState<T>(() => (draftsOf(session).get(key) as T | undefined) ?? initial())
  const put = (next: T) => {
    draftsOf(session).set(key, next)
    setValue(next)
  }
  return [value, put]
}

/** Forgets the drafts of all forms: one was created or cancelled. */
export const dropDrafts = (session: Session): void => draftsOf(session).clear()
