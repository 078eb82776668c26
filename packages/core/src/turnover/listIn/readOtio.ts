import { z } from 'zod'
import { ok, refuse, type Result } from '../../errors.js'
import { CATEGORIES } from '../../reel/categories.js'
import {
  fadeShapeSchema,
  movementSchema,
  ownTextsSchema,
  sidesSchema,
  type Movement,
} from '../../reel/records.js'
import { channelChoiceSchema } from '../../sounds/channels.js'
import { SAMPLE_RATE } from '../../time/units.js'
import { asPath } from './asPath.js'
import { OTIO_KEY } from '../interchange/otio.js'
import {
  PLAIN_CLIP,
  plainTrack,
  type ReadClip,
  type ReadList,
  type ReadMarker,
  type ReadTrack,
} from './readList.js'

const timeSchema = z.object({ rate: z.number().positive(), value: z.number() })
const rangeSchema = z.object({ start_time: timeSchema, duration: timeSchema })
const loose = z.looseObject({ OTIO_SCHEMA: z.string() })
type Node = z.infer<typeof loose>

const ownSchema = z
  .object({
    ...{ gain: z.number(), offset: z.int(), sync: z.int(), fadeIn: z.int(), fadeOut: z.int() },
    ...{ fadeInShape: fadeShapeSchema, fadeOutShape: fadeShapeSchema },
    ...{ keepPitch: z.boolean(), sides: sidesSchema, channels: channelChoiceSchema },
    ...movementSchema.shape,
    ...ownTextsSchema.shape,
  })
  .partial()
const ownTrackSchema = z
  .object({ category: z.enum(CATEGORIES), level: z.number(), pan: z.number(), rides: z.array(z.unknown()) })
  .partial()

const movementOf = (own: z.infer<typeof ownSchema>): Partial<Movement> => movementSchema.partial().parse(own)

const samplesOf = (time: unknown): number => {
  const { rate, value } = timeSchema.parse(time)
  return Math.round((value / rate) * SAMPLE_RATE)
}
const kindOf = (node: Node): string => node.OTIO_SCHEMA.split('.')[0] as string
const nodes = (list: unknown): Node[] =>
  Array.isArray(list) ? list.flatMap((one) => loose.safeParse(one).data ?? []) : []
const text = (value: unknown): string => (typeof value === 'string' ? value : '')

/**
 * Reads the audio tracks and markers of OpenTimelineIO, whoever wrote it: clips, gaps and dissolves of the first stack.
 * What has an unknown schema is passed over and told.
 *
 * @returns A refusal `CORE_NOT_OTIO` when it is no timeline.
 */
export function readOtio(source: string): Result<ReadList> {
  try {
    const node = loose.parse(JSON.parse(source))
    if (!['Timeline', 'Stack'].includes(kindOf(node)))
      return refuse('CORE_NOT_OTIO', 'file', `it is a ${node.OTIO_SCHEMA}`)
    return ok(new OtioReader(node).read())
  } catch (error) {
    if (error instanceof SyntaxError) return refuse('CORE_NOT_OTIO', 'file', 'it is no JSON')
    if (!(error instanceof z.ZodError)) throw error
    const [issue] = error.issues
    return refuse('CORE_NOT_OTIO', issue?.path.join('.') || 'file', issue?.message ?? '')
  }
}

class OtioReader {
  private readonly left = new Set<string>()

  constructor(private readonly timeline: Node) {}

  read(): ReadList {
    const { timeline } = this
    const stack = loose.parse(kindOf(timeline) === 'Timeline' ? timeline['tracks'] : timeline)
    const children = nodes(stack['children'])
    const audio = children.filter((node) => kindOf(node) === 'Track' && node['kind'] === 'Audio')
    const others = children.length - audio.length
    if (others > 0) this.left.add(`${others} ${others === 1 ? 'track that is' : 'tracks that are'} not audio`)
    const clips = audio.flatMap((track, index) => this.trackClips(track, index))
    const begins = timeSchema.safeParse(timeline['global_start_time']).data
    return {
      title: text(timeline['name']),
      tracks: audio.map((track, index) => this.track(track, index)),
      clips,
      markers: [stack, ...audio].flatMap((node) => this.markersOf(node)),
      begins: begins ? begins.value / begins.rate : null,
      left: [...this.left],
    }
  }

  private track(node: Node, index: number): ReadTrack {
    const name = text(node['name']) || `Track ${index + 1}`
    const { rides = [], ...own } = ownTrackSchema.safeParse(metadataOf(node)).data ?? {}
    if (rides.length > 0) this.left.add(`rides of ${name}`)
    return { ...plainTrack(name), ...own, mute: node['enabled'] === false }
  }

