import { Box } from '@mantine/core'
import { NumberField } from '../../controls/fields.tsx'

interface Props {
  of: 'picture' | 'font'
  value: number
  onCommit(number: number): void
}

/** The number by which a host knows a picture or a font. The project gives one; another may be given by hand. */
export const OwnNumber = ({ of, value, onCommit }: Props) => (
  <Box component="span" className="row" title={`the host names this ${of} by it`}>
    <span className="small muted">No.</span>
    <Box component="span" w={64}>
      <NumberField label={`Number of the ${of}`} value={value} min={0} max={65_535} whole onCommit={onCommit} />
    </Box>
  </Box>
)
