/** A file's address in a list as a path: its escapes undone, without scheme and host. One that is wrongly escaped stands as it is. */
export function asPath(address: string): string {
  const bare = address.replace(/^file:\/\/[^/]*/i, '')
  try {
    return decodeURIComponent(bare)
  } catch {
    return bare
  }
}
