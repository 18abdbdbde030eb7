import type { Problem } from '../base/index.ts'
import type { HostBuild } from '../compile/index.ts'
import type { End } from '../protocols/index.ts'
import type { Cell, Value } from '../variables/index.ts'

/** How much of a text a write has: the room of its variable, or its letters alone; the panel clears the rest. */
export type TextExtent = 'whole' | 'as long as it is'

/** A value as the host has it; null: it has never heard of it. `owned`: it moves by itself. */
export interface HostValue {
  cell: Cell
  name: string
  value: Value | null
  owned: boolean
}

/** An output of the host. */
export interface OutputState {
  name: string
  on: boolean
  level: 'high' | 'low'
}

/** All that a person, or a step of an exchange, may have a host do, and see of it. */
export interface HostControls {
  /** It hears, and says nothing. */
  silent: boolean
  /** Sets a value of the host and writes it to the panel. */
  write(cell: Cell, value: Value, extent?: TextExtent): void
  ask(cell: Cell): void
  /** Sends a command; null or no value: as the host knows it, or as the field has it. Why it cannot be said, or null. */
  command(number: number, values?: readonly (Value | null)[]): Problem | null
  /** The bytes of the next write of a value, without sending it; null where the value does not fit. */
  preview(cell: Cell, value: Value, extent?: TextExtent): Uint8Array | null
  /** The bytes of the next send of a command, without sending it; null where it cannot be said. */
  previewCommand(number: number, values?: readonly (Value | null)[]): Uint8Array | null
  /** Bytes that somebody says in its place. */
  says(bytes: Uint8Array): void
  /** The values the host keeps or has heard, in the order of the variables. */
  values(): HostValue[]
  /** Of the values, those that may be others than when this was last asked; null: any of them. */
  takeNews(): HostValue[] | null
  outputs(): OutputState[]
}

/** The host's end of the line, simulated or not. */
export type Host = End<HostBuild> & HostControls
