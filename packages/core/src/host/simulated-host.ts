import {
  bytesToWords,
  mustHold,
  sameJson,
  seededRandom,
  wordsToPayload,
  type Problem,
  type Random,
  type TimedEvent,
  Timers,
  type VirtualClock,
} from '../base/index.ts'
import type { HostBuild } from '../compile/index.ts'
import { answering, bytesUs, placesOf, type Message, type PlacedBytes } from '../frames/index.ts'
import {
  commandGoing,
  commandNow,
  commandOf,
  nextSequence,
  parseValues,
  protocolFor,
  readContent,
  Receiver,
  sameWire,
  unsaidCommand,
  wordsSetBy,
  type BuildCommand,
  type Dialogue,
  type Heard,
  type Protocol,
  type Wire,
} from '../protocols/index.ts'
import { reactionSettings, type CompiledCondition, type CompiledEffect, type CompiledReaction } from '../scripts/index.ts'
import { CellIndex, bytesAfterWrite, bytesOfCell, decodeValue, encodeValue, type Cell, type Value } from '../variables/index.ts'
import type { Host, HostValue, OutputState, TextExtent } from './controls.ts'
import { compares } from './condition.ts'
import { move, rest, sendable, startMoving, type Moving } from './quantity.ts'

/** Sorts after the panel at the same instant. */
const hostSource = 3
const startUs = 30_000
/** A quantity that is sent only when it changes is looked at so often. */
const watchMs = 100
/** Two reasons to synchronise within this time are one. */
const syncGapUs = 400_000
/** The host answers after so long where no reaction says otherwise. */
const usualAnswerMs = reactionSettings.defaults.answerAfterMs

/** A message that the panel sends of its own accord. */
type Spontaneous = Extract<Message, { operation: 'report' | 'event' | 'message' }>

/** The doings of a quantity as a text, variables by their indexes: the same text, the same doings. */
const specText = ({ kind, settings }: HostBuild['quantities'][number]): string =>
  JSON.stringify([kind, settings], (_key, value: unknown) =>
    typeof value === 'object' && value !== null && 'holds' in value ? (value as Cell).index : value,
  )

/** Frames that a host sends of its own accord, variables by their indexes: to tell whether they are others. */
const sendingText = ({ sendings }: HostBuild) =>
  sendings.map(({ variable, ...rest }) => ({ ...rest, index: variable?.index ?? null }))

/** A microcontroller that does what its script says, from its start until it is dropped. */
export class SimulatedHost implements Host {
  silent = false
  private protocol: Protocol
  private dialogue: Dialogue
  private receiver: Receiver
  private random: Random
  private sequence = 0
  private known = new Map<number, Value>()
  private moving: Moving[]
  private pendingEffects = new Map<number, TimedEvent[]>()
  private lastHeard: { key: string; answer: Message | null; atUs: number } | null = null
  private lastSyncUs = -Infinity
  private expiry: TimedEvent | null = null
  private on = true
  private timers: Timers

  constructor(
    public build: HostBuild,
    clock: VirtualClock,
    private wire: Wire,
    seed: number,
  ) {
    this.timers = new Timers(clock, hostSource)
    this.protocol = mustHold(protocolFor(build.layout, build.book))
    this.dialogue = this.protocol.dialogue(build.link.confirmTimeoutMs * 1000)
    this.receiver = new Receiver(this.protocol, 'to host', this.dialogue)
    this.random = seededRandom(seed)
    this.moving = build.quantities.map((spec) => startMoving(spec, clock.nowUs))
    this.index()
    this.after(startUs, () => this.start())
  }

