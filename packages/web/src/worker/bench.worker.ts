import { serve } from './serve.ts'
import type { ToWorker } from './messages.ts'

// The panel's worker.

const hear = serve((message, transfer = []) => self.postMessage(message, { transfer }))

self.onmessage = ({ data }: MessageEvent<ToWorker>) => hear(data)
