import {
  cuesInOrder,
  draftCue,
  nearUses,
  rateOf,
  type RankedSound,
  type ReelDocument,
  type SoundPage,
} from '@yodel/core'

/** Asks the server for something. */
export type Ask = <T>(url: string) => Promise<T>

/** What a draft of a reel ranks for each cue, by the words of the cues; as the page does it, but for the steps of its guide. */
export async function draftAll(ask: Ask, doc: ReelDocument): Promise<Map<string, RankedSound[]>> {
  const { num, den } = rateOf(doc)
  const all = new Map<string, RankedSound[]>()
  for (const cue of cuesInOrder(doc)) {
    const near = new Set(nearUses(doc, cue.sync, 60).keys())
    const context = { seconds: ((cue.out - cue.in) * den) / num, near, steps: 0 }
    all.set(
      cue.words,
      await draftCue(
        cue,
        context,
        async (params) => (await ask<SoundPage>(`/api/sounds?${new URLSearchParams(params)}`)).sounds,
      ),
    )
  }
  return all
}
