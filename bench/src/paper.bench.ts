// The mix cue sheet of a reel of 60 tracks and 5,000 sounds: laid out, and written as a PDF; pages packed against pages to scale.
import {
  documentOf,
  layoutCueSheet,
  SHIPPED_RECIPES,
  samplesIn,
  type Clip,
  type DrawnSheet,
  type ReelRecord,
  type SheetPaper,
} from '@yodel/core'
import { Fonts } from '../../apps/server/src/turnover/paper/fonts.js'
import { mixSheetPdf } from '../../apps/server/src/turnover/paper/mixSheetPdf.js'
import { report } from './report.js'

const TRACKS = 60
const CLIPS = 5000
const RUNS = 5

let state = 7
const random = (most: number): number =>
  Math.floor(((state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648) * most)
const WORDS = [
  'rain',
  'slate',
  'lever',
  'bell',
  'boots',
  'gravel',
  'door',
  'wind',
  'wires',
  'kettle',
  'long',
  'near',
]
const nameOf = (): string =>
  Array.from({ length: 1 + random(5) }, () => WORDS[random(WORDS.length)]).join(' ')

const reel = {
  ...{ kind: 'reel', id: 'r', show: 'Bench', name: 'Reel 1', rate: '24', firstFrame: 86_400, programme: 0 },
  ...{ length: 24 * 1200, pictureId: null, company: '', nameRule: '{show}' },
}
const tracks = Array.from({ length: TRACKS }, (_, index) => ({
  ...{
    kind: 'track',
    id: `t${index}`,
    name: `Track ${index + 1}`,
    category: 'FX',
    level: 0,
    pan: 0,
    mute: false,
  },
  ...{
    order: `a${String(index).padStart(3, '0')}`,
    solo: false,
    ink: 'category',
    width: 'stereo',
    folder: '',
    column: 0,
  },
}))
const ends = tracks.map(() => 0)
const clips = Array.from({ length: CLIPS }, (_, index) => {
  const track = index % TRACKS
  const start = (ends[track] ?? 0) + random(samplesIn(14))
  const length = samplesIn(0.5) + random(samplesIn(random(8) === 0 ? 40 : 3))
  ends[track] = start + length
  return {
    ...{
      kind: 'clip',
      id: `c${index}`,
      trackId: `t${track}`,
      cueId: null,
      soundId: 's',
      name: nameOf(),
      start,
      length,
    },
    ...{
      offset: 0,
      sync: 0,
      recorded: length,
      gain: -random(12),
      fadeIn: random(2) * 4800,
      fadeOut: random(2) * 9600,
    },
    ...{
      fadeInShape: 'linear',
      fadeOutShape: 'linear',
      mute: false,
      speed: 1,
      keepPitch: false,
      reverse: false,
    },
    ...{ sides: 'kept', group: '', locked: false },
  }
}) as unknown as Clip[]
const doc = documentOf([reel, ...tracks, ...clips] as unknown as ReelRecord[])

const fonts = await Fonts.load()
const paper: SheetPaper = { ...SHIPPED_RECIPES[0]!.paper, tracks: 8 }
const lay = (way: SheetPaper['way'], seconds = 60): DrawnSheet =>
  layoutCueSheet(doc, { ...paper, way, seconds }, fonts.measure, '2031-05-09')
/** The most seconds a page at which to scale every word still finds room, or the fewest that can be asked. */
function fullScale(): DrawnSheet {
  for (const seconds of [60, 30, 20, 15, 10, 8, 6, 5, 4, 3]) {
    const sheet = lay('scale', seconds)
    if (!sheet.pages.some(({ boxes }) => boxes.some(({ cut }) => cut))) return sheet
  }
  return lay('scale', 2)
}

lay('packed')
const times = Array.from({ length: RUNS }, () => {
  const begun = performance.now()
  lay('packed')
  return performance.now() - begun
}).sort((a, b) => a - b)
const [packed, scaled, minute] = [lay('packed'), fullScale(), lay('scale', 60)]
report({
  name: 'paper.layout',
  value: times[RUNS >> 1] ?? NaN,
  unit: 'ms, median: 60 tracks, 5,000 sounds, packed (at most 300)',
})
report({
  name: 'paper.pages',
  value: packed.pages.length,
  unit: `pages packed; to scale ${minute.pages.length} at a minute a page, with words missing, and ${scaled.pages.length} with room for all`,
})
const begun = performance.now()
const pdf = await mixSheetPdf(doc, { paper, date: '2031-05-09' })
report({
  name: 'paper.pdf',
  value: (performance.now() - begun) / 1000,
  unit: `s to a PDF of ${Math.round(pdf.length / 1024)} KiB`,
})
