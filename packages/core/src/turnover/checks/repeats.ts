import { syncPlace } from '../../reel/document.js'
import type { Clip } from '../../reel/records.js'
import { samplesIn } from '../../time/convert.js'
import { spanOfClip, type Check, type Found } from './finding.js'

/** As soon after each other, an ear knows a recording again. */
const SECONDS = 10

/** One recording that is heard twice within ten seconds, from the same place of it. */
export const findRepeats: Check = (doc) => {
  const bySound = new Map<string, Clip[]>()
  for (const clip of doc.clip.values()) {
    if (clip.mute) continue
    const list = bySound.get(clip.soundId)
    if (list) list.push(clip)
    else bySound.set(clip.soundId, [clip])
  }
  return [...bySound.values()].flatMap((clips): Found[] =>
    clips
      .sort((a, b) => syncPlace(a) - syncPlace(b))
      .flatMap((clip, at): Found[] => {
        const before = clips[at - 1]
        // Parts that were cut out of one recording share it without sounding alike.
        if (!before || syncPlace(clip) - syncPlace(before) > samplesIn(SECONDS) || !overlapIn(before, clip))
          return []
        const about = [before.id, clip.id]
        return [
          {
            weight: 'tells',
            at: spanOfClip(doc, clip),
            about,
            text: `${clip.name} is heard twice within ten seconds`,
          },
        ]
      }),
  )
}

/** Says whether two sounds play some of the same stretch of their recording, at the same moment of the reel or not. */
const overlapIn = (a: Clip, b: Clip): boolean =>
  a.speed === b.speed &&
  a.reverse === b.reverse &&
  a.offset < b.offset + b.length &&
  b.offset < a.offset + a.length