  /**
   * Takes another build while it runs, and what it knows follows its variables: reactions, outputs and how
   * values move act at once. A value that moves in another way than before begins anew, and so does one that is new.
   */
  become(build: HostBuild): void {
    const old = this.build
    const sameWait = old.link.confirmTimeoutMs === build.link.confirmTimeoutMs
    if (!sameWire(old, build) || !sameWait) {
      this.protocol = mustHold(protocolFor(build.layout, build.book))
      this.dialogue = this.protocol.dialogue(build.link.confirmTimeoutMs * 1000)
      this.receiver = new Receiver(this.protocol, 'to host', this.dialogue)
      if (this.protocol.lastSequence) this.sequence %= this.protocol.lastSequence + 1
    }
    this.build = build
    const was = this.known
    this.known = new Map()
    for (const { cell } of build.cells) {
      const value = was.get(cell.index)
      if (value !== undefined && (typeof value === 'string') === (cell.holds.type === 'text')) this.known.set(cell.index, value)
    }
    this.followQuantities(build)
    if (this.hasStarted && !sameJson(sendingText(old), sendingText(build))) this.startSendings()
    this.index()
  }

  /** By the index of the cell. */
  private movingOf = new Map<number, Moving>()
  private cells!: CellIndex<HostBuild['cells'][number]>
  private byIndex = new Map<number, HostBuild['cells'][number]>()

  /** Finds values by their cells, and cells by their words: there may be thousands. */
  private index(): void {
    this.movingOf = new Map([...this.moving].reverse().map((moving) => [moving.spec.cell.index, moving]))
    this.cells = new CellIndex(this.build.cells, ({ cell }) => cell)
    this.byIndex = new Map(this.build.cells.map((one) => [one.cell.index, one]))
    this.news = null
  }

  private followQuantities(build: HostBuild): void {
    const before = [...this.moving]
    this.moving = build.quantities.map((spec, k) => {
      const text = specText(spec)
      const same = before.findIndex((m) => specText(m.spec) === text)
      const found = same >= 0 ? before.splice(same, 1)[0]! : null
      if (found) return Object.assign(found, { spec })
      const fresh = startMoving(spec, this.timers.nowUs)
      if (this.hasStarted) this.after(k, () => this.moving.includes(fresh) && this.tick(fresh))
      return fresh
    })
    for (const gone of before) {
      this.timers.cancel(this.ticks.get(gone) ?? null)
      this.ticks.delete(gone)
    }
  }
  private ticks = new Map<Moving, TimedEvent>()
  private hasStarted = false

  stop(): void {
    this.on = false
    this.timers.stop()
  }

  private after(delayUs: number, run: () => void): TimedEvent {
    return this.timers.after(delayUs, run)
  }

  private start(): void {
    this.hasStarted = true
    if (this.build.synchronises) this.ask(this.build.version)
    for (const moving of this.moving) this.tick(moving)
    this.startSendings()
  }

  /** When the line has taken all that was sent. */
  private lineFreeUs = 0
  /** Those that wait, or come again. */
  private sendings: TimedEvent[] = []

  private startSendings(): void {
    for (const event of this.sendings) this.timers.cancel(event)
    this.sendings = this.build.sendings.map((sending) => this.after(sending.ms * 1000, () => this.sendOwn(sending)))
  }

  private sendOwn(sending: HostBuild['sendings'][number]): void {
    const { what, command: number, variable, when, ms, values } = sending
    if (what === 'ask' && variable) this.ask(variable)
    if (what === 'command' && number !== null) {
      const command = commandOf(this.build.book, number)
      const typed = command && parseValues(command, values)
      // Values that do not fit are a finding; nothing else is sent in their place.
      if (typed?.ok) this.command(number, typed.value)
    }
    // Not before the line has taken what was sent: a host that is faster than its line would only fill a queue.
    const waitUs = Math.max(ms * 1000, this.lineFreeUs - this.timers.nowUs, 1000)
    if (when === 'every') this.sendings.push(this.after(waitUs, () => this.sendOwn(sending)))
    this.sendings = this.sendings.filter(this.timers.isPending)
  }

