import { documentOf, type ReelDocument } from '../reel/document.js'
import type { Reel } from '../reel/records.js'
import { frames } from '../time/units.js'

type ReelFields = Partial<Omit<Reel, 'firstFrame' | 'programme' | 'length'>> & {
  firstFrame?: number
  programme?: number
  length?: number
}

/** An empty reel of ten minutes at 24 fps from 01:00:00:00, for tests. */
export function testReel({
  firstFrame = 86_400,
  programme = 0,
  length = 14_400,
  ...fields
}: ReelFields = {}): ReelDocument {
  const reel: Reel = {
    kind: 'reel',
    id: 'r',
    show: 'Show',
    name: 'Reel 1',
    rate: '24',
    firstFrame: frames(firstFrame),
    programme: frames(programme),
    length: frames(length),
    pictureId: null,
    company: '',
    nameRule: '{show}_{reel}_{function}',
    ...fields,
  }
  return documentOf([reel])
}
