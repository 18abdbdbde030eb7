import { bookOf } from '@moth-lamp/core/project'
import { explainLog, type ExplainedLog } from '@moth-lamp/core/explain'
import type { FromLog, ToLog } from './messages.ts'

/** So many pieces that are no bytes are told. */
const mostWrong = 5

/** Explains what it is told, and keeps the last reading, of which it gives as much as is looked at. */
export class LogDesk {
  private read: ExplainedLog | null = null

  constructor(private post: (message: FromLog) => void) {}

  hear(message: ToLog): void {
    if (message.type === 'explain') {
      const { project, text, as } = message
      this.read = explainLog(project.layout, bookOf(project), text, as)
    }
    const { read } = this
    this.post({
      ask: message.ask,
      reading: read && {
        ...read,
        parts: read.parts.slice(0, message.most),
        of: read.parts.length,
        wrong: read.wrong.slice(0, mostWrong),
      },
    })
  }
}
