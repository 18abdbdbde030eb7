import { Button, CopyButton, Group, Modal } from '@mantine/core'
import { useMemo, useState } from 'react'
import { exchangeSheet, sheetText } from '@moth-lamp/core/exchanges'
import type { Project } from '@moth-lamp/core/project'
import type { Exchange } from '@moth-lamp/core/scripts'
import { nameOfId } from '@moth-lamp/core/signal-path'
import { fileName, saveFile } from '../../session/save-file.ts'
import styles from './exchanges.module.css'

/** An exchange as a sheet to be worked by hand with a terminal: what is sent, what is expected, in hex and as text. */
export function TerminalSheet({ project, exchange }: { project: Project; exchange: Exchange }) {
  const [opened, setOpened] = useState(false)
  return (
    <>
      <Button onClick={() => setOpened(true)} aria-haspopup="dialog">
        Terminal sheet
      </Button>
      <Modal
        opened={opened}
        onClose={() => setOpened(false)}
        title={`Terminal sheet: ${exchange.name}`}
        size={820}
        transitionProps={{ duration: 0 }}
        overlayProps={{ blur: 0, backgroundOpacity: 0.28, color: '#14161f' }}
        closeButtonProps={{ 'aria-label': 'Close' }}
      >
        {opened && <Sheet project={project} exchange={exchange} />}
      </Modal>
    </>
  )
}

function Sheet({ project, exchange }: { project: Project; exchange: Exchange }) {
  const text = useMemo(() => {
    const lines = exchangeSheet(project, exchange, (id) => nameOfId(project, id))
    return lines && sheetText(project, exchange, lines)
  }, [project, exchange])
  if (text === null) return <p className="bad">The frame layout is invalid: see Frames.</p>
  const save = () => saveFile(`${fileName(exchange.name, 'exchange')}.txt`, new Blob([text], { type: 'text/plain' }))
  return (
    <>
      <Group gap={6} mb={8}>
        <CopyButton value={text}>{({ copied, copy }) => <Button onClick={copy}>{copied ? 'Copied' : 'Copy'}</Button>}</CopyButton>
        <Button onClick={save}>Save as text</Button>
      </Group>
      <pre className={styles.sheet} tabIndex={0} aria-label="Terminal sheet">
        {text}
      </pre>
    </>
  )
}
