import type { Value } from '@moth-lamp/core/variables'
import type { HostValue } from '../worker/messages.ts'
import type { Store } from './store.ts'

/** A value from a moment on, µs since power-on. */
export interface Sample {
  atUs: number
  value: Value | null
}

/** Remembered history of the live panel. */
interface Live {
  host: HostValue[]
  nowUs: number
  conversation: number
}

const keptUs = 30_000_000
const none: readonly Sample[] = []

/** History of the host's values over thirty seconds, by variable; a power cycle begins anew. */
export class HostHistory {
  private samples = new Map<string, Sample[]>()
  private conversation = 0

  constructor(live: Pick<Store<Live>, 'value' | 'subscribe'>) {
    let last = live.value.host
    live.subscribe(() => {
      const { host, nowUs, conversation } = live.value
      if (conversation !== this.conversation) {
        this.conversation = conversation
        this.samples.clear()
        last = []
      }
      if (host === last) return
      last = host
      for (const { id, value } of host) this.note(id, { atUs: nowUs, value })
    })
  }

  private note(id: string, sample: Sample): void {
    const list = this.samples.get(id) ?? []
    if (list.at(-1)?.value === sample.value) return
    // The one before the window says what the value was when it began.
    const first = list.findLastIndex((s) => s.atUs <= sample.atUs - keptUs)
    this.samples.set(id, [...list.slice(Math.max(0, first)), sample])
  }

  /** The very same list until something is added to it. */
  of(id: string): readonly Sample[] {
    return this.samples.get(id) ?? none
  }
}
