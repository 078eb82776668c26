import { randomUUID } from 'node:crypto'
import {
  addCut,
  apply,
  documentOf,
  editReel,
  expectOk,
  squash,
  type Picture,
  type ReelState,
} from '@yodel/core'
import { LEADER, PROGRAMME } from '@yodel/demo'

/** Makes a reel of its own with the demo's picture and nothing on it. */
export async function emptyReel(url: string, name: string): Promise<string> {
  const json = async <T>(path: string, body?: object): Promise<T> =>
    (
      await fetch(
        url + path,
        body
          ? { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }
          : {},
      )
    ).json() as Promise<T>
  for (let state = ''; state !== 'ready'; await new Promise((resolve) => setTimeout(resolve, 500)))
    state = (await json<Picture>('/api/pictures/demo-picture-1')).state
  const { id } = await json<{ id: string }>('/api/reels', {
    showId: 'demo-show',
    showName: 'Last Lamp',
    name,
    rate: '24',
    firstTimecode: '00:59:52:00',
    lengthSeconds: 60,
  })
  const { records, seq } = await json<ReelState>(`/api/reels/${id}`)
  const doc = documentOf(records)
  const cut = expectOk(
    addCut(doc, { id: 'cut', pictureId: 'demo-picture-1', name: 'cut 3', length: LEADER + PROGRAMME }),
  )
  const facts = expectOk(editReel(expectOk(apply(doc, cut)), { fields: { programme: LEADER } }))
  await json(`/api/reels/${id}/changes`, {
    changeId: randomUUID(),
    base: seq,
    role: 'do',
    target: null,
    change: squash(cut, facts, 'Picture'),
  })
  return id
}
