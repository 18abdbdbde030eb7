import type { Problem } from '../base/index.ts'
import type { Message, Reason } from '../frames/index.ts'
import type { Heard } from './receiver.ts'

/** Outcome of a frame that an end heard. */
export type Verdict = 'ok' | 'refused' | 'out of range' | 'repeated' | 'unexpected'

/** Why a touch does nothing. */
export type Uncounted = 'it woke the glass' | 'touch is locked' | 'too soon' | 'too short' | 'disabled'

/** Happenings beside the frames: why they were sent, or what came of them. Widgets and pages by number, 0: none. */
export type Happening =
  | { what: 'touched' | 'lifted'; widget: number; x: number; y: number }
  | { what: 'not counted'; why: Uncounted }
  | { what: 'page' | 'pop-up' | 'loop'; page: number }
  | { what: 'beep'; ms: number }
  | { what: 'backlight'; percent: number }
  | { what: 'pin'; name: string; on: boolean; level: 'high' | 'low' }
  /** A message that the layout has no frame for as it is: nothing went over the line. */
  | { what: 'not sent'; message: Message; problem: Problem }

/** The line as one end has it. */
export interface Wire {
  /**
   * Bytes for the other end, with what their sender means by them and which try this is (0 where tries are not counted).
   * Returns when the last will be in (µs).
   */
  send(bytes: Uint8Array, message: Message | null, attempt: number): number
  /** For who watches the line: what was heard, and what came of it; no verdict on what is no frame. */
  heard(heard: Heard, verdict: Verdict | null, reason: Reason | null): void
  /** For who watches: something of this end that no frame says. */
  beside(happening: Happening): void
}

/**
 * One end of the line, from power-on until it stops: the panel, the simulated host, whatever else may speak there. `Told` is what
 * another build has done to it.
 */
export interface End<Build, Told = void> {
  /** A burst from the other end, wholly in by now; its first bit came at `fromUs`. `attempt`: which try its sender calls it. */
  receive(bytes: Uint8Array, fromUs: number, attempt: number): void
  /** Takes another build while it runs, and goes on. */
  become(build: Build): Told
  /** Power is gone: nothing of this end happens any more, and no timer of it is left. */
  stop(): void
}
