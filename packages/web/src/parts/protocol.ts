import { protocolFor, type Protocol } from '@moth-lamp/core/protocols'
import { bookOf, type Project } from '@moth-lamp/core/project'
import { useStore } from '../session/store.ts'
import { useProject, useSession } from '../session/context.tsx'

/** The protocol of a project as it is drawn; null while its layout cannot be used. */
export function protocolOf(project: Project): Protocol | null {
  const made = protocolFor(project.layout, bookOf(project))
  return made.ok ? made.value : null
}

export const useProtocol = (): Protocol | null => protocolOf(useProject())

/** The protocol of what runs: while the project's layout cannot be used, that of the last one that could. */
export function useRunningProtocol(): Protocol | null {
  const running = useStore(useSession().live, (live) => live.wire)
  const made = running && protocolFor(running.layout, running.book)
  return made?.ok ? made.value : null
}