  private tick(moving: Moving): void {
    const everyMs = moving.spec.settings.everyMs
    this.advance(moving)
    this.tellPins()
    const value = sendable(moving.spec.cell, moving.value)
    const encoded = encodeValue(moving.spec.cell.holds, value, moving.spec.cell.order)
    const raw = encoded.ok ? encoded.value.reduce((all, word) => all * 65536 + word, 0) : null
    if (everyMs > 0 || raw !== moving.lastSent) this.sendWrite(moving.spec.cell, value)
    moving.lastSent = raw
    this.ticks.set(
      moving,
      this.after((everyMs || watchMs) * 1000, () => this.tick(moving)),
    )
  }

  private advance(moving: Moving): void {
    const { settings } = moving.spec
    if ('whenVariable' in settings && !this.whenHolds(settings)) return rest(moving, this.timers.nowUs)
    move(moving, this.timers.nowUs, this.random, (cell) => {
      const value = this.valueOf(cell)
      return typeof value === 'number' ? value : null
    })
  }

  /** Last value of a variable as the host knows it; null when never received. */
  valueOf(cell: Cell): Value | null {
    const moving = this.movingOf.get(cell.index)
    return moving ? sendable(cell, moving.value) : (this.known.get(cell.index) ?? null)
  }

  private numberOf(cell: Cell): number {
    const value = this.valueOf(cell)
    return typeof value === 'number' ? value : 0
  }

  // --- saying

  private nextSequence(): number {
    return (this.sequence = nextSequence(this.protocol, this.sequence))
  }

  private send(message: Message): void {
    if (this.silent || !this.protocol.can('to panel', message.operation)) return
    const bytes = this.protocol.encode('to panel', message)
    if (bytes.ok) {
      this.lineFreeUs = this.wire.send(bytes.value, message, 0)
      this.dialogue.said('to panel', message, this.lineFreeUs)
    } else this.wire.beside({ what: 'not sent', message, problem: bytes.problem })
  }

  private sendWrite(cell: Cell, value: Value, extent: TextExtent = 'whole'): void {
    const payload = this.payloadOf(cell, value, extent)
    if (payload) this.send({ operation: 'write', sequence: this.nextSequence(), address: cell.address, payload })
  }

  /** The payload of a write; null where the value does not fit. A text as long as it is has whole words, at least one. */
  private payloadOf(cell: Cell, value: Value, extent: TextExtent): number[] | null {
    const words = encodeValue(cell.holds, value, cell.order)
    if (!words.ok) return null
    const used = words.value.findLastIndex((word) => word !== 0) + 1
    const sent =
      extent === 'as long as it is' && cell.holds.type === 'text' ? words.value.subarray(0, Math.max(1, used)) : words.value
    return wordsToPayload(sent, this.build.book.memory)
  }

  /** Sets a value of the host and writes it to the panel. What it moved by goes on from there. */
  write(cell: Cell, value: Value, extent: TextExtent = 'whole'): void {
    const moving = this.movingOf.get(cell.index)
    if (moving && typeof value === 'number') {
      moving.value = value
      moving.lastUs = this.timers.nowUs
      this.tellPins()
    } else this.learn(cell, value)
    // Other values at its words change with it.
    const payload = this.payloadOf(cell, value, extent)
    if (payload) this.remember(cell.address, payload, cell)
    this.sendWrite(cell, value, extent)
  }

  ask(cell: Cell): void {
    this.send({ operation: 'ask', sequence: this.nextSequence(), address: cell.address, words: cell.words })
  }

  private said(number: number, values: readonly (Value | null)[] = []) {
    const command = commandGoing(this.build.book, number, 'to panel')
    return command && { command, now: commandNow(command, (cell) => this.valueOf(cell), values) }
  }

  previewCommand(number: number, values: readonly (Value | null)[] = []): Uint8Array | null {
    const said = this.said(number, values)
    if (!said?.now.ok) return null
    const bytes = this.protocol.encode('to panel', { ...said.now.value, sequence: nextSequence(this.protocol, this.sequence) })
    return bytes.ok ? bytes.value : null
  }

