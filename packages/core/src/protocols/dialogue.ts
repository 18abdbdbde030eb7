import { notSaid, type Message } from '../frames/index.ts'
import type { Dialogue } from './protocol.ts'

interface Question {
  address: number
  bytes: number
  untilUs: number
}

/** Remembers the questions that are open, each for as long as an answer is waited for; one that does not say whose it is answers the first. */
export function openQuestions(timeoutUs: number): Dialogue {
  let open: Question[] = []
  const answers = (message: Message, atUs: number): Question | undefined =>
    message.operation === 'value'
      ? open.find(
          (q) =>
            (q.address === message.address || message.address === notSaid) &&
            q.bytes === message.payload.length &&
            q.untilUs >= atUs,
        )
      : undefined
  return {
    said(_direction, message, endUs) {
      open = open.filter((q) => q.untilUs >= endUs)
      if (message.operation === 'ask')
        open.push({ address: message.address, bytes: message.words * 2, untilUs: endUs + timeoutUs })
    },
    heard(_direction, readings, endUs) {
      for (const message of readings) {
        const question = answers(message, endUs)
        if (!question) continue
        open = open.filter((q) => q !== question)
        return message.address === notSaid ? { ...message, address: question.address } : message
      }
      return readings.find((message) => message.operation !== 'value') ?? readings[0]!
    },
  }
}
