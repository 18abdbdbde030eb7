import {
  ActionIcon,
  Button,
  Checkbox,
  createTheme,
  Input,
  Kbd,
  Menu,
  Portal,
  Popover,
  SegmentedControl,
  Table,
  Tooltip,
  Combobox,
} from '@mantine/core'
import styles from './theme.module.css'

/** Ink, from a tint for hovering to the darkest: what is filled or chosen. */
const ink = [
  '#f4f4f6',
  '#e4e5ea',
  '#c6c9d3',
  '#a5a9b8',
  '#8489a0',
  '#5b6071',
  '#3c4358',
  '#22283a',
  '#1a2033',
  '#121726',
] as const

/** Limits an overlay to the height of the room, where it scrolls in itself, and no lower than that, px. */
export const asHighAsThereIsRoom = (least: number) => ({
  padding: 8,
  apply: ({ availableHeight, elements }: { availableHeight: number; elements: { floating: HTMLElement } }) => {
    elements.floating.style.maxHeight = `${Math.max(least, Math.floor(availableHeight))}px`
  },
})

/** A popover that is higher than the room scrolls; one that fits does not, so that lists in it may stand out of it. */
const scrollsWhereHigh = (least: number) => ({
  padding: 8,
  apply: ({ availableHeight, elements }: { availableHeight: number; elements: { floating: HTMLElement } }) => {
    const { style, scrollHeight } = elements.floating
    const room = Math.max(least, Math.floor(availableHeight))
    const isHigh = scrollHeight > room
    style.maxHeight = isHigh ? `${room}px` : ''
    style.overflowY = isHigh ? 'auto' : ''
  },
})

/** How every control looks, from the tokens. A thing that fades away gives the focus back late: nothing fades. */
export const theme = createTheme({
  fontFamily: 'var(--words)',
  fontFamilyMonospace: 'var(--mono)',
  colors: { ink },
  primaryColor: 'ink',
  primaryShade: 7,
  black: '#22283a',
  defaultRadius: 6,
  cursorType: 'pointer',
  // With reduced motion set in the system nothing moves: menus and dialogs are there at once.
  respectReducedMotion: true,
  fontSizes: { xs: '12px', sm: '13px', md: '14px', lg: '15px', xl: '17px' },
  components: {
    // All overlays are in one landmark of the page.
    Portal: Portal.extend({ defaultProps: { target: '#overlays' } }),
    Menu: Menu.extend({
      defaultProps: {
        transitionProps: { duration: 0 },
        shadow: 'md',
        withInitialFocusPlaceholder: false,
        middlewares: { flip: true, shift: true, size: asHighAsThereIsRoom(80) },
        classNames: { item: styles.menuItem, label: styles.menuLabel, dropdown: styles.menu },
      },
    }),
    // Escape is for what is innermost; whoever opens something closes it (`Pop`, `Choice`).
    Popover: Popover.extend({
      defaultProps: {
        closeOnEscape: false,
        transitionProps: { duration: 0 },
        shadow: 'md',
        middlewares: { flip: true, shift: true, size: scrollsWhereHigh(220) },
      },
    }),
    Combobox: Combobox.extend({
      defaultProps: { transitionProps: { duration: 0 }, shadow: 'md', classNames: { groupLabel: styles.groupLabel } },
    }),
    Tooltip: Tooltip.extend({ defaultProps: { transitionProps: { duration: 0 }, openDelay: 400, fz: 12 } }),
    Button: Button.extend({
      defaultProps: { variant: 'default', size: 'compact-sm', fw: 400 },
      classNames: { root: styles.button, label: styles.buttonLabel },
    }),
    ActionIcon: ActionIcon.extend({
      defaultProps: { variant: 'default', size: 26 },
      classNames: { root: styles.actionIcon },
    }),
    Input: Input.extend({
      defaultProps: { size: 'xs' },
      classNames: { input: styles.input, section: styles.section },
      vars: () => ({ wrapper: { '--input-height': '25px', '--input-fz': '13px', '--input-padding': '7px' } }),
    }),
    Kbd: Kbd.extend({ classNames: { root: styles.kbd } }),
    Checkbox: Checkbox.extend({ defaultProps: { size: 'xs' } }),
    Table: Table.extend({ classNames: { th: styles.th, td: styles.td, tr: styles.tr } }),
    SegmentedControl: SegmentedControl.extend({ defaultProps: { size: 'xs', transitionDuration: 0, color: 'ink' } }),
  },
})
