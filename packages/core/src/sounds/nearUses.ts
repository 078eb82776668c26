import { reelOf, syncPlace, type ReelDocument } from '../reel/document.js'
import { sampleToFrame } from '../time/convert.js'
import { FRAME_RATES } from '../time/rates.js'
import { formatTimecode } from '../time/timecode.js'

/**
 * Recordings that sound near a frame, so that no step is heard twice by accident.
 *
 * @param seconds - How far away counts as near.
 * @returns For each recording the timecode of its nearest use.
 */
export function nearUses(
  doc: Pick<ReelDocument, 'clip' | 'reel'>,
  frame: number,
  seconds: number,
): Map<string, string> {
  const reel = reelOf(doc)
  const rate = FRAME_RATES[reel.rate]
  const best = new Map<string, number>()
  for (const clip of doc.clip.values()) {
    const at = sampleToFrame(syncPlace(clip), rate)
    const away = Math.abs(at - frame)
    const known = best.get(clip.soundId)
    if (away <= seconds * rate.nominal && (known === undefined || away < Math.abs(known - frame)))
      best.set(clip.soundId, at)
  }
  return new Map([...best].map(([id, at]) => [id, formatTimecode(at + reel.firstFrame, rate)]))
}
