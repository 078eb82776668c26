import { currentCut, rateOf, reelOf } from '../../reel/document.js'
import { FRAME_RATES, sameSpeed } from '../../time/rates.js'
import { framesAtRate } from '../../time/convert.js'
import { formatTimecode } from '../../time/timecode.js'
import type { Check } from './finding.js'

/** A picture that runs at another rate than the reel, is not as long as it, or is not there. */
export const findRates: Check = (doc, { picture }) => {
  const reel = reelOf(doc)
  const cut = currentCut(doc)
  const whole = { weight: 'stops', at: null, about: [reel.id] } as const
  if (!cut) return []
  if (!picture || picture.id !== cut.pictureId)
    return [{ ...whole, text: `The picture ${cut.name} is not there` }]
  const [own, theirs] = [rateOf(doc), FRAME_RATES[picture.rate]]
  if (!sameSpeed(own, theirs))
    return [{ ...whole, text: `The reel runs at ${own.label} and the picture at ${theirs.label}` }]
  const timecode = (frame: number): string => formatTimecode(reel.firstFrame + frame, own)
  const end = cut.offset + framesAtRate(picture.frames, theirs, own)
  return end === reel.length
    ? []
    : [{ ...whole, text: `The picture ends at ${timecode(end)} and the reel at ${timecode(reel.length)}` }]
}
