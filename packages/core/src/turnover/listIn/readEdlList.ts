import { ok, refuse, type Result } from '../../errors.js'
import { CATEGORIES } from '../../reel/categories.js'
import { readEdl, type EdlEvent } from '../../formats/readEdl.js'
import { fadeShapeSchema } from '../../reel/records.js'
import { framesToSeconds, frameToSample } from '../../time/convert.js'
import type { FrameRate } from '../../time/rates.js'
import { frames, SAMPLE_RATE } from '../../time/units.js'
import { readPlayedWords } from '../playedWords.js'
import { PLAIN_CLIP, plainTrack, type ReadClip, type ReadList, type ReadTrack } from './readList.js'

const SAMPLES =
  /^SAMPLES: IN (-?\d+) LENGTH (\d+) OFFSET (-?\d+) SPEED (\d+(?:\.\d+)?) GAIN (-?\d+(?:\.\d+)?) DB$/
const FADES = /^FADES: IN (\d+) (\w+) OUT (\d+) (\w+)$/
const PLAYED = /^PLAYED: (.*)$/
const CATEGORY = new RegExp(`^(${CATEGORIES.join('|')}) (?=\\S)`)

/**
 * Reads the sounds of an EDL: its audio events, track after track, to the frame. Where a comment of ours tells the samples
 * beside and they agree with the event, to the sample.
 *
 * @param rate - In which its times are counted.
 * @param firstFrame - Frame of the day, at that rate, from which positions are counted: an EDL has no beginning of its own.
 * @returns A refusal `CORE_BAD_SHEET` when there is no event that sounds.
 */
export function readEdlList(text: string, rate: FrameRate, firstFrame: number): Result<ReadList> {
  const edl = readEdl(text, rate)
  const sounding = edl.events.filter(({ channel, reel }) => AUDIO.test(channel) && reel !== 'BL')
  const kept = sounding.filter(({ recordIn, recordOut }) => recordOut > recordIn)
  if (kept.length === 0) return refuse('CORE_BAD_SHEET', 'Import', 'no audio event was found in it')
  const nameOf = ({ track, channel }: EdlEvent): string =>
    track || (EVERY_CHANNEL.test(channel) ? edl.title || 'EDL' : channel.toUpperCase())
  const names = [...new Set(kept.map(nameOf))]
  const counted = edl.drop === null || edl.drop === rate.dropped > 0
  const at = (frame: number): number => frameToSample(frames(frame - firstFrame), rate)
  return ok({
    title: edl.title,
    tracks: names.map(trackOf),
    clips: dissolved(
      kept,
      kept.map((event) => clipOf(event, names.indexOf(nameOf(event)), at, rate)),
    ),
    markers: edl.markers.map(({ frame, words }) => ({ at: at(frame), length: 0, words })),
    begins: framesToSeconds(firstFrame, rate),
    left: [
      ...told(edl.events.length - sounding.length, 'without sound'),
      ...told(sounding.length - kept.length, 'without length'),
      ...told(
        kept.filter(({ transition }) => NO_FADE.has(transition)).length,
        'with a wipe or key, read as a cut',
      ),
      ...(counted
        ? []
        : [
            `the counting: it says ${edl.drop ? 'drop-frame' : 'non-drop-frame'} and was read at ${rate.label}`,
          ]),
      ...edl.problems.map(({ line, message }) => `line ${line}: ${message}`),
    ],
  })
}

const AUDIO = /^(A|B$|NONE$)/i
const EVERY_CHANNEL = /^(AA.*|B|NONE)$/i
const NO_FADE: ReadonlySet<string> = new Set(['wipe', 'key'])

const told = (count: number, how: string): string[] =>
  count > 0 ? [`${count} ${count === 1 ? 'event' : 'events'} ${how}`] : []

/** A track by its name, before which our own lists set its category. */
function trackOf(name: string): ReadTrack {
  const category = (CATEGORY.exec(name)?.[1] ?? null) as ReadTrack['category']
  return { ...plainTrack(category === null ? name : name.slice(category.length + 1)), category }
}

function clipOf(event: EdlEvent, track: number, at: (frame: number) => number, rate: FrameRate): ReadClip {
  const { name, recordIn, recordOut, sourceIn, speed, transition, over, comments } = event
  const clip: ReadClip = {
    ...PLAIN_CLIP,
    ...{ track, name, file: name, start: at(recordIn), length: at(recordOut) - at(recordIn) },
    ...{ offset: frameToSample(frames(sourceIn), rate), clock: true },
    ...{ speed: Math.abs(speed) || 1, reverse: speed < 0 },
    fadeIn: transition === 'dissolve' ? frameToSample(frames(over), rate) : 0,
  }
  const samples = firstMatch(comments, SAMPLES)?.map(Number)
  const frame = SAMPLE_RATE / (rate.num / rate.den)
  const [, into = 0, length = 0, offset = 0, told = 1, gain = 0] = samples ?? []
  // Somebody may have changed the event and left the comment.
  if (!samples || Math.abs(into) > frame || Math.abs(length - clip.length) > 2 * frame) return clip
  const played = firstMatch(comments, PLAYED)?.[1] ?? ''
  const [, fadeIn = '0', inShape, fadeOut = '0', outShape] = firstMatch(comments, FADES) ?? []
  return {
    ...{
      ...clip,
      start: clip.start + into,
      length,
      offset,
      clock: false,
      ...readPlayedWords(played),
      speed: told,
      gain,
    },
    ...{ fadeIn: Number(fadeIn), fadeOut: Number(fadeOut) },
    ...{ fadeInShape: shapeOf(inShape), fadeOutShape: shapeOf(outShape) },
  }
}

/** What a dissolve leaves goes on under what it brings, as long as that fades in. */
function dissolved(events: readonly EdlEvent[], clips: readonly ReadClip[]): ReadClip[] {
  const coming = clips.filter((_, index) => events[index]?.transition === 'dissolve')
  return clips.map((clip) => {
    const next = coming.find(({ track, start }) => track === clip.track && start === clip.start + clip.length)
    return next ? { ...clip, length: clip.length + next.fadeIn, fadeOut: next.fadeIn } : clip
  })
}

const firstMatch = (comments: readonly string[], pattern: RegExp): RegExpExecArray | null =>
  comments.map((comment) => pattern.exec(comment)).find((match) => match !== null) ?? null

const shapeOf = (word: string | undefined): ReadClip['fadeInShape'] =>
  fadeShapeSchema.safeParse(word?.toLowerCase()).data ?? 'linear'