  command(number: number, values: readonly (Value | null)[] = []): Problem | null {
    const said = this.said(number, values)
    if (!said) return { code: 'exchange.command.other-way', facts: { number } }
    const { command, now } = said
    if (!now.ok) {
      this.wire.beside(unsaidCommand(command, now.problem))
      return now.problem
    }
    this.learnFrom(command, now.value.payload)
    this.send({ ...now.value, sequence: this.nextSequence() })
    return null
  }

  /** Values that travel in a command, either way: the host knows them from then on. */
  private learnFrom(command: BuildCommand, payload: readonly number[]): void {
    const values = readContent(command, payload)
    for (const { cell, words } of (values && wordsSetBy(command, values)) ?? [])
      if (this.byIndex.has(cell.index)) this.learn(cell, decodeValue(cell.holds, words, cell.order))
  }

  /** The bytes of the next write of a value, without sending it. */
  preview(cell: Cell, value: Value, extent: TextExtent = 'whole'): Uint8Array | null {
    const payload = this.payloadOf(cell, value, extent)
    const sequence = nextSequence(this.protocol, this.sequence)
    const bytes = payload && this.protocol.encode('to panel', { operation: 'write', sequence, address: cell.address, payload })
    return bytes?.ok ? bytes.value : null
  }

  /** Writes everything the host owns or remembers, and asks for what only the panel knows. */
  synchronise(): void {
    this.lastSyncUs = this.timers.nowUs
    for (const { cell } of this.build.cells) {
      const owned = this.movingOf.has(cell.index)
      const value = this.valueOf(cell)
      if (owned || (value !== null && cell.travels !== 'panel to host' && cell.travels !== 'stays')) this.sendWrite(cell, value!)
      else if (cell.travels === 'panel to host' || cell.travels === 'both') this.ask(cell)
    }
  }

  // --- hearing

  receive(bytes: Uint8Array, fromUs: number, attempt: number): void {
    if (!this.on) return
    for (const heard of this.receiver.receive(bytes, fromUs, this.timers.nowUs, attempt)) this.take(heard)
    const deadline = this.receiver.deadlineUs
    this.timers.cancel(this.expiry)
    this.expiry =
      deadline === null
        ? null
        : this.timers.at(deadline, () => {
            for (const heard of this.receiver.expire(this.timers.nowUs)) if (this.on) this.take(heard)
          })
  }

  private take(heard: Heard): void {
    if (heard.kind === 'bad') return this.wire.heard(heard, null, null)
    const { message } = heard
    switch (message.operation) {
      case 'report':
      case 'event':
      case 'message':
        return this.takeReport(heard, message)
      case 'value':
        this.remember(message.address, message.payload)
        if (message.address === this.build.version.address) this.versionHeard()
        return this.wire.heard(heard, 'ok', null)
      case 'done':
      case 'refused':
        return this.wire.heard(heard, 'ok', null)
      default:
        return this.wire.heard(heard, 'unexpected', null)
    }
  }

  /** Bytes that somebody says in its place: what they write, it knows from then on as if it had written it itself. */
  says(bytes: Uint8Array): void {
    for (const outcome of this.protocol.decoder('to panel').feed(bytes, 0, 0)) {
      const [message] = outcome.kind === 'frame' ? outcome.readings : []
      if (message?.operation === 'write' && placesOf(message).every((place) => this.isTaken(place))) this.rememberAll(message)
      if (message?.operation === 'set bits') this.rememberBits(message)
    }
  }

  private versionHeard(): void {
    if (this.build.synchronises && this.timers.nowUs - this.lastSyncUs >= syncGapUs) this.synchronise()
  }

  private rememberAll(message: PlacedBytes & { also?: readonly PlacedBytes[] }): void {
    for (const { address, payload } of placesOf(message)) this.remember(address, payload)
  }

  private remember(address: number, payload: readonly number[], but: Cell | null = null): void {
    for (const { cell } of this.cells.in(address, Math.ceil(payload.length / 2))) {
      const bytes = cell === but ? null : bytesAfterWrite(cell, address, payload, this.bytesKnown(cell))
      if (bytes) this.learn(cell, decodeValue(cell.holds, bytesToWords(bytes, this.build.book.memory), cell.order))
    }
  }

