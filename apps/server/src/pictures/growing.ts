import type { FrameIndex } from './FrameIndex.js'

/** Pictures that are being made in this server, by id: what is there of them can be looked at. */
const growing = new Map<string, FrameIndex>()

/** What is there of a picture that is being made; undefined while nothing is made of it. */
export const growingOf = (pictureId: string): FrameIndex | undefined => growing.get(pictureId)

/** Lets others see a picture while it is made. @returns the way to end that */
export function letGrow(pictureId: string, index: FrameIndex): () => void {
  growing.set(pictureId, index)
  return () => {
    if (growing.get(pictureId) === index) growing.delete(pictureId)
  }
}
