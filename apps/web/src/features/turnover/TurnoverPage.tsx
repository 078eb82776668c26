import { coverageOf, cuesInOrder, silentTracks } from '@yodel/core'
import { useMemo } from 'react'
import { useAppSelector } from '../../document/store.js'
import { Mix } from './Mix.js'
import { ReelPage } from '../../panes/shell/ReelPage.js'
import { saveStateOf } from '../../document/sync/syncState.js'
import { useReel } from '../../session/session.js'

/** What is handed over: the lists and the mix, and what to know before they leave. */
export function TurnoverPage() {
  const reel = useReel()
  const doc = useAppSelector((state) => state.document.doc)
  const saved = useAppSelector((state) => saveStateOf(state.document) === 'saved')
  const facts = useMemo(() => {
    const cues = cuesInOrder(doc).filter((cue) => cue.state !== 'omitted')
    const loose = [...doc.clip.values()].filter((clip) => clip.cueId === null).length
    return {
      empty: cues.filter((cue) => coverageOf(doc, cue) === 'nothing').length,
      cues: cues.length,
      loose,
      silent: silentTracks(doc).length,
      omitted: doc.cue.size - cues.length,
      clips: doc.clip.size,
    }
  }, [doc])
  const link =
    'inline-flex min-h-6 items-center rounded-[5px] border border-line bg-card px-2.5 py-1 text-[12.5px] hover:border-ink-3'
  return (
    <ReelPage>
      <main className="min-h-0 flex-1 overflow-y-auto">
        <div className="mx-auto grid max-w-[860px] gap-8 px-6 py-8 sm:grid-cols-2">
          <section>
            <h1 className="text-[16px] font-bold">Before it leaves the room</h1>
            <ul className="mt-3 border-t border-line">
              <Fact count={facts.empty} text={`of ${facts.cues} cues have nothing placed`} />
              <Fact count={facts.loose} text="sounds belong to no cue" />
              <Fact
                count={facts.silent}
                text={
                  facts.silent === 1 ? 'track is not heard in the mix' : 'tracks are not heard in the mix'
                }
              />
              <li className="border-b border-line py-2 text-ink-2">
                {facts.clips} sounds placed, {facts.omitted} cues omitted
              </li>
            </ul>
          </section>
          <section>
            <h1 className="text-[16px] font-bold">Hand over</h1>
            {!saved && (
              <p className="mt-2 text-gate">
                Some changes are not on the server yet; lists and mix are made from what is there.
              </p>
            )}
            <h2 className="mt-4 font-semibold text-ink-2">Lists</h2>
            <ul className="mt-2 flex flex-col gap-2">
              <li className="flex items-center justify-between border-b border-hair pb-2">
                <span>
                  Cue list <span className="text-ink-2">CSV</span>
                </span>
                <a className={link} href={`/api/reels/${reel.id}/cues.csv`} download>
                  Download
                </a>
              </li>
              <li className="flex items-center justify-between border-b border-hair pb-2">
                <span>
                  Clips by track <span className="text-ink-2">EDL</span>
                </span>
                <a className={link} href={`/api/reels/${reel.id}/clips.edl`} download>
                  Download
                </a>
              </li>
            </ul>
            <h2 className="mt-4 font-semibold text-ink-2">Audio, 48 kHz 24 bit, timestamped</h2>
            <Mix reelId={reel.id} />
          </section>
        </div>
      </main>
    </ReelPage>
  )
}

function Fact({ count, text }: { count: number; text: string }) {
  return (
    <li className="flex gap-3 border-b border-line py-2">
      <b className={`w-6 text-right ${count > 0 ? 'text-gate' : 'text-(--fol)'}`}>
        {count > 0 ? count : '✓'}
      </b>
      {count > 0 ? text : `no ${text.replace(/^of \d+ cues have nothing/, 'cue has nothing')}`}
    </li>
  )
}
