/** A sound track of a movie: a stream of the file, or a channel of one whose channels stand for nothing but themselves. */
export interface MovieSound {
  /** Number among the sound streams of the file. */
  readonly stream: number
  /** Channel of the stream; null for all of them together. */
  readonly channel: number | null
  /** Channels as it is kept: more than two are mixed down. */
  readonly channels: 1 | 2
  /** More than two channels are mixed down to these two, the low one with them. */
  readonly isWide: boolean
  /** What it is, as far as the file says so. */
  readonly name: string
}

/** What ffprobe says of a stream. */
interface ProbedStream {
  readonly codec_type: string
  readonly channels: number
  readonly channel_layout: string
  readonly tags: Readonly<Record<string, string>>
}

/** Names that programs give every track; they tell nobody anything. */
const NOBODYS = /handler|media|^(audio|sound|track|stereo|mono|und)( ?\d*)?$/i
/** Streams of so many channels without a known layout are one track. */
const MOST_TOGETHER = 2

/** The sound tracks of a movie, in the order of the file. */
export function soundsOf(streams: readonly ProbedStream[]): MovieSound[] {
  return streams
    .filter(({ codec_type: type }) => type === 'audio')
    .flatMap((one, stream): MovieSound[] => {
      const name = nameOf(one)
      const { channels } = one
      if (channels <= MOST_TOGETHER || isLayout(one.channel_layout))
        return [{ stream, channel: null, channels: channels === 1 ? 1 : 2, isWide: channels > 2, name }]
      return Array.from({ length: channels }, (_, channel) => ({
        ...{ stream, channel, channels: 1, isWide: false },
        name: `channel ${channel + 1}${name === '' ? '' : `, ${name}`}`,
      }))
    })
}

/** Says whether a stream's channels belong to loudspeakers; else each is a track by itself. */
const isLayout = (layout: string): boolean => layout !== '' && !/^\d+ channels|unknown/.test(layout)

function nameOf({ tags, channels, channel_layout: layout }: ProbedStream): string {
  const said = ['title', 'track_name', 'handler_name', 'name']
    .map((tag) => (tags[tag] ?? '').trim())
    .find((text) => text !== '' && !NOBODYS.test(text))
  const language = tags['language'] && tags['language'] !== 'und' ? tags['language'] : ''
  return [said ?? '', language, channels > 2 && isLayout(layout) ? layout : ''].filter(Boolean).join(', ')
}
