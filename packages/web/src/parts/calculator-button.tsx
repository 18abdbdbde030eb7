import { ActionIcon, Tooltip } from '@mantine/core'
import { Calculator } from 'lucide-react'
import { openCalculator } from '../controls/calculator.ts'

/** Opens the calculator for the field beside it, which keeps the focus and its selection. */
export const CalculatorButton = () => (
  <Tooltip label="calculator (Ctrl .)">
    <ActionIcon
      variant="subtle"
      size={24}
      aria-label="Calculator"
      onMouseDown={(e) => e.preventDefault()}
      onClick={openCalculator}
    >
      <Calculator size={14} />
    </ActionIcon>
  </Tooltip>
)
