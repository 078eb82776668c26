import { audioFiles, currentCut, edlCount, planReel, soundParts, samplesIn } from '@yodel/core'
import { useMemo, useState } from 'react'
import { api, messageOf } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { saveStateOf } from '../../document/sync/syncState.js'
import { useFindings } from '../../session/findings.js'
import { useReel } from '../../session/session.js'
import { isUnderWay, useJob } from '../../session/useJob.js'
import { Button } from '../../ui/Button.js'
import { JobLine } from '../../ui/JobLine.js'

/** Files of a turnover beside lists, audio and sounds: the report, the licences, the manifest. */
const ALWAYS = 3

/** Makes the turnover: named, after a look at what is still open. */
export function HandOver() {
  const { id: reelId } = useReel()
  const dispatch = useAppDispatch()
  const recipe = useAppSelector((state) => state.recipe)
  const saved = useAppSelector((state) => saveStateOf(state.document) === 'saved')
  const [start, { error }] = api.useTurnOverMutation()
  const [cancel] = api.useCancelJobMutation()
  const [jobId, setJobId] = useState<string | null>(null)
  const [name, setName] = useState('')
  const job = useJob(jobId, () => void dispatch(api.util.invalidateTags(['Turnovers', 'Facts'])))
  const count = useFileCount()
  const { findings } = useFindings()
  const stops = findings?.open.filter(({ weight }) => weight === 'stops').length ?? 0
  const open = findings?.open.length ?? 0
  const running = jobId !== null && (job === null || isUnderWay(job))
  const hold = !saved || stops > 0 || findings === null
  const go = (): void => {
    start({ reelId, recipe, name: name.trim() || recipe.name })
      .unwrap()
      .then(
        (made) => {
          setJobId(made.jobId)
          setName('')
        },
        () => undefined,
      )
  }
  return (
    <div className="border-t border-line bg-card px-4 py-3">
      {running && job ? (
        <JobLine job={job} what="Making the turnover" onCancel={() => void cancel(job.id)} />
      ) : (
        <>
          <input
            aria-label="Name of this turnover"
            placeholder={`Name, such as “Pre-dub” (${recipe.name})`}
            value={name}
            maxLength={200}
            onChange={(event) => setName(event.target.value)}
            onKeyDown={(event) => {
              event.stopPropagation()
              if (event.key === 'Enter' && !hold) go()
            }}
            className="w-full rounded-[3px] border border-line bg-paper px-2 py-1"
          />
          <Button look="gate" className="mt-2 w-full py-1.5!" disabled={hold} onClick={go}>
            Hand over {count} files
          </Button>
        </>
      )}
      <p className="mt-1.5 text-[12px] text-ink-2" data-hold={hold}>
        {!saved
          ? 'Some changes are not on the server yet; a turnover is made of what is there.'
          : stops > 0
            ? `${stops === 1 ? 'One thing stops' : `${stops} things stop`} it: mend ${stops === 1 ? 'it' : 'them'}, or accept ${stops === 1 ? 'it' : 'them'} with a reason.`
            : open > 0
              ? `${open === 1 ? 'One thing is' : `${open} things are`} still open. The report will list ${open === 1 ? 'it' : 'them'}.`
              : 'Nothing is open.'}
      </p>
      {job?.state === 'done' && <p className="mt-1 text-(--fol)">Made. It stands under “What went”.</p>}
      {job?.state === 'failed' && <p className="mt-1 text-gate">{job.message}</p>}
      {error ? <p className="mt-1 text-gate">{messageOf(error)}</p> : null}
    </div>
  )
}

/** How many files the recipe makes of the reel as it stands; EDLs for tracks and categories among them. */
function useFileCount(): number {
  const doc = useAppSelector((state) => state.document.doc)
  const { mix, stems, tracks, lists, sounds, handles, movie } = useAppSelector((state) => state.recipe)
  return useMemo(() => {
    const plan = planReel(doc)
    const audio = audioFiles(doc, plan, { mix, stems, tracks, nameRule: '' }, '').length
    const recordings =
      sounds === 'none' ? 0 : soundParts(doc, sounds === 'cut' ? samplesIn(handles) : null).length + 1
    const edls = lists.includes('edl') ? edlCount(doc) : 0
    const movies = movie === 'none' || !mix || currentCut(doc) === null ? 0 : 1
    return ALWAYS + movies + lists.length + edls + audio + recordings
  }, [doc, mix, stems, tracks, lists, sounds, handles, movie])
}
