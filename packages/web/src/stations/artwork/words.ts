/** `750 KiB`; below one of them in bytes. */
export const bytesWords = (bytes: number): string =>
  bytes < 1024 ? `${bytes} bytes` : `${(bytes / 1024).toFixed(bytes < 10_240 ? 1 : 0)} KiB`

/** `÷ 2.00`: how many pixels one is made of; `× 1.50`: how much it is enlarged. */
export const ratioWords = (across: number): string =>
  Math.abs(across - 1) < 0.005 ? '1:1' : across > 1 ? `÷ ${across.toFixed(2)}` : `× ${(1 / across).toFixed(2)}`

export const percent = (share: number): string => `${Math.abs(share * 100).toFixed(Math.abs(share) < 0.1 ? 1 : 0)} %`
