import { spanOfClip, type Check, type Found } from './finding.js'
import type { Clip } from '../../reel/records.js'

/** What a licence forbids, as far as its text says: Creative Commons' own words and marks, and plain ones. */
const FORBIDS: readonly (readonly [RegExp, string])[] = [
  [/\bnon-?commercial\b|\bby-nc\b|\bnc\b|not for sale|personal use|educational use/i, 'selling'],
  [/\bno-?deriv|\bby-(nc-)?nd\b|\bnd\b|no (changes|modification)/i, 'changing'],
  [/evaluation only|do not (use|distribute)/i, 'using'],
]

/** Recordings whose licence nobody knows, or forbids what is being done with them. One finding a recording, at its first use. */
export const findLicences: Check = (doc, { sounds }) => {
  const first = new Map<string, Clip>()
  for (const clip of doc.clip.values()) {
    const known = first.get(clip.soundId)
    if (!known || clip.start < known.start) first.set(clip.soundId, clip)
  }
  return sounds.flatMap(({ id, licence }): Found[] => {
    const clip = first.get(id)
    const forbidden = FORBIDS.filter(([pattern]) => pattern.test(licence)).map(([, what]) => what)
    const text =
      licence.trim() === ''
        ? 'no licence is known'
        : forbidden.length > 0
          ? `its licence (${licence}) forbids ${forbidden.join(' and ')}`
          : ''
    return !clip || text === ''
      ? []
      : [{ weight: 'mind', at: spanOfClip(doc, clip), about: [clip.id], text: `${clip.name}: ${text}` }]
  })
}
