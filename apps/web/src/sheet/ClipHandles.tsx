import type { Clip } from '@yodel/core'
import type { ClipHands } from './clipHands.js'

/** What a clip under the pointer is trimmed by, and once it is selected and tall enough, faded and turned up and down. */
export function ClipHandles(props: {
  clip: Clip
  height: number
  /** Samples of a pixel. */
  perPixel: number
  hands: ClipHands
  selected: boolean
}) {
  const { clip, height, perPixel, hands, selected } = props
  return (
    <>
      <div
        className="absolute inset-x-0 -top-[2px] h-[7px] cursor-ns-resize touch-none"
        data-trim="head"
        {...hands.bindTrim(clip, 'head')}
      />
      <div
        className="absolute inset-x-0 -bottom-[2px] h-[7px] cursor-ns-resize touch-none"
        data-trim="tail"
        {...hands.bindTrim(clip, 'tail')}
      />
      {selected && height > 40 && (
        <>
          <Handle
            at={Math.min(height - 12, Math.max(6, clip.fadeIn / perPixel))}
            side="right"
            what="fadeIn"
            label="Fade in"
            {...hands.bindFade(clip, 'fadeIn')}
          />
          <Handle
            at={Math.max(12, Math.min(height - 6, height - clip.fadeOut / perPixel))}
            side="right"
            what="fadeOut"
            label="Fade out"
            {...hands.bindFade(clip, 'fadeOut')}
          />
          <Handle
            at={height / 2}
            side="left"
            what="gain"
            label="Gain, dragged sideways"
            {...hands.bindGain(clip)}
          />
        </>
      )}
    </>
  )
}

/** A small square that is pulled: a fade's end, or the gain. */
function Handle({
  at,
  side,
  what,
  label,
  ...bind
}: { at: number; side: 'left' | 'right'; what: string; label: string } & Record<string, unknown>) {
  return (
    <div
      data-handle={what}
      title={label}
      className={`absolute z-10 size-[9px] touch-none border border-ink bg-card ${what === 'gain' ? 'cursor-ew-resize rounded-full' : 'cursor-ns-resize'} ${side === 'left' ? 'left-[2px]' : 'right-[2px]'}`}
      style={{ top: at - 4.5 }}
      {...bind}
    />
  )
}
