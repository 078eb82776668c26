/** A file that was dropped, with its path below what was dropped. */
export interface DroppedFile {
  readonly path: string
  readonly file: File
}

/** How far a drop has been sent. */
export interface Sending {
  /** Files sent or there already, of so many. */
  readonly done: number
  readonly of: number
  /** Of the bytes of all, 0 to 1. */
  readonly part: number
}

/** All files of a drop, those in folders too; hidden ones are left out. To be called while the drop is handled: later its entries are gone. */
export async function filesOf(data: DataTransfer): Promise<DroppedFile[]> {
  const files = [...data.items].map((item): Promise<DroppedFile[]> => {
    const entry = item.webkitGetAsEntry()
    const file = item.getAsFile()
    if (entry) return filesIn(entry, '')
    return Promise.resolve(file ? [{ path: file.name, file }] : [])
  })
  return (await Promise.all(files)).flat()
}

async function filesIn(entry: FileSystemEntry, below: string): Promise<DroppedFile[]> {
  if (entry.name.startsWith('.')) return []
  const path = `${below}${entry.name}`
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) =>
      (entry as FileSystemFileEntry).file(resolve, reject),
    )
    return [{ path, file }]
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader()
  const files: DroppedFile[] = []
  // A folder tells its entries a hundred at a time.
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) =>
      reader.readEntries(resolve, reject),
    )
    if (some.length === 0) return files
    for (const one of some) files.push(...(await filesIn(one, `${path}/`)))
  }
}

/**
 * Sends files one after the other to the shelf of dropped recordings; what is there already is passed over, so that a drop that
 * broke off goes on when the same is dropped again.
 *
 * @returns What could not be sent, with the reason.
 */
export async function sendFiles(
  files: readonly DroppedFile[],
  tell: (sending: Sending) => void,
  signal: AbortSignal,
): Promise<{ path: string; reason: string }[]> {
  const all = files.reduce((sum, { file }) => sum + file.size, 0)
  const problems: { path: string; reason: string }[] = []
  let sent = 0
  for (const [done, { path, file }] of files.entries()) {
    if (signal.aborted) return problems
    tell({ done, of: files.length, part: all === 0 ? 0 : sent / all })
    const reason = await sendFile(path, file, signal).catch((error: unknown) =>
      error instanceof Error ? error.message : String(error),
    )
    if (reason !== null && !signal.aborted) problems.push({ path, reason })
    sent += file.size
  }
  tell({ done: files.length, of: files.length, part: 1 })
  return problems
}

async function sendFile(path: string, file: File, signal: AbortSignal): Promise<string | null> {
  const where = `/api/shelves/dropped?path=${encodeURIComponent(path)}&modified=${file.lastModified}`
  const known = await fetch(`${where}&size=${file.size}`, { signal })
  if (known.ok && ((await known.json()) as { there: boolean }).there) return null
  const form = new FormData()
  form.append('recording', file)
  const answer = await fetch(where, { method: 'POST', body: form, signal })
  return answer.ok ? null : ((await answer.json()) as { message: string }).message
}
