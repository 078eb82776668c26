import { cueCode } from '../../reel/numbering.js'
import { rateOf, syncPlace, type ReelDocument } from '../../reel/document.js'
import type { Clip } from '../../reel/records.js'
import { frameToSample, samplesPerFrame } from '../../time/convert.js'
import { aboutClip, type Check } from './finding.js'

const heard = (doc: ReelDocument): Clip[] => [...doc.clip.values()].filter((clip) => !clip.mute)

/** Sounds that belong to no cue. */
export const findLooseSounds: Check = (doc) =>
  heard(doc)
    .filter((clip) => clip.cueId === null)
    .map((clip) => aboutClip(doc, clip, 'mind', `${clip.name} belongs to no cue`))

/** Sounds that end before their cue does while no other sound of the cue reaches its end. */
export const findShortSounds: Check = (doc) => {
  const rate = rateOf(doc)
  const last = new Map<string, Clip>()
  for (const clip of heard(doc)) {
    if (clip.cueId === null) continue
    const other = last.get(clip.cueId)
    if (!other || clip.start + clip.length > other.start + other.length) last.set(clip.cueId, clip)
  }
  return [...last].flatMap(([cueId, clip]) => {
    const cue = doc.cue.get(cueId)
    // Less than a frame is nothing that anybody sees.
    const missing = cue ? frameToSample(cue.out, rate) - (clip.start + clip.length) : 0
    return cue && missing >= samplesPerFrame(rate)
      ? [aboutClip(doc, clip, 'mind', `${clip.name} ends before its cue ${cueCode(cue)}`)]
      : []
  })
}

/** Cues that none of their sounds meets: the nearest sync point is more than half a frame away. */
export const findOffSync: Check = (doc) => {
  const rate = rateOf(doc)
  const nearest = new Map<string, { clip: Clip; away: number }>()
  for (const clip of heard(doc)) {
    const cue = clip.cueId === null ? undefined : doc.cue.get(clip.cueId)
    if (!cue) continue
    const away = syncPlace(clip) - frameToSample(cue.sync, rate)
    const known = nearest.get(cue.id)
    if (!known || Math.abs(away) < Math.abs(known.away)) nearest.set(cue.id, { clip, away })
  }
  return [...nearest].flatMap(([cueId, { clip, away }]) => {
    const frames = Math.abs(away) / samplesPerFrame(rate)
    const cue = doc.cue.get(cueId)
    if (!cue || frames <= 0.5) return []
    const off = `${frames.toFixed(1)} frames ${away < 0 ? 'early' : 'late'}`
    return [aboutClip(doc, clip, 'mind', `${clip.name} meets its cue ${cueCode(cue)} ${off}`)]
  })
}
