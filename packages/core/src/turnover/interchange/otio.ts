import { rateOf, reelOf, rideOf, cuesInOrder, type ReelDocument } from '../../reel/document.js'
import type { Clip, Track } from '../../reel/records.js'
import { SAMPLE_RATE } from '../../time/units.js'
import { placedTracks, sourceStart, type FileOf, type SourceFile } from './placed.js'

/** The key under which metadata of ours stands. */
export const OTIO_KEY = 'yodel'
type Json = string | number | boolean | null | readonly Json[] | { readonly [key: string]: Json }

const time = (value: number, rate: number = SAMPLE_RATE): Json => ({
  OTIO_SCHEMA: 'RationalTime.1',
  rate,
  value,
})
const range = (start: number, duration: number, rate?: number): Json => ({
  OTIO_SCHEMA: 'TimeRange.1',
  start_time: time(start, rate),
  duration: time(duration, rate),
})
const item = (name: string, metadata: Json): { readonly [key: string]: Json } => ({
  ...{ name, metadata: { [OTIO_KEY]: metadata }, effects: [], markers: [], enabled: true },
})

/**
 * Writes a reel as OpenTimelineIO (schema versions of release 0.17): a stack of audio tracks, times in samples at 48 kHz.
 * A crossfade is a dissolve, drawn over the middle of the overlap; another speed is a time warp; cues and notes are markers in
 * frames. Gain, fades, rides and what else has no schema stands in metadata.
 */
export function otioText(doc: ReelDocument, fileOf: FileOf): string {
  const reel = reelOf(doc)
  const rate = rateOf(doc)
  const fps = rate.num / rate.den
  const { show, name, company, programme } = reel
  const facts = { show, reel: name, company, rate: reel.rate, firstFrame: reel.firstFrame, programme }
  const cues = cuesInOrder(doc).map((cue): Json => {
    const { kind: _, id, words, ...more } = cue
    return marker(words, range(cue.in, cue.out - cue.in, fps), 'GREEN', { cue: id, ...more })
  })
  const notes = [...doc.note.values()].map((note): Json =>
    marker(note.words, range(note.frame, 0, fps), note.question ? 'RED' : 'YELLOW', {
      ...{ author: note.author, to: note.to, closed: note.closed, cueId: note.cueId },
    }),
  )
  const timeline = {
    OTIO_SCHEMA: 'Timeline.1',
    name: `${show} ${name}`,
    metadata: { [OTIO_KEY]: facts },
    global_start_time: time(reel.firstFrame, fps),
    tracks: {
      OTIO_SCHEMA: 'Stack.1',
      ...item('tracks', {}),
      source_range: null,
      markers: [...cues, ...notes],
      children: placedTracks(doc).map(({ track, clips }) => trackJson(doc, track, clips, fileOf)),
    },
  }
  return `${JSON.stringify(timeline, null, 1)}\n`
}

const marker = (name: string, marked_range: Json, color: string, facts: Json): Json => ({
  ...{ OTIO_SCHEMA: 'Marker.2', name, color, comment: '', marked_range },
  metadata: { [OTIO_KEY]: facts },
})

function trackJson(doc: ReelDocument, track: Track, clips: readonly Clip[], fileOf: FileOf): Json {
  const children: Json[] = []
  let at = 0
  for (const [index, clip] of clips.entries()) {
    const before = overlap(clips[index - 1], clip)
    const after = overlap(clip, clips[index + 1])
    // A dissolve is drawn over a cut: each of two overlapping clips ends, or begins, in the middle.
    const start = clip.start + before.in
    const end = clip.start + clip.length - after.out
    if (start > at)
      children.push({ OTIO_SCHEMA: 'Gap.1', ...item('', {}), source_range: range(0, start - at) })
    if (before.in + before.out > 0)
      children.push({
        ...{ OTIO_SCHEMA: 'Transition.1', name: '', transition_type: 'SMPTE_Dissolve' },
        ...{ in_offset: time(before.in), out_offset: time(before.out) },
        metadata: {
          [OTIO_KEY]: { fadeOutShape: clips[index - 1]?.fadeOutShape ?? '', fadeInShape: clip.fadeInShape },
        },
      })
    children.push(clipJson(clip, fileOf(clip), start - clip.start, end - start))
    at = end
  }
  const { id, name, category, level, pan, mute, solo, width } = track
  const rides = (['level', 'pan'] as const)
    .flatMap((what) => rideOf(doc, id, what))
    .map(({ what, at: place, value, bend }) => ({ what, at: place, value, bend }))
  return {
    OTIO_SCHEMA: 'Track.1',
    ...item(name, { category, level, pan, mute, solo, width, rides }),
    ...{ kind: 'Audio', source_range: null, children, enabled: !mute },
  }
}

/** How far two clips overlap before the middle of that, and after it. */
function overlap(first: Clip | undefined, second: Clip | undefined): { in: number; out: number } {
  const both = first && second ? Math.max(0, first.start + first.length - second.start) : 0
  return { in: Math.floor(both / 2), out: both - Math.floor(both / 2) }
}

function clipJson(clip: Clip, file: SourceFile, into: number, length: number): Json {
  const { id, cueId, gain, start, offset, sync, speed, keepPitch, reverse, sides, channels } = clip
  const { group, locked, scratch, treatment, runUp, runDown, passSpeed, passDistance } = clip
  const { fadeIn, fadeOut, fadeInShape, fadeOutShape } = clip
  const own = {
    id,
    cueId,
    gain,
    start,
    length: clip.length,
    offset,
    sync,
    keepPitch,
    reverse,
    sides,
    channels,
    group,
    locked,
    ...{ runUp, runDown, passSpeed, passDistance, scratch, treatment },
  }
  const first = file.timeReference + sourceStart(clip, file) + Math.round(into * speed)
  return {
    OTIO_SCHEMA: 'Clip.2',
    ...item(clip.name, { ...own, fadeIn, fadeOut, fadeInShape, fadeOutShape }),
    enabled: !clip.mute,
    source_range: range(first, length),
    effects:
      speed === 1 && !reverse
        ? []
        : [
            {
              ...{ OTIO_SCHEMA: 'LinearTimeWarp.1', name: '', effect_name: 'LinearTimeWarp' },
              ...{ time_scalar: reverse ? -speed : speed, metadata: {} },
            },
          ],
    active_media_reference_key: 'DEFAULT_MEDIA',
    media_references: {
      DEFAULT_MEDIA: {
        ...{
          OTIO_SCHEMA: 'ExternalReference.1',
          name: clip.name,
          target_url: file.path.split('/').map(encodeURIComponent).join('/'),
        },
        available_range: range(file.timeReference, file.length),
        metadata: { [OTIO_KEY]: { sha256: file.sha256 } },
        available_image_bounds: null,
      },
    },
  }
}
