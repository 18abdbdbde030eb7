import { Component, type ReactNode, type RefObject } from 'react'

/** Lower than this, px, a box counts as scrolled to its end. */
const near = 30
export const isAtEnd = ({ scrollTop, clientHeight, scrollHeight }: HTMLElement): boolean =>
  scrollTop + clientHeight > scrollHeight - near

interface Props {
  box: RefObject<HTMLElement | null>
  /** Another one each time something has come. */
  of: unknown
  /** Another one when older rows are shown, or no longer. */
  from: unknown
  children: ReactNode
}

/** Where a box stood before something came: at its end, or so far above a row that stays, px. */
type Stand = 'at the end' | { row: HTMLElement; above: number }

/**
 * Following of the end of a scrolling box, where its end is seen at the moment before: a scroll that nobody has
 * been told of yet counts. Elsewhere what is seen stays where it is, whatever comes or goes above it.
 */
export class Along extends Component<Props> {
  override componentDidMount(): void {
    this.stands('at the end')
  }

  override getSnapshotBeforeUpdate(before: Props): Stand | null {
    const box = this.props.box.current
    if (before.of === this.props.of && before.from === this.props.from) return null
    if (!box || isAtEnd(box)) return 'at the end'
    const rows = box.querySelectorAll<HTMLElement>('[data-row]')
    const row = rows.item(rows.length - 1)
    return row && { row, above: row.offsetTop - box.scrollTop }
  }

  override componentDidUpdate(_before: Props, _state: unknown, stand: Stand | null): void {
    if (stand) this.stands(stand)
  }

  private stands(stand: Stand): void {
    const box = this.props.box.current
    if (!box) return
    if (stand === 'at the end') box.scrollTop = box.scrollHeight
    else if (stand.row.isConnected) box.scrollTop = stand.row.offsetTop - stand.above
  }

  override render(): ReactNode {
    return this.props.children
  }
}