  private trackClips(track: Node, index: number): ReadClip[] {
    const clips: ReadClip[] = []
    let at = 0
    let dissolve = { in: 0, out: 0 }
    for (const node of nodes(track['children'])) {
      const kind = kindOf(node)
      if (kind === 'Transition') {
        dissolve = { in: samplesOf(node['in_offset']), out: samplesOf(node['out_offset']) }
        const last = clips.at(-1)
        if (last)
          clips[clips.length - 1] = {
            ...last,
            length: last.length + dissolve.out,
            fadeOut: Math.max(last.fadeOut, dissolve.in + dissolve.out),
          }
        continue
      }
      const range = rangeSchema.safeParse(node['source_range']).data
      const length = range ? samplesOf(range.duration) : 0
      if (kind === 'Clip' && range) {
        const clip = this.clip(node, index, at, length, samplesOf(range.start_time))
        const before = Math.round(dissolve.in * clip.speed)
        clips.push(
          dissolve.in + dissolve.out === 0
            ? clip
            : {
                ...{ ...clip, start: clip.start - dissolve.in, length: clip.length + dissolve.in },
                ...{
                  offset: clip.offset - before,
                  fadeIn: Math.max(clip.fadeIn, dissolve.in + dissolve.out),
                },
              },
        )
      } else if (kind !== 'Gap')
        this.left.add(`${node.OTIO_SCHEMA} “${text(node['name'])}” on ${text(track['name'])}`)
      dissolve = { in: 0, out: 0 }
      at += length
    }
    return clips
  }

  private clip(node: Node, track: number, start: number, length: number, first: number): ReadClip {
    const references = z.record(z.string(), loose).safeParse(node['media_references']).data ?? {}
    const reference =
      references[text(node['active_media_reference_key'])] ?? loose.safeParse(node['media_reference']).data
    const available = rangeSchema.safeParse(reference?.['available_range']).data
    const own = ownSchema.safeParse(metadataOf(node)).data ?? {}
    const effects = nodes(node['effects'])
    const warp = effects.find((effect) => kindOf(effect) === 'LinearTimeWarp')
    const scalar = z.number().safeParse(warp?.['time_scalar']).data ?? 1
    const speed = Math.abs(scalar) || 1
    const offset = first - (available ? samplesOf(available.start_time) : 0)
    // Both count in the recording as it is played; the file's samples are told here.
    const toSync = own.sync !== undefined && own.offset !== undefined ? (own.sync - own.offset) * speed : null
    for (const effect of effects)
      if (effect !== warp)
        this.left.add(
          `the effect ${text(effect['effect_name']) || effect.OTIO_SCHEMA} on “${text(node['name'])}”`,
        )
    return {
      ...PLAIN_CLIP,
      ...{ track, start, length, name: text(node['name']), mute: node['enabled'] === false },
      file: asPath(text(reference?.['target_url'])),
      sha256: text(metadataOf(reference)['sha256']),
      fileLength: available ? samplesOf(available.duration) : null,
      ...{ offset, speed, reverse: scalar < 0 },
      ...{ keepPitch: own.keepPitch ?? false, sides: own.sides ?? 'kept', channels: own.channels ?? '' },
      ...movementOf(own),
      ...{ scratch: own.scratch ?? '', treatment: own.treatment ?? '' },
      sync: toSync === null || scalar < 0 ? null : offset + Math.round(toSync),
      ...{ gain: own.gain ?? 0, fadeIn: own.fadeIn ?? 0, fadeOut: own.fadeOut ?? 0 },
      ...{ fadeInShape: own.fadeInShape ?? 'linear', fadeOutShape: own.fadeOutShape ?? 'linear' },
    }
  }

  private markersOf(node: Node): ReadMarker[] {
    return nodes(node['markers']).flatMap((marker) => {
      const range = rangeSchema.safeParse(marker['marked_range']).data
      if (!range) return []
      const words = text(marker['name']) || text(marker['comment'])
      return [{ at: samplesOf(range.start_time), length: samplesOf(range.duration), words }]
    })
  }
}

function metadataOf(node: Node | undefined): Record<string, unknown> {
  const all = z.record(z.string(), z.unknown()).safeParse(node?.['metadata']).data ?? {}
  return z.record(z.string(), z.unknown()).safeParse(all[OTIO_KEY]).data ?? {}
}
