import { Button, Group } from '@mantine/core'
import { Notifications, notifications } from '@mantine/notifications'
import { useEffect } from 'react'
import { useStore } from '../session/store.ts'
import { useSession } from '../session/context.tsx'
import styles from './notice.module.css'

/** Notice under the bar: it goes by itself, or when it is closed; what can be taken back has its Undo. */
export function Notices() {
  const session = useSession()
  const notice = useStore(session.document, (d) => d.notice)
  useEffect(() => {
    if (!notice) return
    const { text, tone, undo, act, n } = notice
    const id = `notice ${n}`
    const then = (run: () => void) => () => {
      notifications.hide(id)
      run()
    }
    notifications.clean()
    notifications.show({
      id,
      message: (
        <Group gap={10} wrap="nowrap">
          <span className="grow">{text}</span>
          {act && (
            <Button size="compact-xs" onClick={then(() => session.undoNoticed(notice) && act.run())}>
              {act.label}
            </Button>
          )}
          {undo && (
            <Button size="compact-xs" onClick={then(() => session.undoNoticed(notice))}>
              Undo
            </Button>
          )}
        </Group>
      ),
      autoClose: tone === 'bad' ? 12_000 : 5_000,
      withBorder: true,
      color: tone === 'bad' ? 'red' : 'ink',
      role: tone === 'bad' ? 'alert' : 'status',
      closeButtonProps: { 'aria-label': 'Close' },
    })
  }, [notice, session])
  // A notice of one project is not shown in the next, nor undone there.
  useEffect(() => () => notifications.clean(), [session])
  return <Notifications position="top-center" containerWidth={560} transitionDuration={0} limit={1} className={styles.under} />
}
