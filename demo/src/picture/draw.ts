import { INK, rect, type Ctx } from './brush.js'
import { SCENES } from './scenes.js'
import type { Story } from './story.js'

/** Size of the picture; the burnt-in timecode stands in the lowest 24 lines and can be cropped. */
export const WIDTH = 640
/** See {@link WIDTH}. */
export const HEIGHT = 384

/** Draws one frame of a reel, counted from its first frame. */
export function drawFrame(g: Ctx, story: Story, frame: number, timecode: string): void {
  const { leader: before, burnt } = story.facts
  rect(g, INK, 0, 0, WIDTH, HEIGHT)
  if (frame < before) leader(g, story, frame)
  else {
    const shot = story.shotAt(frame - before)
    SCENES[shot.scene](g, frame, { story, shot })
  }
  rect(g, '#000', 0, 360, WIDTH, 24)
  g.fillStyle = '#fff'
  g.font = '16px monospace'
  g.fillText(`${timecode}   ${burnt}`, 12, 378)
}

function leader(g: Ctx, { facts, rate, pop }: Story, frame: number): void {
  const fps = rate.nominal
  const left = Math.ceil((facts.leader - frame) / fps)
  g.fillStyle = '#d9d2bf'
  g.fillRect(0, 0, WIDTH, 360)
  if (frame > pop) {
    g.fillStyle = INK
    g.fillRect(0, 0, WIDTH, 360)
    return
  }
  g.fillStyle = '#bdb49d'
  g.beginPath()
  g.moveTo(320, 180)
  g.arc(320, 180, 400, -Math.PI / 2, -Math.PI / 2 + (2 * Math.PI * (frame % fps)) / fps)
  g.fill()
  g.fillStyle = INK
  g.font = 'bold 150px sans-serif'
  g.textAlign = 'center'
  g.fillText(String(left), 320, 232)
  g.textAlign = 'left'
  if (frame === pop) rect(g, '#d23f1e', 300, 20, 40, 40)
}
