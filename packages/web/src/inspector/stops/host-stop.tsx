import { ActionIcon, CopyButton, Group } from '@mantine/core'
import { Check, Copy } from 'lucide-react'
import { memo } from 'react'
import { sameJson } from '@moth-lamp/core/base'
import { Stop } from './stop.tsx'
import styles from './stops.module.css'

/** The calls by which firmware speaks of it. */
export const HostStop = memo(function HostStop({ calls }: { calls: readonly string[] }) {
  return (
    <Stop title="In the host" said="C99">
      {calls.map((call) => (
        <Group key={call} gap={4} wrap="nowrap" align="flex-start">
          <span className={`grow ${styles.calls}`} title={call}>
            {call}
          </span>
          <CopyButton value={call}>
            {({ copied, copy }) => (
              <ActionIcon size={19} variant="subtle" aria-label={`Copy ${call}`} title="copy it" onClick={copy}>
                {copied ? <Check size={12} /> : <Copy size={12} />}
              </ActionIcon>
            )}
          </CopyButton>
        </Group>
      ))}
    </Stop>
  )
}, sameJson)
