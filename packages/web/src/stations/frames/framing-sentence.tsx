import { fromHex, toHex } from '@moth-lamp/core/base'
import type { Framing, Way } from '@moth-lamp/core/frames'
import { Choice } from '../../controls/choice.tsx'
import { NumberField, TextField } from '../../controls/fields.tsx'
import { Sentence } from '../../controls/sentence.tsx'
import styles from './frames.module.css'

const freshFraming: Record<Framing['kind'], Framing> = {
  delimited: { kind: 'delimited', flag: 0x7e, escape: 0x7d, xor: 0x20 },
  'length-led': { kind: 'length-led', start: [0xd2] },
  fixed: { kind: 'fixed', start: [0xc3], length: 8 },
}

const oneByte = (text: string): number | null => {
  const read = fromHex(text)
  return read.ok && read.value.length === 1 ? read.value[0]! : null
}

function ByteWord({ label, value, onCommit }: { label: string; value: number; onCommit(byte: number): void }) {
  return (
    <TextField
      mono
      label={label}
      value={toHex([value])}
      check={(t) => (oneByte(t) === null ? 'Enter one byte in hex.' : null)}
      onCommit={(t) => onCommit(oneByte(t)!)}
    />
  )
}

/** How a frame is found in the stream of bytes, as a sentence whose words are edited where they stand. */
export function FramingSentence({ way, set }: { way: Way; set(values: Partial<Way>): void }) {
  const { framing } = way
  const start = framing.kind !== 'delimited' && (
    <TextField
      mono
      label="Start bytes"
      value={toHex(framing.start)}
      placeholder="none"
      check={(t) => (t.trim() === '' || fromHex(t).ok ? null : 'Bytes in hex.')}
      onCommit={(t) => {
        const read = fromHex(t)
        set({ framing: { ...framing, start: read.ok ? Array.from(read.value) : [] } })
      }}
    />
  )
  return (
    <Sentence className={styles.sentence}>
      Framing:
      <Choice
        label="Framing"
        value={framing.kind}
        options={[
          { value: 'delimited', label: 'flag-delimited', detail: 'with byte stuffing' },
          { value: 'length-led', label: 'length field', detail: 'length-prefixed' },
          { value: 'fixed', label: 'fixed length', detail: 'all frames alike' },
        ]}
        onChange={(kind) => set({ framing: freshFraming[kind as Framing['kind']] })}
      />
      {framing.kind === 'delimited' && (
        <>
          · flag <ByteWord label="Flag" value={framing.flag} onCommit={(flag) => set({ framing: { ...framing, flag } })} /> ·
          escape
          <ByteWord label="Escape" value={framing.escape} onCommit={(escape) => set({ framing: { ...framing, escape } })} />, XOR
          <ByteWord label="XOR" value={framing.xor} onCommit={(xor) => set({ framing: { ...framing, xor } })} />
        </>
      )}
      {framing.kind === 'length-led' && <> · start bytes {start}</>}
      {framing.kind === 'fixed' && (
        <>
          <NumberField
            label="Frame length"
            value={framing.length}
            min={2}
            max={1100}
            whole
            onCommit={(length) => set({ framing: { ...framing, length } })}
          />{' '}
          bytes · start bytes {start}
        </>
      )}{' '}
      · inter-byte timeout
      <NumberField
        label="Inter-byte timeout"
        value={way.gapUs / 1000}
        min={1}
        max={10_000}
        whole
        onCommit={(ms) => set({ gapUs: ms * 1000 })}
      />
      ms
    </Sentence>
  )
}
