import { useEffect, useRef } from 'react'

const keys: [string, string][] = [
  ['L', 'Edit or Touch'],
  ['Alt, held', 'Touch for as long'],
  ['1 … 6', 'to a station'],
  ['Ctrl K', 'find a page, widget, variable'],
  ['Ctrl Z, Ctrl Y', 'undo, redo'],
  ['A', 'add a widget (Pages)'],
  ['Tab, Shift Tab', 'next, previous widget on the glass'],
  ['Arrows', 'move by 1 px, with Shift by 10'],
  ['Ctrl D', 'duplicate'],
  ['Ctrl A', 'select all of the page'],
  ['Delete', 'delete'],
  ['Page up, Page down', 'one layer up, down'],
  ['N', 'new variable (Variables)'],
  ['Space', 'hold or run the clock (Bench)'],
  ['?', 'this list'],
]

/** The keys there are. */
export function KeySheet({ onClose }: { onClose(): void }) {
  const close = useRef<HTMLButtonElement>(null)
  useEffect(() => close.current?.focus(), [])
  return (
    <div className="sheet-over" onClick={onClose} onKeyDown={(e) => e.key === 'Escape' && onClose()}>
      <div className="sheet" role="dialog" aria-label="Keys" onClick={(e) => e.stopPropagation()}>
        <div className="row">
          <h2 className="grow">Keys</h2>
          <button ref={close} className="button" onClick={onClose}>
            Close
          </button>
        </div>
        <table>
          <tbody>
            {keys.map(([key, what]) => (
              <tr key={key}>
                <td className="mono" style={{ width: 190 }}>
                  {key}
                </td>
                <td>{what}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  )
}
