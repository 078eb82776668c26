import { z } from 'zod'

/** The most channels of a recording of which single ones can be heard. */
const MOST = 64

/**
 * Which channels of a recording are heard: empty for all of them, mixed down where they are more than two; `3` for the third
 * alone, as mono; `3+4` for the third on the left and the fourth on the right.
 */
export const channelChoiceSchema = z.string().regex(/^(?:[1-9]\d?(?:\+[1-9]\d?)?)?$/)

/** What can be chosen of a recording of so many channels: all, then pairs of neighbours, then single ones. Of mono only all. */
export function channelChoices(channels: number): string[] {
  const numbers = Array.from({ length: channels < 2 ? 0 : Math.min(channels, MOST) }, (_, index) => index + 1)
  const pairs = channels < 3 ? [] : numbers.filter((number) => number % 2 === 1 && number < channels)
  return ['', ...pairs.map((first) => `${first}+${first + 1}`), ...numbers.map(String)]
}

/** The channels that a choice means, from 0: none for all of them, else one or two. */
export const channelsOf = (choice: string): number[] =>
  choice === '' ? [] : choice.split('+').map((number) => Number(number) - 1)

/** Says whether a recording of so many channels has what a choice asks for. */
export const hasChannels = (channels: number, choice: string): boolean =>
  channelsOf(choice).every((channel) => channel < channels)

/** A choice in words. @param channels - How many the recording has, where that is known */
export function channelWords(choice: string, channels = 0): string {
  const [first, second] = choice.split('+')
  if (second !== undefined) return `channels ${first} and ${second}`
  if (choice !== '') return channels === 2 ? `${first === '1' ? 'left' : 'right'} only` : `channel ${first}`
  return channels > 2 ? `all ${channels}, mixed down` : 'all channels'
}
