import { ReelPage } from '../../panes/shell/ReelPage.js'
import { useReel } from '../../session/session.js'
import { FindingList } from './FindingList.js'
import { HandOver } from './HandOver.js'
import { Mix } from './Mix.js'
import { PaperView } from './paper/PaperView.js'
import { RecipePanel } from './recipe/RecipePanel.js'
import { WentList } from './went/WentList.js'

/** The act of handing over: what to look at before, what the paper will look like, what goes, and what went earlier. */
export function TurnoverPage() {
  const reel = useReel()
  return (
    <ReelPage>
      <main className="flex min-h-0 flex-1">
        <div className="w-[336px] shrink-0 overflow-y-auto border-r border-line px-4 py-4">
          <h1 className="text-[16px] font-bold">Before it leaves the room</h1>
          <FindingList />
          <WentList />
        </div>
        <PaperView />
        <div className="flex w-[316px] shrink-0 flex-col border-l border-line">
          <div className="min-h-0 flex-1 overflow-y-auto px-4 py-4">
            <h1 className="mb-2 text-[16px] font-bold">Hand over</h1>
            <RecipePanel />
            <div className="mt-4 border-t border-line pt-2">
              <h2 className="font-semibold text-ink-2">Just one thing, now</h2>
              <Mix reelId={reel.id} />
              <p className="mt-2 flex gap-3 text-[12px]">
                <a
                  className="underline decoration-line hover:decoration-ink"
                  href={`/api/reels/${reel.id}/cues.csv`}
                  download
                >
                  Cue list, CSV
                </a>
                <a
                  className="underline decoration-line hover:decoration-ink"
                  href={`/api/reels/${reel.id}/cues.pdf`}
                  download
                >
                  Cue list, PDF
                </a>
                <a
                  className="underline decoration-line hover:decoration-ink"
                  href={`/api/reels/${reel.id}/clips.edl`}
                  download
                >
                  EDL
                </a>
              </p>
            </div>
          </div>
          <HandOver />
        </div>
      </main>
    </ReelPage>
  )
}
