import { STILL } from '../reel/records.js'
import { describe, expect, it } from 'vitest'
import { mediaOf, partsOfMedia } from '../audio/played.js'
import { playedWords, readPlayedWords } from '../turnover/playedWords.js'
import { channelChoices, channelChoiceSchema, channelsOf, channelWords, hasChannels } from './channels.js'

describe('the channels of a recording', () => {
  it('are heard all, by pairs of neighbours, or one by one', () => {
    expect(channelChoices(1)).toEqual([''])
    expect(channelChoices(2)).toEqual(['', '1', '2'])
    expect(channelChoices(5)).toEqual(['', '1+2', '3+4', '1', '2', '3', '4', '5'])
    expect(channelChoices(2).map((choice) => channelWords(choice, 2))).toEqual([
      ...['all channels', 'left only', 'right only'],
    ])
    expect(channelWords('', 8)).toBe('all 8, mixed down')
    expect(channelChoices(500).every((choice) => channelChoiceSchema.safeParse(choice).success)).toBe(true)
  })

  it('are counted from 1 in words and from 0 in the file', () => {
    expect(['', '3', '5+6'].map(channelsOf)).toEqual([[], [2], [4, 5]])
    expect(['', '3', '5+6', '6+7'].map((choice) => hasChannels(6, choice))).toEqual([true, true, true, false])
  })

  it.each(['0', '1+', '+2', '1+2+3', 'left', '1-2', '100'])('are not meant by “%s”', (choice) => {
    expect(channelChoiceSchema.safeParse(choice).success).toBe(false)
  })

  it('stand in a media id beside the speed that keeps the pitch', () => {
    for (const channels of channelChoices(6))
      for (const speed of [1, 0.5, 1.25]) {
        const id = mediaOf({ soundId: 'a-b', channels, speed, keepPitch: true })
        expect(partsOfMedia(id)).toEqual({ soundId: 'a-b', channels, stretch: speed })
      }
    expect(mediaOf({ soundId: 's', channels: '', speed: 2, keepPitch: false })).toBe('s')
  })

  it('are said in lists, and read there again, with all else of how a sound is played', () => {
    const plain = {
      speed: 1,
      keepPitch: false,
      reverse: false,
      sides: 'kept',
      channels: '',
      ...STILL,
    } as const
    expect(playedWords(plain)).toEqual([])
    // What somebody else has written there is not for us.
    for (const theirs of ['', 'Boom on channel 2', 'speed 2, see note', 'speed 0', 'channels 1 and 200'])
      expect(readPlayedWords(theirs), theirs).toEqual({})
    for (const played of [
      { runUp: 4800, runDown: 96_000 },
      { passSpeed: -12.5, passDistance: 30, speed: 2 },
      { channels: '12' },
      { channels: '3+4', sides: 'summed' },
      { speed: 0.75, keepPitch: true, reverse: true, sides: 'swapped', channels: '1' },
    ] as const)
      expect(
        readPlayedWords(
          playedWords({ ...plain, ...played })
            .join(', ')
            .toUpperCase(),
        ),
      ).toEqual(played)
  })
})