  /** Half a word is taken at the end of a text alone. */
  private isTaken({ address, payload }: PlacedBytes): boolean {
    const last = address + (payload.length >> 1)
    return payload.length % 2 === 0 || this.cells.at(last).some(({ cell }) => cell.holds.type === 'text')
  }

  private rememberBits({ address, mask, bits }: { address: number; mask: number; bits: number }): void {
    for (const { cell } of this.cells.at(address)) {
      const known = cell.words === 1 ? this.bytesKnown(cell) : null
      if (!known) continue
      const [word] = bytesToWords(known, this.build.book.memory)
      const next = Uint16Array.of((word! & ~mask) | (bits & mask))
      this.learn(cell, decodeValue(cell.holds, next, cell.order))
    }
  }

  /** The bytes of the value that a variable had when it was last heard of; null where it never was. */
  private bytesKnown(cell: Cell): number[] | null {
    const value = this.known.get(cell.index)
    const words = value === undefined ? null : encodeValue(cell.holds, value, cell.order)
    return words?.ok ? wordsToPayload(words.value, this.build.book.memory) : null
  }

  private takeReport(heard: Heard, message: Spontaneous): void {
    const key = `${message.operation} ${message.sequence} ${message.address} ${heard.bytes.join(' ')}`
    const nowUs = this.timers.nowUs
    if (this.protocol.lastSequence && this.lastHeard?.key === key && nowUs - this.lastHeard.atUs <= this.repeatsWithinUs) {
      this.lastHeard.atUs = nowUs
      if (this.lastHeard.answer) this.answerAfter(this.lastHeard.answer, usualAnswerMs)
      return this.wire.heard(heard, 'repeated', null)
    }
    const command = message.operation === 'message' ? commandGoing(this.build.book, message.address, 'to host') : undefined
    if (message.operation === 'message' && !command) return this.wire.heard(heard, 'unexpected', null)
    const reaction = this.build.reactions.find((r) => this.fits(r, message))
    const answer = this.answerFor(reaction, message)
    this.lastHeard = { key, answer, atUs: nowUs }
    const refused = answer?.operation === 'refused'
    if (message.operation === 'report' && !refused) this.rememberAll(message)
    if (command && message.operation === 'message' && !refused) this.learnFrom(command, message.payload)
    this.wire.heard(heard, refused ? 'refused' : 'ok', answer?.operation === 'refused' ? answer.reason : null)
    if (answer) this.answerAfter(answer, reaction ? reaction.answerAfterMs : usualAnswerMs)
    for (const effect of reaction?.effects ?? []) this.startEffect(effect)
    if (message.address === this.build.version.address && message.operation === 'report') this.versionHeard()
  }

  /** The very same frame later than this is not a repeat: the panel was off meanwhile, or has counted once round. */
  private get repeatsWithinUs(): number {
    const { link } = this.build
    const frameUs = bytesUs(link, this.protocol.limits.frame)
    return link.tries * ((link.confirmTimeoutMs + link.latencyMs) * 1000 + frameUs)
  }

  private answerFor(reaction: CompiledReaction | undefined, message: Message): Message | null {
    if (reaction?.answer === 'nothing') return null
    const command = message.operation === 'message' ? commandOf(this.build.book, message.address) : undefined
    if (command && reaction?.answer !== 'refused') return this.answerTo(command, message)
    if (reaction?.answer === 'refused') return { operation: 'refused', ...answering(message), reason: reaction.reason }
    return { operation: 'done', ...answering(message) }
  }

  /** The answer that a command of the panel is to have. */
  private answerTo({ answer, answerBy }: BuildCommand, message: Message): Message | null {
    if (answer === 'none') return null
    if (answer === 'done') return { operation: 'done', ...answering(message) }
    const by = answerBy === null ? undefined : this.said(answerBy)
    return by?.now.ok ? { ...by.now.value, sequence: message.sequence } : null
  }

  private answerAfter(answer: Message, ms: number): void {
    this.after(ms * 1000, () => this.send(answer))
  }

