import { Kbd, Modal, Table } from '@mantine/core'

const keys: [string, string][] = [
  ['L', 'Edit or Run'],
  ['Hold Alt', 'run while pressed'],
  ['1 … 7', 'go to station 1 to 7'],
  ['C', 'hide or show side panels'],
  ['Ctrl K', 'search and commands'],
  ['Ctrl Z, Ctrl Y', 'undo, redo'],
  ['A', 'add a widget (Pages)'],
  ['[, ]', 'previous / next widget'],
  ['<, >', 'preview values: minimum, maximum, longest, stale'],
  ['/', 'all settings of the selection'],
  ['Alt with Up, Down', 'move page up / down'],
  ['Tab, Space', 'while running: next touchable widget; press it'],
  ['Enter, Esc', 'to the settings and back'],
  ['Arrows', 'move 1 px; Shift 10 px; Ctrl resize'],
  ['Ctrl C, Ctrl X, Ctrl V', 'copy, cut, paste: also to other pages and projects'],
  ['Ctrl D', 'duplicate (repeats the last offset)'],
  ['R', 'repeat as a grid'],
  ['Ctrl A', 'select all of the page'],
  ['Delete', 'delete'],
  ['Page up, Page down', 'bring forward / send backward'],
  ['T', 'table view'],
  ['S', 'show all touch areas'],
  ['K', 'lock / unlock position'],
  ['G', 'group / ungroup'],
  ['N', 'new variable (Variables)'],
  ['Space', 'pause or run (Bench)'],
  ['?', 'keyboard shortcuts'],
]

/** The keys there are. */
export function KeySheet({ opened, onClose }: { opened: boolean; onClose(): void }) {
  return (
    <Modal
      opened={opened}
      onClose={onClose}
      title="Keyboard shortcuts"
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
