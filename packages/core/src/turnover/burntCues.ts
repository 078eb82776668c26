import { cuesInOrder, rateOf, type ReelDocument } from '../reel/document.js'
import { framesToSeconds } from '../time/convert.js'

/** A time as subtitles have it: hours, minutes, seconds, hundredths, cut off so that a frame's own time is never before it. */
function assTime(seconds: number): string {
  const hundredths = Math.floor(Math.max(0, seconds) * 100 + 1e-6)
  const two = (value: number): string => String(value).padStart(2, '0')
  const minutes = Math.floor(hundredths / 6000)
  return `${Math.floor(minutes / 60)}:${two(minutes % 60)}:${two(Math.floor(hundredths / 100) % 60)}.${two(hundredths % 100)}`
}

/** Text without what would be a command. */
const plain = (text: string): string =>
  text
    .replace(/[{}\\]/g, ' ')
    .replace(/\s+/g, ' ')
    .trim()

/**
 * The cues of a reel as subtitles to be burnt into its picture: code and words, for as long as each lasts (Advanced SubStation Alpha 4.00+).
 *
 * @param offset - Frame of the reel at which the movie's first frame stands.
 * @param font - Name of the type in which they are set.
 */
export function burntCues(doc: ReelDocument, offset: number, font: string): string {
  const rate = rateOf(doc)
  const at = (frame: number): string => assTime(framesToSeconds(frame - offset, rate))
  const lines = cuesInOrder(doc)
    .filter((cue) => cue.state !== 'omitted' && cue.out > offset)
    .map((cue) => {
      const words = plain(`${cue.category} ${String(cue.number).padStart(3, '0')} ${cue.words}`)
      return `Dialogue: 0,${at(cue.in)},${at(cue.out)},Cue,,0,0,0,,${words}`
    })
  return [
    ...['[Script Info]', 'ScriptType: v4.00+', 'PlayResX: 640', 'PlayResY: 360', 'WrapStyle: 0', ''],
    '[V4+ Styles]',
    'Format: Name, Fontname, Fontsize, PrimaryColour, OutlineColour, BackColour, BorderStyle, Outline, Shadow, Alignment, MarginL, MarginR, MarginV',
    `Style: Cue,${font},18,&H00FFFFFF,&H00000000,&H80000000,1,1.5,0,1,10,10,8`,
    ...['', '[Events]', 'Format: Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text'],
    ...lines,
    '',
  ].join('\n')
}
