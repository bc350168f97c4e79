/** Give the browser bytes to save under a name. */
export function save(bytes: Blob, name: string) {
  const address = URL.createObjectURL(bytes)
  const link = Object.assign(document.createElement('a'), { href: address, download: name })
  link.click()
  URL.revokeObjectURL(address)
}
