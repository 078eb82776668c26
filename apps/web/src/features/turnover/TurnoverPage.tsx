import { useAppSelector } from '../../document/store.js'
import { FindingList } from './FindingList.js'
import { Mix } from './Mix.js'
import { ReelPage } from '../../panes/shell/ReelPage.js'
import { saveStateOf } from '../../document/sync/syncState.js'
import { useReel } from '../../session/session.js'

/** What is handed over: the lists and the mix, and what to know before they leave. */
export function TurnoverPage() {
  const reel = useReel()
  const saved = useAppSelector((state) => saveStateOf(state.document) === 'saved')
  const link =
    'inline-flex min-h-6 items-center rounded-[5px] border border-line bg-card px-2.5 py-1 text-[12.5px] hover:border-ink-3'
  return (
    <ReelPage>
      <main className="min-h-0 flex-1 overflow-y-auto">
        <div className="mx-auto grid max-w-[1180px] gap-10 px-6 py-8 md:grid-cols-[minmax(0,1fr)_380px]">
          <section>
            <h1 className="text-[16px] font-bold">Before it leaves the room</h1>
            <FindingList />
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
