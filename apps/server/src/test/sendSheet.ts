import type { IncomingSheet } from '@yodel/core'
import type { TestServer } from './testServer.js'

/** What the server says to a sheet: what is in it, or why not. */
export interface SheetSent {
  readonly status: number
  readonly body: IncomingSheet & { readonly code: string; readonly message: string }
}

/** Uploads a file as a sheet for a reel, as the import page does. @param query - `?rate=25`, `?sheet=Notes` */
export async function sendSheet(
  server: TestServer,
  reel: string,
  name: string,
  content: Uint8Array | string,
  query = '',
): Promise<SheetSent> {
  const answer = await server.app.inject({
    method: 'POST',
    url: `/api/reels/${reel}/sheet${query}`,
    headers: { 'content-type': 'multipart/form-data; boundary=edge' },
    payload: Buffer.concat([
      Buffer.from(`--edge\r\nContent-Disposition: form-data; name="sheet"; filename="${name}"\r\n\r\n`),
      Buffer.from(content),
      Buffer.from('\r\n--edge--\r\n'),
    ]),
  })
  return { status: answer.statusCode, body: answer.json() }
}
