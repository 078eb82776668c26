/** Where a value stands on a slider, and back: straight, or by octaves for frequencies (0 is its lowest place). */
const OCTAVES = {
  there: (value: number, low: number) => Math.log2(Math.max(value, low) / low),
  back: (place: number, low: number) => low * 2 ** place,
}

/**
 * A slider that commits once, on release, so that one pull is one undo; meanwhile `onPull` is told, so that it is heard.
 *
 * @param octaves - The lowest frequency: the slider then runs by octaves, and 0 stands at its lowest place.
 */
export function Slider(props: {
  label: string
  value: number
  low: number
  high: number
  step: number
  octaves?: number
  onCommit: (value: number) => void
  onPull?: (value: number | null) => void
}) {
  const { label, value, low, high, step, octaves, onCommit, onPull } = props
  const placeOf = (at: number): number => (octaves === undefined ? at : OCTAVES.there(at, octaves))
  const valueAt = (element: HTMLInputElement): number => {
    const place = Number(element.value)
    if (octaves === undefined) return place
    return place <= 0 ? low : Math.min(high, Math.round(OCTAVES.back(place, octaves)))
  }
  const commit = (event: { currentTarget: HTMLInputElement }): void => {
    onPull?.(null)
    const next = valueAt(event.currentTarget)
    if (Number(event.currentTarget.value) !== placeOf(value) && next !== value) onCommit(next)
  }
  return (
    <input
      key={value}
      type="range"
      aria-label={label}
      min={placeOf(low)}
      max={placeOf(high)}
      step={octaves === undefined ? step : 1 / 24}
      defaultValue={placeOf(value)}
      onInput={(event) => onPull?.(valueAt(event.currentTarget))}
      onPointerUp={commit}
      onBlur={commit}
      onKeyUp={(event) => event.key.startsWith('Arrow') && commit(event)}
      onKeyDown={(event) => event.stopPropagation()}
      className="block w-full min-w-0 accent-[var(--cat,var(--ink))]"
    />
  )
}
