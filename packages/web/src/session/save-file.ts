/** A name that any file system takes. */
export const fileName = (words: string, instead: string): string =>
  words
    .trim()
    .toLowerCase()
    .replaceAll(/[^\p{L}\p{N}]+/gu, '-')
    .replaceAll(/^-+|-+$/g, '') || instead

/** Gives a file to whoever looks at the screen. */
export function saveFile(name: string, content: Blob): void {
  const url = URL.createObjectURL(content)
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  window.setTimeout(() => URL.revokeObjectURL(url), 10_000)
}
