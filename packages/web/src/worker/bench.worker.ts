import { BenchHost } from './bench-host.ts'
import type { FromWorker, ToWorker } from './messages.ts'

// The panel's worker: it holds one project at a time, and nothing of the one before. The worker itself stays for the next: what
// was compiled in it goes on being quick.

const post = (message: FromWorker, transfer: Transferable[] = []) => self.postMessage(message, { transfer })
let host: BenchHost | null = null

function hear(message: ToWorker): void {
  if (message.type !== 'open' && message.type !== 'close') return host?.hear(message)
  host?.end()
  host = null
  if (message.type === 'close') return post({ type: 'closed' })
  host = new BenchHost(message, post)
}

self.onmessage = ({ data }: MessageEvent<ToWorker>) => {
  try {
    hear(data)
  } catch (error) {
    post({ type: 'fault', message: error instanceof Error ? `${error.message}\n${error.stack ?? ''}` : String(error) })
  }
}