  private fits(reaction: CompiledReaction, message: Spontaneous): boolean {
    const on = message.operation === 'message' ? 'command' : message.operation
    if (reaction.on !== on || !this.whenHolds(reaction)) return false
    if (message.operation === 'event')
      return reaction.widget === message.address && (reaction.what === 'any' || reaction.what === message.what)
    if (message.operation === 'message') return reaction.command === message.address
    const cell = reaction.variable
    const bytes = cell && bytesOfCell(cell, message.address, message.payload)
    if (!bytes) return false
    if (reaction.compare === 'any') return true
    const value = decodeValue(cell.holds, bytesToWords(bytes, this.build.book.memory), cell.order)
    return typeof value === 'number' && compares(value, reaction.compare, reaction.value)
  }

  private whenHolds({ whenVariable, whenCompare, whenValue }: CompiledCondition): boolean {
    return !whenVariable || compares(this.numberOf(whenVariable), whenCompare, whenValue)
  }

  /** A new effect on a value cancels those still waiting for it from earlier reactions, unless of the same instant. */
  private startEffect({ afterMs, variable: cell, value, command }: CompiledEffect): void {
    if (command !== null) this.after(afterMs * 1000, () => this.command(command))
    if (!cell) return
    const { index } = cell
    const waiting = this.pendingEffects.get(index) ?? []
    const nowUs = this.timers.nowUs
    for (const event of waiting) if (this.effectMadeUs.get(event) !== nowUs) this.timers.cancel(event)
    const event = this.after(afterMs * 1000, () => {
      // Where its variable is by then: another build may have moved it, or have it no more.
      const now = index < 0 ? cell : this.byIndex.get(index)?.cell
      if (now) this.write(now, value)
    })
    this.effectMadeUs.set(event, nowUs)
    this.pendingEffects.set(index, [...waiting.filter(this.timers.isPending), event])
  }
  private effectMadeUs = new WeakMap<TimedEvent, number>()

  // --- looking

  /** The values the host keeps or has heard, in the order of the variables. */
  values(): HostValue[] {
    return this.build.cells.map((one) => this.hostValue(one))
  }

  private hostValue({ cell, name }: HostBuild['cells'][number]): HostValue {
    return { cell, name, value: this.valueOf(cell), owned: this.movingOf.has(cell.index) }
  }

  /** Indexes of what was heard since somebody asked; null: of everything. */
  private news: Set<number> | null = null

  /** Of the values, those that may be others than when this was last asked: heard since, or moving by themselves; null: any of them. */
  takeNews(): HostValue[] | null {
    const { news } = this
    this.news = new Set()
    if (!news) return null
    return [...new Set([...news, ...this.movingOf.keys()])].flatMap((index) => {
      const one = this.byIndex.get(index)
      return one ? [this.hostValue(one)] : []
    })
  }

  private learn(cell: Cell, value: Value): void {
    // A conditional signal has moved until now; a random walk does its steps when it is sent.
    for (const moving of this.moving) {
      const { kind, settings } = moving.spec
      if (kind !== 'walk' && 'whenVariable' in settings && settings.whenVariable?.index === cell.index) this.advance(moving)
    }
    this.known.set(cell.index, value)
    this.news?.add(cell.index)
    this.tellPins()
  }

  private pins = ''

  /** The pins that stand otherwise than they were told of last. */
  private tellPins(): void {
    if (!this.build.outputs.length) return
    const now = this.outputs()
    const before = this.pins.split(',')
    this.pins = now.map(({ on }) => (on ? '1' : '0')).join()
    now.forEach(({ name, on, level }, i) => {
      const was = before[i] === '1'
      if (was !== on) this.wire.beside({ what: 'pin', name, on, level })
    })
  }

  outputs(): OutputState[] {
    return this.build.outputs.map((o) => {
      const on = o.whenVariable ? this.whenHolds(o) : false
      return { name: o.name, on, level: on !== o.activeLow ? 'high' : 'low' }
    })
  }
}
