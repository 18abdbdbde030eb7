import { createContext, use } from 'react'
import type { Session } from './session.ts'
import { useStore } from './store.ts'

export const SessionContext = createContext<Session | null>(null)

export function useSession(): Session {
  const session = use(SessionContext)
  if (!session) throw new Error('no project is open')
  return session
}

/** The document as it is now, with unsaved changes. */
export function useProject() {
  return useStore(useSession().document, (d) => d.project)
}
