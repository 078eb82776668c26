import { clipsOnTrack, rateOf, reelOf, tracksAsPrinted, type ReelDocument } from '../reel/document.js'
import { nearestFrame } from '../time/convert.js'
import { formatTimecode } from '../time/timecode.js'

/**
 * Writes the placed sounds as an EDL in the CMX 3600 layout, track after track.
 *
 * Source times count frames of the reel's rate from the head of the recording. Edges go to the nearest frame;
 * the sample-exact start and length stand in a comment under each event. Muted clips are left out.
 *
 * @param fileOf - File name of a sound, for the `FROM CLIP NAME` comment.
 */
export function clipsEdl(doc: ReelDocument, fileOf: (soundId: string) => string): string {
  const rate = rateOf(doc)
  const reel = reelOf(doc)
  const lines = [
    `TITLE: ${reel.show} ${reel.name}`.toUpperCase().slice(0, 70),
    `FCM: ${rate.dropped > 0 ? 'DROP FRAME' : 'NON-DROP FRAME'}`,
  ]
  let event = 0
  tracksAsPrinted(doc).forEach((track, index) => {
    const clips = clipsOnTrack(doc, track.id).filter((clip) => !clip.mute)
    if (clips.length > 0) lines.push('', `* TRACK ${index + 1}: ${track.category} ${track.name}`)
    for (const clip of clips) {
      event++
      const recordIn = nearestFrame(clip.start, rate)
      const recordOut = Math.max(recordIn + 1, nearestFrame(clip.start + clip.length, rate))
      const sourceIn = nearestFrame(clip.offset, rate)
      const times = [
        sourceIn,
        sourceIn + recordOut - recordIn,
        reel.firstFrame + recordIn,
        reel.firstFrame + recordOut,
      ]
      lines.push(
        `${String(event).padStart(3, '0')}  AX       AA    C        ${times.map((frame) => formatTimecode(frame, rate)).join(' ')}`,
        `* FROM CLIP NAME: ${oneLine(fileOf(clip.soundId))}`,
        `* SAMPLES: START ${clip.start} LENGTH ${clip.length} OFFSET ${clip.offset} GAIN ${clip.gain.toFixed(2)} DB`,
      )
    }
  })
  return `${lines.join('\r\n')}\r\n`
}

const oneLine = (text: string): string => text.replace(/\s+/g, ' ')
