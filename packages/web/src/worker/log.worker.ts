import { LogDesk } from './log-desk.ts'
import type { ToLog } from './messages.ts'

// Explains pasted logs, away from the page: however long it takes, the page runs on.

const desk = new LogDesk((message) => self.postMessage(message))

self.onmessage = ({ data }: MessageEvent<ToLog>) => desk.hear(data)
