import { documentOf, type ReelDocument } from '../reel/document.js'
import type { Reel } from '../reel/records.js'

/** An empty reel of ten minutes at 24 fps from 01:00:00:00, for tests. */
export function testReel(fields: Partial<Reel> = {}): ReelDocument {
  const reel: Reel = {
    kind: 'reel',
    id: 'r',
    show: 'Show',
    name: 'Reel 1',
    rate: '24',
    firstFrame: 86_400,
    programme: 0,
    length: 14_400,
    pictureId: null,
    company: '',
    nameRule: '{show}_{reel}_{function}',
    ...fields,
  }
  return documentOf([reel])
}
