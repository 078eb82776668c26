import { conformRate, FRAME_RATES, removeCut, type Picture } from '@yodel/core'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { edit } from '../../document/edit.js'
import { useReel } from '../../session/session.js'

/** Says loudly that the movie runs at another rate than the reel, and offers what can be done, with what each does. */
export function RateMismatch({ picture }: { picture: Picture }) {
  const dispatch = useAppDispatch()
  const reel = useReel()
  const doc = useAppSelector((state) => state.document.doc)
  const movie = FRAME_RATES[picture.rate]
  const own = FRAME_RATES[reel.rate]
  const empty = doc.cue.size + doc.clip.size === 0
  const cut = [...doc.cut.values()].find((candidate) => candidate.pictureId === picture.id)
  return (
    <div role="alert" className="border-b border-line bg-card px-3 py-2 text-[12px]">
      <p className="-mx-3 -mt-2 bg-gate px-3 py-1.5 font-semibold text-on-gate">
        {picture.name} runs at {movie.label}, the reel at {own.label}.
      </p>
      <p className="mt-2 text-ink-2">
        Kept as it is, it plays in real time: seconds agree, but frame {own.nominal * 10} of the reel shows
        frame {Math.floor((own.nominal * 10 * own.den * movie.num) / (own.num * movie.den))} of the movie, and
        timecode burnt into it is not the reel’s.
      </p>
      <div className="mt-2 flex flex-wrap gap-1.5">
        {empty && (
          <Button
            onClick={() => dispatch(edit((now) => conformRate(now, { rate: picture.rate })))}
            title="Start and programme keep their timecode; the length keeps its real time"
          >
            Make the reel {movie.label}
          </Button>
        )}
        {cut && (
          <Button onClick={() => dispatch(edit((now) => removeCut(now, { id: cut.id })))}>
            Take the movie out
          </Button>
        )}
      </div>
      {!empty && (
        <p className="mt-1.5 text-ink-2">
          The reel already holds work, so its rate is fixed: another would move every cue and sound. Export
          the movie at {own.label} and bring it in as a new version.
        </p>
      )}
    </div>
  )
}
