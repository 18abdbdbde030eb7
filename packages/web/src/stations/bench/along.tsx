import { Component, type ReactNode, type RefObject } from 'react'

/** Lower than this, px, a box counts as scrolled to its end. */
const near = 30
export const isAtEnd = ({ scrollTop, clientHeight, scrollHeight }: HTMLElement): boolean =>
  scrollTop + clientHeight > scrollHeight - near

interface Props {
  box: RefObject<HTMLElement | null>
  /** Another one each time something has come. */
  of: unknown
  children: ReactNode
}

/**
 * What comes at the end of a box, which goes along with it where its end is seen at the moment before: a scroll that nobody has
 * been told of yet counts.
 */
export class Along extends Component<Props> {
  override componentDidMount(): void {
    this.toEnd(true)
  }

  override getSnapshotBeforeUpdate(before: Props): boolean {
    const box = this.props.box.current
    return before.of !== this.props.of && box !== null && isAtEnd(box)
  }

  override componentDidUpdate(_before: Props, _state: unknown, wasAtEnd: boolean): void {
    this.toEnd(wasAtEnd)
  }

  private toEnd(goes: boolean): void {
    const box = this.props.box.current
    if (goes && box) box.scrollTop = box.scrollHeight
  }

  override render(): ReactNode {
    return this.props.children
  }
}
