/** Saves a text as a file of the person's. @param name - The name that the browser proposes */
export function saveFile(name: string, text: string): void {
  const url = URL.createObjectURL(new Blob([text]))
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(url), 1000)
}
