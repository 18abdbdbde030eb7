import type { Action, Amount, Moment } from './action.ts'

const momentWords: Record<Moment, string> = {
  press: 'on press',
  'release inside': 'on release',
  'release outside': 'on sliding off',
  hold: 'held long',
}

/** Names for the ids in an action. */
export type NameOf = (id: string) => string

const named = (id: string, nameOf: NameOf): string => (id ? nameOf(id) : '…')

const amountWords = (amount: Amount, nameOf: NameOf): string =>
  typeof amount === 'number' ? String(amount) : named(amount.follows, nameOf)

/** What an action does, said as a sentence: `adds 1 to dome_target, then stops at the end`. */
export function actionSentence(action: Action, nameOf: NameOf): string {
  return `${momentWords[action.on]}: ${deedWords(action, nameOf)}${action.repeatMs ? `, again every ${action.repeatMs} ms while held` : ''}`
}

function deedWords({ deed }: Action, nameOf: NameOf): string {
  switch (deed.do) {
    case 'set':
      return `sets ${named(deed.variable, nameOf)} to ${amountWords(deed.to, nameOf)}`
    case 'step': {
      const takes = typeof deed.by === 'number' && deed.by < 0
      const amount = typeof deed.by === 'number' ? String(Math.abs(deed.by)) : amountWords(deed.by, nameOf)
      const way = takes ? `takes ${amount} from` : `adds ${amount} to`
      return `${way} ${named(deed.variable, nameOf)}, ${deed.atEnd === 'stop' ? 'then stops at the end' : 'goes round at the end'}`
    }
    case 'toggle':
      return `turns ${named(deed.variable, nameOf)} over`
    case 'one while pressed':
      return `${named(deed.variable, nameOf)} is 1 while pressed`
    case 'set bits':
    case 'clear bits':
    case 'toggle bits': {
      const verb = { 'set bits': 'sets', 'clear bits': 'clears', 'toggle bits': 'turns over' }[deed.do]
      const bits = Array.from({ length: 16 }, (_, bit) => bit).filter((bit) => deed.mask & (1 << bit))
      return `${verb} bit ${bits.join(', ')} of ${named(deed.variable, nameOf)}`
    }
    case 'go to page':
      return `opens ${named(deed.page, nameOf)}`
    case 'send event':
      return 'sends an event'
  }
}
