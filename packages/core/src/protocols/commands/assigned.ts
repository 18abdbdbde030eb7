import type { AssignedFrame, Direction } from '../../frames/index.ts'
import type { Book } from '../protocol.ts'
import { goes } from './command.ts'
import { contentOf, contentWrong, piecesOfContent, readContent, type Content } from './content.ts'

/** The bytes that it begins with, up to a field of any length; null for one that may be any. */
function beginOf({ placed }: Content): (number | null)[] {
  const open = placed.findIndex(({ size }) => size === null)
  return placed
    .slice(0, open < 0 ? placed.length : open)
    .flatMap<number | null>(({ kind, with: settings, size }) => kind.constant?.(settings) ?? new Array<null>(size!).fill(null))
}

/**
 * The frames of a direction that are commands of a project and no messages of its layout, those with the most constant bytes
 * first. One whose content cannot be told is left out: a finding says so.
 */
export const assignedFrames = ({ commands }: Pick<Book, 'commands'>, direction: Direction): AssignedFrame[] =>
  commands
    .flatMap((command) => {
      const { frame, number, code } = command
      if (frame === 'message' || !goes(command, direction) || contentWrong(command)) return []
      const content = contentOf(command)
      return [
        {
          number,
          code: frame === 'layout' ? code : null,
          address: command.address < 0 ? number : command.address,
          constants: content.constants,
          begins: beginOf(content),
          least: content.least,
          most: content.most,
          fits: (bytes: Uint8Array) => readContent(command, bytes) !== null,
          pieces: (bytes: Uint8Array) => piecesOfContent(command, bytes),
        },
      ]
    })
    .sort((a, b) => b.constants - a.constants)
