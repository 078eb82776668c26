import type { PointerEvent } from 'react'

/** What is left out of the recording. */
export function Shade({ left, right }: { left: number; right: number }) {
  return right > left ? (
    <div
      className="pointer-events-none absolute inset-y-0 bg-paper opacity-65"
      style={{ left, width: right - left }}
    />
  ) : null
}

/**
 * A line that is dragged sideways: in, out, or the sync point. The sync point is taken between the corners of the fades and the
 * middle, so that where it lies on the in each of them can still be had.
 */
export function Mark(props: {
  name: string
  left: number
  width: number
  sync?: boolean
  onPointerDown: (event: PointerEvent<HTMLElement>) => void
}) {
  const { name, left, width, sync = false } = props
  if (left < -1 || left > width + 1) return null
  return (
    <div
      className={`absolute w-[11px] cursor-ew-resize touch-none ${sync ? 'top-[11px] h-[20px]' : 'inset-y-0'}`}
      style={{ left: Math.max(-5, Math.min(width - 6, left - 5)) }}
      onPointerDown={props.onPointerDown}
      role="slider"
      aria-label={name}
      aria-valuenow={Math.round(left)}
      title={name}
      data-mark={name}
    >
      <div
        className={`pointer-events-none absolute top-0 left-[5px] ${sync ? 'h-[51px] border-l border-dashed border-ink' : 'h-full w-px bg-ink'}`}
      />
      {sync && (
        <svg className="absolute top-0 left-0" width="11" height="8" aria-hidden>
          <path d="M0 0 H11 L5.5 8Z" fill="var(--ink)" />
        </svg>
      )}
    </div>
  )
}

/** The end of a fade, pulled at the upper edge. */
export function Corner({
  name,
  left,
  onPointerDown,
}: {
  name: string
  left: number
  onPointerDown: (event: PointerEvent<HTMLElement>) => void
}) {
  return (
    <div
      className="absolute top-0 h-[11px] w-[11px] cursor-ew-resize touch-none border border-gate bg-card"
      style={{ left: left - 5 }}
      onPointerDown={onPointerDown}
      role="slider"
      aria-label={name}
      aria-valuenow={Math.round(left)}
      title={name}
      data-mark={name}
    />
  )
}
