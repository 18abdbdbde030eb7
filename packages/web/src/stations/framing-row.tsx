import { Box, Group } from '@mantine/core'
import { fromHex, toHex } from '@moth-lamp/core/base'
import { payloadOrders, type Framing, type Layout } from '@moth-lamp/core/frames'
import { Choice } from '../controls/choice.tsx'
import { NumberField, TextField } from '../controls/fields.tsx'

const freshFraming: Record<Framing['kind'], Framing> = {
  delimited: { kind: 'delimited', flag: 0x7e, escape: 0x7d, xor: 0x20 },
  'length-led': { kind: 'length-led', start: [0xd2] },
  fixed: { kind: 'fixed', start: [0xc3], length: 8 },
}

const oneByte = (text: string): number | null => {
  const read = fromHex(text)
  return read.ok && read.value.length === 1 ? read.value[0]! : null
}

/** How a frame is found in the stream, and the order of its payload. */
export function FramingRow({ layout, set }: { layout: Layout; set(values: Partial<Layout>): void }) {
  const { framing } = layout
  const byteField = (label: string, value: number, put: (byte: number) => void) => (
    <Group wrap="nowrap" key={label} gap={4}>
      <span className="muted">{label}</span>
      <Box component="span" w={42}>
        <TextField
          mono
          label={label}
          value={toHex([value])}
          check={(t) => (oneByte(t) === null ? 'One byte in hex.' : null)}
          onCommit={(t) => put(oneByte(t)!)}
        />
      </Box>
    </Group>
  )
  return (
    <div className="row wrap">
      <Box component="span" w={112}>
        <Choice
          label="Framing"
          value={framing.kind}
          options={[
            { value: 'delimited', label: 'delimited' },
            { value: 'length-led', label: 'length-led' },
            { value: 'fixed', label: 'fixed length' },
          ]}
          onChange={(kind) => set({ framing: freshFraming[kind as Framing['kind']] })}
        />
      </Box>
      {framing.kind === 'delimited' && [
        byteField('Flag', framing.flag, (flag) => set({ framing: { ...framing, flag } })),
        byteField('Escape', framing.escape, (escape) => set({ framing: { ...framing, escape } })),
        byteField('XOR', framing.xor, (xor) => set({ framing: { ...framing, xor } })),
      ]}
      {framing.kind !== 'delimited' && (
        <Group wrap="nowrap" gap={4}>
          <span className="muted">Start bytes</span>
          <Box component="span" w={92}>
            <TextField
              mono
              label="Start bytes"
              value={toHex(framing.start)}
              check={(t) => (t.trim() === '' || fromHex(t).ok ? null : 'Bytes in hex.')}
              onCommit={(t) => {
                const read = fromHex(t)
                set({ framing: { ...framing, start: read.ok ? Array.from(read.value) : [] } })
              }}
            />
          </Box>
        </Group>
      )}
      {framing.kind === 'fixed' && (
        <Group wrap="nowrap" gap={4}>
          <span className="muted">Bytes in all</span>
          <Box component="span" w={52}>
            <NumberField
              label="Bytes of every frame"
              value={framing.length}
              min={2}
              max={1100}
              whole
              onCommit={(length) => set({ framing: { ...framing, length } })}
            />
          </Box>
        </Group>
      )}
      <Group wrap="nowrap" gap={4}>
        <span className="muted">Payload</span>
        <Box component="span" w={116}>
          <Choice
            label="Payload: order"
            value={layout.payload}
            options={payloadOrders.map((o) => ({ value: o, label: o === 'as memory' ? o : `${o} byte first` }))}
            onChange={(payload) => set({ payload: payload as Layout['payload'] })}
          />
        </Box>
      </Group>
      <Group wrap="nowrap" gap={4}>
        <span className="muted">Payload at most</span>
        <Box component="span" w={52}>
          <NumberField
            label="Payload at most"
            value={layout.mostPayload}
            min={2}
            max={1024}
            whole
            onCommit={(mostPayload) => set({ mostPayload })}
          />
        </Box>
      </Group>
      <Group wrap="nowrap" gap={4}>
        <span className="muted">Broken off after</span>
        <Box component="span" w={52}>
          <NumberField
            label="Broken off after"
            value={layout.gapUs / 1000}
            min={1}
            max={10_000}
            whole
            onCommit={(ms) => set({ gapUs: ms * 1000 })}
          />
        </Box>
        <span className="muted">ms</span>
      </Group>
    </div>
  )
}
