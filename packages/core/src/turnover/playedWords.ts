import type { Clip } from '../reel/records.js'
import { channelWords } from '../sounds/channels.js'

/** How a clip is played. */
export type Played = Pick<Clip, 'speed' | 'keepPitch' | 'reverse' | 'sides' | 'channels'>

/** How a clip is played, for lists that have no other words for it: "speed 2", "pitch kept", "backwards", "sides swapped", "channels 3 and 4". */
export function playedWords({ speed, keepPitch, reverse, sides, channels }: Played): string[] {
  return [
    ...(speed === 1 ? [] : [`speed ${speed}`, ...(keepPitch ? ['pitch kept'] : [])]),
    ...(reverse ? ['backwards'] : []),
    ...(sides === 'kept' ? [] : [`sides ${sides}`]),
    ...(channels === '' ? [] : [channelWords(channels)]),
  ]
}

/** Reads what {@link playedWords} says, in any case of letters and with anything else about it; what it does not speak of is left out. */
export function readPlayedWords(text: string): Partial<Played> {
  const speed = Number(/\bspeed (\d+(?:\.\d+)?)/i.exec(text)?.[1])
  const sides = /\bsides (swapped|summed)\b/i.exec(text)?.[1]?.toLowerCase() as Clip['sides'] | undefined
  const [, pair, second, one] =
    /\bchannels ([1-9]\d?) and ([1-9]\d?)\b|\bchannel ([1-9]\d?)\b/i.exec(text) ?? []
  const channels = pair === undefined ? one : `${pair}+${second}`
  return {
    ...(speed > 0 ? { speed } : {}),
    ...(/\bpitch kept\b/i.test(text) ? { keepPitch: true } : {}),
    ...(/\bbackwards\b/i.test(text) ? { reverse: true } : {}),
    ...(sides === undefined ? {} : { sides }),
    ...(channels === undefined ? {} : { channels }),
  }
}
