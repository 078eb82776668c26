import { LANES, topOf, type Stretch } from './geometry.js'

/** A small mark beside the timecode of a frame. @param props.path - Its outline in a square of ten pixels. */
export function PlaceMark(props: {
  stretch: Stretch
  frame: number
  path: string
  fill: string
  stroke: string
  text: string
}) {
  const { stretch, frame, path, fill, stroke, text, ...rest } = props
  return (
    <svg
      className="absolute"
      style={{ left: LANES.timecode - 11, top: topOf(stretch, frame) - 5 }}
      width={10}
      height={10}
      {...rest}
    >
      <title>{text}</title>
      <path d={path} fill={fill} stroke={stroke} />
    </svg>
  )
}
