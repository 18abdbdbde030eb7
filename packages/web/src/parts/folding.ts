import { useMediaQuery } from '@mantine/hooks'
import styles from './station.module.css'

/** Class of a station whose columns stand one under another where the window is narrower than some pixels. */
export function useFolding(below = 1000): string {
  const isNarrow = useMediaQuery(`(max-width: ${below}px)`, false, { getInitialValueInEffect: false })
  return isNarrow ? styles.folded! : ''
}
