import type { Clip, Movement } from '../reel/records.js'
import { channelWords } from '../sounds/channels.js'

/** How a clip is played. */
export type Played = Pick<Clip, 'speed' | 'keepPitch' | 'reverse' | 'sides' | 'channels' | keyof Movement>

/** How a clip is played, for lists that have no other words for it: "speed 2", "pitch kept", "backwards", "sides swapped", "channels 3 and 4", "runs down over 48000" (samples), "passes at -20 m/s 5 m away". */
export function playedWords({ speed, keepPitch, reverse, sides, channels, ...moves }: Played): string[] {
  const { runUp, runDown, passSpeed, passDistance } = moves
  return [
    ...(speed === 1 ? [] : [`speed ${speed}`, ...(keepPitch ? ['pitch kept'] : [])]),
    ...(reverse ? ['backwards'] : []),
    ...(sides === 'kept' ? [] : [`sides ${sides}`]),
    ...(channels === '' ? [] : [channelWords(channels)]),
    ...(runUp === 0 ? [] : [`runs up over ${runUp}`]),
    ...(runDown === 0 ? [] : [`runs down over ${runDown}`]),
    ...(passSpeed === 0 ? [] : [`passes at ${passSpeed} m/s ${passDistance} m away`]),
  ]
}

const READERS: readonly (readonly [RegExp, (found: RegExpExecArray) => Partial<Played>])[] = [
  [/^speed (\d+(?:\.\d+)?)$/, ([, speed]) => ({ speed: Number(speed) })],
  [/^pitch kept$/, () => ({ keepPitch: true })],
  [/^backwards$/, () => ({ reverse: true })],
  [/^sides (swapped|summed)$/, ([, sides]) => ({ sides: sides as Clip['sides'] })],
  [/^channels ([1-9]\d?) and ([1-9]\d?)$/, ([, left, right]) => ({ channels: `${left}+${right}` })],
  [/^runs up over (\d{1,12})$/, ([, runUp]) => ({ runUp: Number(runUp) })],
  [/^runs down over (\d{1,12})$/, ([, runDown]) => ({ runDown: Number(runDown) })],
  [
    /^passes at (-?\d{1,3}(?:\.\d+)?) m\/s (\d{1,3}(?:\.\d+)?) m away$/,
    ([, speed, away]) => ({ passSpeed: Number(speed), passDistance: Number(away) }),
  ],
  [/^channel ([1-9]\d?)$/, ([, channel]) => ({ channels: channel ?? '' })],
]

/**
 * Reads what {@link playedWords} says, parted by commas, in any case of letters. A text with anything else in it was written by
 * somebody else and says nothing of this.
 */
export function readPlayedWords(text: string): Partial<Played> {
  const said: Partial<Played> = {}
  for (const word of text.toLowerCase().split(', ')) {
    const read = READERS.flatMap(([pattern, meaning]) => {
      const found = pattern.exec(word)
      return found ? [meaning(found)] : []
    })[0]
    if (!read || read.speed === 0) return {}
    Object.assign(said, read)
  }
  return said
}
