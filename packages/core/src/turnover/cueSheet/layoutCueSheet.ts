import { PAPERS, type SheetPaper } from '../../contract/recipes.js'
import { currentCut, rateOf, reelOf, type ReelDocument } from '../../reel/document.js'
import type { Track } from '../../reel/records.js'
import { framesIn } from '../../time/convert.js'
import { formatTimecode } from '../../time/timecode.js'
import { drawBox, drawCues } from './drawBoxes.js'
import type { DrawnColumn, DrawnPage, DrawnSheet, DrawnText, Measure } from './drawn.js'
import { packPages, type TimeMap } from './packed.js'
import { setLines, shortened, TYPE, wrap } from './setText.js'
import { sheetBoxes, shortTimecode, trackGroups, type SheetBox } from './sheetBoxes.js'
import { heightAt, scalePages } from './toScale.js'

/** Margins and parts of a page, points. */
const PAGE = { margin: 30, head: 36, columnHead: 24, foot: 18, cueWidth: 92, inset: 16, pad: 4 } as const
/** Seconds between the timecodes at the left of a page to scale, the first that gives marks far enough apart. */
const RULER = { seconds: [1, 2, 5, 10, 20, 30, 60, 120, 300, 600], apart: 40, width: 24 } as const
/** Lines of a track's name in the head of its column. */
const NAME_LINES = 2

/**
 * Draws the mix cue sheet of a reel: tracks across in groups, time down, a box a sound, in points. The same for paper and
 * for the screen. A reel without sounds has no page.
 *
 * @param measure - Tells the width of a text in the type in which it will be set.
 * @param date - As the head shall say it.
 */
export function layoutCueSheet(
  doc: ReelDocument,
  paper: SheetPaper,
  measure: Measure,
  date: string,
): DrawnSheet {
  const [short, long] = PAPERS[paper.size]
  const [width, height] = paper.landscape ? [long, short] : [short, long]
  const headTop = PAGE.margin + PAGE.head
  const frame: Frame = {
    ...{ width, height, headTop, bodyTop: headTop + PAGE.columnHead },
    ...{ bodyBottom: height - PAGE.margin - PAGE.foot, right: width - PAGE.margin },
    left: PAGE.margin + (paper.way === 'scale' ? RULER.width : 0),
  }
  const groups = trackGroups(doc, paper.tracks)
  const columnWidth = (frame.right - frame.left - PAGE.cueWidth) / Math.max(1, groups[0]?.length ?? 1)
  const widths = { cue: PAGE.cueWidth - 2 * PAGE.pad, sound: columnWidth - PAGE.inset - PAGE.pad }
  const body = frame.bodyBottom - frame.bodyTop - PAGE.pad
  const perPage = framesIn(paper.seconds, rateOf(doc))
  const laid = groups.map((tracks) => {
    const boxes = sheetBoxes(doc, tracks, widths, measure)
    const maps = paper.way === 'packed' ? packPages(boxes, body) : scalePages(boxes, body, perPage)
    return { tracks, boxes, maps }
  })
  const count = laid.reduce((sum, { maps }) => sum + maps.length, 0)
  let page = 0
  const pages = laid.flatMap(({ tracks, boxes, maps }, group) => {
    const columns = tracks.map((track, index) =>
      columnOf(track, frame.left + PAGE.cueWidth + index * columnWidth, columnWidth, headTop, measure),
    )
    return maps.map((map): DrawnPage => {
      page++
      const numbers = { sheet: group + 1, sheets: groups.length, page, pages: count }
      const drawn = drawPage(boxes, map, columns, frame)
      const ruler = paper.way === 'scale' ? rulerOf(doc, map, frame) : []
      return {
        ...numbers,
        from: map.from,
        to: map.to,
        columns,
        ...drawn,
        ruler,
        ...edges(doc, map, numbers, frame, measure, date),
      }
    })
  })
  return { ...frame, pages }
}

type Frame = Omit<DrawnSheet, 'pages'>

function columnOf(track: Track, x: number, width: number, top: number, measure: Measure): DrawnColumn {
  const set = { face: 'bold', size: TYPE.name, width: width - 2 * PAGE.pad, most: NAME_LINES } as const
  const name = setLines(wrap(track.name, set, measure), x + PAGE.pad, top + 3)
  return { trackId: track.id, category: track.category, x, width, name }
}

