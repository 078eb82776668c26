import type { DrawnBox, DrawnPage, DrawnSheet, DrawnText } from '@yodel/core'

const FACES = {
  plain: { fontFamily: 'var(--font-sans)', fontWeight: 400 },
  bold: { fontFamily: 'var(--font-sans)', fontWeight: 700 },
  figures: { fontFamily: 'var(--font-mono)', fontWeight: 400 },
} as const
/** Half the width of a cut's bar and of a fade's wedge, points; as on paper. */
const MARK = 4.5

/** A page of the mix cue sheet, drawn of the same boxes as the PDF, in ink on white whatever the theme. */
export function SheetSvg({ sheet, page }: { sheet: DrawnSheet; page: DrawnPage }) {
  const { width, height, left, right, headTop, bodyTop, bodyBottom } = sheet
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="block h-auto w-full bg-white shadow-[0_1px_4px_#0003]"
      role="img"
      aria-label={`Mix cue sheet, page ${page.page} of ${page.pages}`}
      data-sheet-page={page.page}
    >
      <g stroke="#000" fill="none">
        <path d={`M${left} ${headTop}H${right}`} strokeWidth={1.2} />
        <path d={`M${left} ${bodyTop}H${right}`} strokeWidth={0.8} />
        {page.columns.map(({ trackId, x }) => (
          <path key={trackId} d={`M${x} ${headTop}V${bodyBottom}`} stroke="#888" strokeWidth={0.5} />
        ))}
        {page.cues.map(({ cueId, y }) => (
          <path
            key={cueId}
            d={`M${left} ${y}H${(page.columns[0]?.x ?? right) - 6}`}
            stroke="#888"
            strokeWidth={0.5}
          />
        ))}
        {page.boxes.map((box) => (
          <path key={box.clipId} d={pathOf(box)} strokeWidth={0.9} />
        ))}
        <path d={page.boxes.map(barsOf).join('')} strokeWidth={1.6} />
      </g>
      <Texts texts={[...page.head, ...page.foot, ...page.ruler]} />
      {page.columns.map(({ trackId, name }) => (
        <Texts key={trackId} texts={name} />
      ))}
      {[...page.cues, ...page.boxes].map((one) => (
        <Texts key={'cueId' in one ? one.cueId : one.clipId} texts={one.text} />
      ))}
    </svg>
  )
}

function Texts({ texts }: { texts: readonly DrawnText[] }) {
  return texts.map(({ text, x, y, face, size }, index) => (
    <text key={index} x={x} y={y} fontSize={size} fill="#000" style={FACES[face]}>
      {text}
    </text>
  ))
}

/** The line of a sound with its wedges and arrows. */
function pathOf({ x, top, bottom, fadeIn, fadeOut, fromAbove, toBelow }: DrawnBox): string {
  const wedge = (tip: number, length: number): string =>
    `M${x - MARK} ${tip + length}L${x} ${tip}L${x + MARK} ${tip + length}`
  const arrow = (y: number, way: 1 | -1): string =>
    `M${x - 2.5} ${y - 4 * way}L${x} ${y}L${x + 2.5} ${y - 4 * way}`
  return [
    `M${x} ${top}V${bottom}`,
    fromAbove ? arrow(top, -1) : fadeIn > 0 ? wedge(top, fadeIn) : '',
    toBelow ? arrow(bottom, 1) : fadeOut > 0 ? wedge(bottom, -fadeOut) : '',
  ].join('')
}

/** Bars where a sound is cut. */
function barsOf({ x, top, bottom, fadeIn, fadeOut, fromAbove, toBelow }: DrawnBox): string {
  const bar = (y: number): string => `M${x - MARK} ${y}H${x + MARK}`
  return `${fromAbove || fadeIn > 0 ? '' : bar(top)}${toBelow || fadeOut > 0 ? '' : bar(bottom)}`
}
