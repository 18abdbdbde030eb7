import type { Result } from '../base/index.ts'
import type { Layout } from '../frames/index.ts'
import { binaryProtocol } from './binary.ts'
import type { Protocol } from './protocol.ts'

/** The protocol of a layout. Problem: the first of `checkLayout`. */
export const protocolFor = (layout: Layout): Result<Protocol> => binaryProtocol(layout)