function drawPage(
  boxes: readonly SheetBox[],
  map: TimeMap,
  columns: readonly DrawnColumn[],
  { bodyTop, left }: Frame,
): Pick<DrawnPage, 'boxes' | 'cues'> {
  const here = boxes.filter((box) => box.from < map.to && box.to > map.from)
  const place = (frame: number): number => bodyTop + heightAt(map, frame)
  const limits = nextWords(here, map, place)
  return {
    boxes: here.flatMap((box) => {
      const column = columns[box.column - 1]
      return column ? [drawBox(box, map, place, { x: column.x, limit: limits.get(box) ?? Infinity })] : []
    }),
    cues: drawCues(
      here.filter((box) => box.column === 0 && box.from >= map.from),
      place,
      { x: left, limits },
    ),
  }
}

/** Height at which the next words of its column begin below each box: its own must end above that. */
function nextWords(
  boxes: readonly SheetBox[],
  map: TimeMap,
  place: (frame: number) => number,
): Map<SheetBox, number> {
  const limits = new Map<SheetBox, number>()
  const below = new Map<number, number>()
  for (const box of [...boxes].sort((a, b) => b.from - a.from)) {
    limits.set(box, below.get(box.column) ?? place(map.to))
    below.set(box.column, place(Math.max(map.from, box.wordsFrom)))
  }
  return limits
}

function rulerOf(doc: ReelDocument, map: TimeMap, { bodyTop, bodyBottom, left }: Frame): DrawnText[] {
  const rate = rateOf(doc)
  const { firstFrame } = reelOf(doc)
  const perSecond = ((bodyBottom - bodyTop) / (map.to - map.from)) * rate.nominal
  const step = RULER.seconds.find((seconds) => seconds * perSecond >= RULER.apart) ?? 600
  const marks: DrawnText[] = []
  const every = step * rate.nominal
  for (let frame = Math.ceil(map.from / every) * every; frame < map.to; frame += every)
    marks.push({
      ...{ text: shortTimecode(firstFrame + frame, rate), face: 'figures', size: 5 },
      ...{ x: left - RULER.width, y: bodyTop + heightAt(map, frame) + 4 },
    })
  return marks
}

/** What stands above and below the body of a page. */
function edges(
  doc: ReelDocument,
  map: TimeMap,
  { sheet, sheets, page, pages }: Pick<DrawnPage, 'sheet' | 'sheets' | 'page' | 'pages'>,
  { left, right, height, headTop }: Frame,
  measure: Measure,
  date: string,
): Pick<DrawnPage, 'head' | 'foot'> {
  const reel = reelOf(doc)
  const rate = rateOf(doc)
  const [from, to] = [map.from, map.to].map((frame) => formatTimecode(reel.firstFrame + frame, rate))
  const rightward = (text: string, y: number, face: DrawnText['face'], size: number): DrawnText => ({
    ...{ text, face, size, y },
    x: right - measure(text, face, size),
  })
  const span = rightward(`${from} to ${to}`, PAGE.margin + 25, 'figures', 8)
  const facts = [reel.show, reel.name, currentCut(doc)?.name, rate.label, reel.company]
    .filter(Boolean)
    .join(', ')
  const fits = (text: string): boolean => measure(text, 'plain', 8) <= span.x - left - 12
  const tracks = sheets > 1 ? rightward(`tracks ${sheet} of ${sheets}`, PAGE.margin + 11, 'plain', 8) : null
  const line = { face: 'plain', size: 8 } as const
  const foot = height - PAGE.margin
  return {
    head: [
      { text: 'Mix cue sheet', x: left, y: PAGE.margin + 11, face: 'bold', size: TYPE.head },
      { ...line, text: fits(facts) ? facts : shortened(facts, fits), x: left, y: PAGE.margin + 25 },
      ...(tracks ? [tracks] : []),
      span,
      ...setLines([{ text: 'Cues', face: 'plain', size: TYPE.name }], left + PAGE.pad, headTop + 3),
    ],
    foot: [{ ...line, text: date, x: left, y: foot }, rightward(`${page} of ${pages}`, foot, 'figures', 8)],
  }
}
