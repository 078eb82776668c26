import {
  cueContext,
  cuesInOrder,
  draftCue,
  isToDraft,
  type RankedSound,
  type ReelDocument,
  type SoundPage,
} from '@yodel/core'

/** Asks the server for something. */
export type Ask = <T>(url: string) => Promise<T>

/** What a draft of a reel ranks for each cue, by the words of the cues; as the page does it, cue by cue, but without the onsets of its guide. */
export async function draftAll(ask: Ask, doc: ReelDocument): Promise<Map<string, RankedSound[]>> {
  const all = new Map<string, RankedSound[]>()
  const choices = new Map<string, string>()
  for (const cue of cuesInOrder(doc).filter((one) => isToDraft(doc, one))) {
    const ranked = await draftCue(
      cue,
      cueContext(doc, cue, choices, []),
      async (params) => (await ask<SoundPage>(`/api/sounds?${new URLSearchParams(params)}`)).sounds,
    )
    if (ranked[0]) choices.set(cue.id, ranked[0].sound.id)
    all.set(cue.words, ranked)
  }
  return all
}
