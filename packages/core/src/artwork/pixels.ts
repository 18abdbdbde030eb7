/** A picture as every step of ours has it: rows from the top left, four bytes a pixel, red, green, blue, alpha not multiplied in. */
export interface Pixels {
  width: number
  height: number
  rgba: Uint8Array
}
