import { tracksInOrder } from '../../reel/document.js'
import { EFFECT_NAMES } from '../../reel/inserts.js'
import { placeName } from '../../edits/editInserts.js'
import { silentTracks } from '../silentTracks.js'
import type { Check, Found } from './finding.js'

/** Solos, tracks with sounds that are muted, and treatment that is passed by. */
export const findSilence: Check = (doc) => {
  const muted = new Set(silentTracks(doc).flatMap(({ track, why }) => (why === 'muted' ? [track.id] : [])))
  const tracks = tracksInOrder(doc).flatMap(({ id, name, solo }): Found[] => [
    ...(solo ? [{ weight: 'stops' as const, at: null, about: [id], text: `${name} is soloed` }] : []),
    ...(muted.has(id)
      ? [{ weight: 'mind' as const, at: null, about: [id], text: `${name} has sounds and is muted` }]
      : []),
  ])
  const passed = [...doc.insert.values()]
    .filter((insert) => insert.bypass)
    .map((insert): Found => {
      const text = `${EFFECT_NAMES[insert.effect]} on ${placeName(doc, insert.on)} is passed by`
      return { weight: 'mind', at: null, about: [insert.id], text }
    })
  return [...tracks, ...passed]
}
