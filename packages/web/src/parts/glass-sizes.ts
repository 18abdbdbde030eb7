/** Sizes in which glasses are usually made: pixels across and down as mounted, diagonal in inches. */
export const glassSizes = [
  { width: 320, height: 240, inches: 2.4 },
  { width: 320, height: 480, inches: 3.5 },
  { width: 480, height: 272, inches: 4.3 },
  { width: 800, height: 480, inches: 5 },
  { width: 800, height: 480, inches: 7 },
  { width: 1024, height: 600, inches: 7 },
  { width: 1280, height: 800, inches: 10.1 },
] as const
