import { Group, Tooltip } from '@mantine/core'
import { sameJson } from '@moth-lamp/core/base'
import type { SignalPath } from '@moth-lamp/core/signal-path'
import { memo, useEffect, useState } from 'react'
import { Bytes, CopyFrame } from '../../parts/frame.tsx'
import { useRunningProtocol } from '../../parts/protocol.ts'
import { useStore } from '../../session/store.ts'
import { useSession } from '../../session/context.tsx'
import type { FrameExample } from '@moth-lamp/core/explain'
import { linkInWords, operationTexts } from '@moth-lamp/core/frames'
import type { Protocol } from '@moth-lamp/core/protocols'
import type { PressFrames as Frames } from '../../worker/messages.ts'
import { Stop } from './stop.tsx'
import styles from './stops.module.css'

/** The frames that this widget or variable sends and hears, a row each; of a widget that is touched, what a press would send. */
export function WireStop({ path, pressed }: { path: SignalPath; pressed: boolean }) {
  const link = useStore(useSession().document, (d) => d.project.link)
  return (
    <Stop title="On the wire" said={linkInWords(link).replace(/^[^0-9]*/, '')}>
      {pressed && path.widget && <PressFrames key={path.widget.id} widget={path.widget.id} />}
      {path.frames
        .filter((f) => !pressed || f.direction === 'to panel')
        .map((f) => (
          <Example key={f.key} frame={f} />
        ))}
    </Stop>
  )
}

/** A frame that it sends or hears; drawn anew when it is another. */
const Example = memo(function Example({ frame: f }: { frame: FrameExample }) {
  return (
    <div className={styles.frame}>
      <Group gap={4} wrap="nowrap" className={`small ${f.direction === 'to panel' ? 'to-panel' : 'to-host'}`}>
        <span className="grow cut">
          {f.direction === 'to panel' ? 'host → panel' : 'panel → host'}, {operationTexts[f.operation]}{' '}
          {f.operation === 'event' ? f.value : ''}
        </span>
        <span className="mono muted">{(f.lineUs / 1000).toFixed(1)} ms</span>
        <CopyFrame bytes={f.bytes} call={f.call} isText={f.anatomy.isText === true} />
      </Group>
      <Bytes bytes={f.bytes} anatomy={f.anatomy} />
    </div>
  )
}, sameJson)

/** Frames that a press of a widget and its release would send now. */
function PressFrames({ widget }: { widget: string }) {
  const session = useSession()
  const protocol = useRunningProtocol()
  const [frames, setFrames] = useState<Frames | null>(null)
  const seen = useStore(session.live, (l) => `${l.count} ${l.running ? 0 : l.lastEntry}`)
  useEffect(() => {
    let gone = false
    void session.worker.framesOf(widget).then((found) => !gone && setFrames((was) => (sameJson(was, found) ? was : found)))
    return () => void (gone = true)
  }, [session, widget, seen])
  return (['pressed', 'lifted'] as const).flatMap((moment) =>
    (frames?.[moment] ?? []).map((bytes, i) => (
      <PressFrame key={`${moment} ${i}`} moment={moment} bytes={bytes} protocol={protocol} />
    )),
  )
}

const PressFrame = memo(function PressFrame(props: { moment: keyof Frames; bytes: Uint8Array; protocol: Protocol | null }) {
  const { moment, bytes, protocol } = props
  return (
    <div className={styles.frame}>
      <Group gap={4} wrap="nowrap" className="small to-host">
        <Tooltip label="with the values the panel has now">
          <span className="grow cut">{moment === 'pressed' ? 'this press reports' : 'lifting reports'}</span>
        </Tooltip>
        <CopyFrame bytes={bytes} />
      </Group>
      <Bytes bytes={bytes} anatomy={protocol?.dissect('to host', bytes) ?? null} />
    </div>
  )
})
