import {
  cuesInOrder,
  nearUses,
  rankForCue,
  rateOf,
  type FoundSound,
  type RankedSound,
  type ReelDocument,
  type SoundPage,
} from '@yodel/core'

/** Asks the server for something. */
export type Ask = <T>(url: string) => Promise<T>

/** What a draft of a reel ranks for each cue, by the words of the cues, as the page does it. */
export async function draftAll(ask: Ask, doc: ReelDocument): Promise<Map<string, RankedSound[]>> {
  const all = new Map<string, RankedSound[]>()
  for (const cue of cuesInOrder(doc)) {
    const near = new Set(nearUses(doc, cue.sync, 60).keys())
    const context = { seconds: (cue.out - cue.in) / (rateOf(doc).num / rateOf(doc).den), near, steps: 0 }
    const find = async (params: Record<string, string>): Promise<FoundSound[]> =>
      (await ask<SoundPage>(`/api/sounds?${new URLSearchParams(params)}`)).sounds
    const found = await find({ q: cue.words, cue: '1' })
    const [best] = rankForCue(cue, found, context)
    const like = best ? await find({ q: '', like: best.sound.id }) : []
    const ids = new Map(like.map(({ id }, index) => [id, 1 - index / like.length]))
    const both = [...found, ...like.filter(({ id }) => !found.some((one) => one.id === id))]
    all.set(
      cue.words,
      rankForCue(cue, both, { ...context, ...(best ? { alike: { name: best.sound.name, ids } } : {}) }),
    )
  }
  return all
}
