import { aboutClip, type Check } from './finding.js'

const WORDS = {
  missing: 'its file is not there',
  changed: 'its file has changed since it was placed',
  unreadable: 'its file can’t be read',
  unknown: 'it is on no shelf any more',
} as const

/** Recordings that can't be bounced as they were heard. */
export const findMedia: Check = (doc, facts) => {
  const altered = new Set(facts.altered)
  const states = new Map(facts.sounds.map((sound) => [sound.id, sound]))
  return [...doc.clip.values()].flatMap((clip) => {
    const sound = states.get(clip.soundId)
    // A recording that got longer or shorter is another one, whatever its name; ten samples are what decoders differ by.
    const heard = Math.round(clip.recorded * clip.speed)
    const other =
      sound?.state === 'here' && sound.length > 0 && Math.abs(heard - sound.length) > 10 * clip.speed
    const now = altered.has(clip.id) && sound?.state === 'here'
    const state = !sound ? 'unknown' : other || now ? 'changed' : sound.state
    return state === 'here' ? [] : [aboutClip(doc, clip, 'stops', `${clip.name}: ${WORDS[state]}`)]
  })
}
