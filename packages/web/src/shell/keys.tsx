import { Kbd, Modal, Table } from '@mantine/core'

const keys: [string, string][] = [
  ['L', 'Edit or Touch'],
  ['Alt, held', 'Touch for as long'],
  ['1 … 7', 'to a station'],
  ['C', 'the columns away, and back'],
  ['Ctrl K', 'find anything, or do anything'],
  ['Ctrl Z, Ctrl Y', 'undo, redo'],
  ['A', 'add a widget (Pages)'],
  ['[, ]', 'widget before, next widget on the glass'],
  ['<, >', 'other values: least, most, longest, stale'],
  ['/', 'all settings of what is selected'],
  ['Alt with Up, Down', 'move a page in the strip'],
  ['Tab, Space', 'in Touch: the next that can be touched, press it'],
  ['Enter, Esc', 'from the glass to its settings, and back'],
  ['Arrows', 'move by 1 px, with Shift by 10, with Ctrl size'],
  ['Ctrl C, Ctrl X, Ctrl V', 'copy, cut, paste: also to other pages and projects'],
  ['Ctrl D', 'duplicate; again with the same offset'],
  ['R', 'repeat n × m'],
  ['Ctrl A', 'select all of the page'],
  ['Delete', 'delete'],
  ['Page up, Page down', 'one up, one down among what overlaps'],
  ['T', 'the widgets as a table'],
  ['S', 'show all touch areas'],
  ['K', 'lock, unlock what is selected'],
  ['G', 'hold together what is selected, or let it apart'],
  ['N', 'new variable (Variables)'],
  ['Space', 'hold or run the clock (Bench)'],
  ['?', 'this list'],
]

/** The keys there are. */
export function KeySheet({ opened, onClose }: { opened: boolean; onClose(): void }) {
  return (
    <Modal
      opened={opened}
      onClose={onClose}
      title="Keys"
      size={520}
      transitionProps={{ duration: 0 }}
      closeButtonProps={{ 'aria-label': 'Close' }}
    >
      <Table verticalSpacing={4}>
        <Table.Tbody>
          {keys.map(([key, what]) => (
            <Table.Tr key={key}>
              <Table.Td w={210}>
                <Kbd size="xs">{key}</Kbd>
              </Table.Td>
              <Table.Td>{what}</Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </Table>
    </Modal>
  )
}
