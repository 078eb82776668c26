import { useCommands } from '../../commands/CommandsProvider.js'
import { useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { Choice } from '../../ui/Choice.js'

const SMALL = 'px-1.5 py-0 text-[11.5px]'

/** How late one's hand is: what is taken off, and the ways to measure it. */
export function LagPart({ hasTake }: { hasTake: boolean }) {
  const { perform } = useCommands()
  const { lag, exercise } = useAppSelector((state) => state.perform)
  if (exercise?.state === 'running') return <Running hits={exercise.hits.length} />
  if (exercise?.state === 'done') return <Outcome />
  return (
    <Choice<'' | 'exercise' | 'take'>
      label="How late your hand is"
      className="max-w-[92px]"
      value=""
      title="Taken off each take from then on"
      options={[
        ['', `Lag ${lag} ms`],
        ['exercise', 'measure it in ten seconds'],
        ...(hasTake ? [['take', 'measure it by the chosen take'] as const] : []),
      ]}
      onChange={(by) => {
        if (by === 'exercise') perform.beginExercise()
        if (by === 'take') perform.measureLag()
      }}
      givesBack
    />
  )
}

function Running({ hits }: { hits: number }) {
  const { perform } = useCommands()
  return (
    <span role="status" className="flex items-center gap-1.5 text-ink">
      Hit any key of the row whenever a step lands or the picture cuts: {hits} so far
      <Button className={SMALL} onClick={perform.leaveExercise}>
        Leave it
      </Button>
    </span>
  )
}

function Outcome() {
  const { perform } = useCommands()
  const lag = useAppSelector(({ perform: { exercise } }) =>
    exercise?.state === 'done' ? exercise.lag : null,
  )
  return (
    <span role="status" className="flex items-center gap-1.5 text-ink" data-lag={lag?.ms ?? 'none'}>
      {lag
        ? `${Math.abs(Math.round(lag.ms))} ms ${lag.ms < 0 ? 'early' : 'late'}, half of ${lag.hits} hits within ${Math.round(lag.spread)} ms of it.`
        : 'Too few hits to tell: five have to be near a step or a cut.'}
      {lag && (
        <Button look="strong" className={SMALL} onClick={() => perform.takeLag(lag)}>
          Take it off
        </Button>
      )}
      <Button className={SMALL} onClick={perform.beginExercise}>
        Again
      </Button>
      <Button className={SMALL} onClick={perform.leaveExercise}>
        Leave it
      </Button>
    </span>
  )
}
