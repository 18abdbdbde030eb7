import { BenchHost } from './bench-host.ts'
import type { FromWorker, ToWorker } from './messages.ts'

/**
 * Host of the bench in the worker: it holds one project at a time, and nothing of the one before. The worker
 * itself stays for the next: what was compiled in it goes on being quick. An error is told as a fault.
 */
export function serve(post: (message: FromWorker, transfer?: Transferable[]) => void): (message: ToWorker) => void {
  let host: BenchHost | null = null
  const hear = (message: ToWorker): void => {
    if (message.type !== 'open' && message.type !== 'close') return host?.hear(message)
    host?.end()
    host = null
    if (message.type === 'close') return post({ type: 'closed' })
    host = new BenchHost(message, post)
  }
  return (message) => {
    try {
      hear(message)
    } catch (error) {
      post({ type: 'fault', message: error instanceof Error ? `${error.message}\n${error.stack ?? ''}` : String(error) })
    }
  }
}
