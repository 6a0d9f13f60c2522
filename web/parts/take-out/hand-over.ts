/** Hands a file to whoever sits before the page. */
export function handOver(name: string, content: Blob): void {
  const address = URL.createObjectURL(content)
  const link = document.createElement('a')
  link.href = address
  link.download = name
  link.click()
  // By then the browser has taken it up.
  setTimeout(() => URL.revokeObjectURL(address))
}

/** A name that every system takes for a file. */
export const fileName = (title: string, ending: string): string =>
  `${title.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-+|-+$/g, '')}.${ending}`
