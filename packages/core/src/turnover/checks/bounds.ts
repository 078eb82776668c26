import { currentCut, reelOf, rateOf } from '../../reel/document.js'
import { cueCode } from '../../reel/numbering.js'
import { FRAME_RATES } from '../../time/rates.js'
import { framesAtRate } from '../../time/convert.js'
import { isTwoPop } from './leader.js'
import { spanOfClip, type Check, type Found } from './finding.js'

/** Sounds and cues that lie before the programme or past the end of the picture; the 2-pop may. */
export const findOutOfBounds: Check = (doc, facts) => {
  const { programme } = reelOf(doc)
  const { end, name } = endOf(doc, facts)
  const past: Found[] = [...doc.cue.values()]
    .filter((cue) => cue.state !== 'omitted' && cue.out > end)
    .map((cue) => ({
      ...{ weight: 'stops', at: { from: cue.in, to: cue.out }, about: [cue.id] },
      text: `Cue ${cueCode(cue)} reaches past the end of ${name}`,
    }))
  const clips = [...doc.clip.values()].flatMap((clip): Found[] => {
    const at = spanOfClip(doc, clip)
    const text =
      at.to > end
        ? `${clip.name} reaches past the end of ${name}`
        : at.from < programme && !isTwoPop(doc, clip)
          ? `${clip.name} begins before the programme`
          : ''
    return text === '' ? [] : [{ weight: 'stops', at, about: [clip.id], text }]
  })
  return [...past, ...clips]
}

/** The frame of the reel at which there is nothing more to see: the picture's end, or the reel's where there is none. */
function endOf(doc: Parameters<Check>[0], { picture }: Parameters<Check>[1]): { end: number; name: string } {
  const cut = currentCut(doc)
  if (!cut || picture?.id !== cut.pictureId) return { end: reelOf(doc).length, name: 'the reel' }
  const length = framesAtRate(picture.frames, FRAME_RATES[picture.rate], rateOf(doc))
  return { end: cut.offset + length, name: 'the picture' }
}
