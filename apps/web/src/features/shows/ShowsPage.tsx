import { useState } from 'react'
import { api, messageOf } from '../../api/api.js'
import { Button } from '../../ui/Button.js'
import { TopBar } from '../../ui/TopBar.js'
import { Beside } from './Beside.js'
import { FirstSteps } from './FirstSteps.js'
import { GoOn } from './GoOn.js'
import { NewReelForm } from './NewReelForm.js'
import { OpenPackage } from './OpenPackage.js'
import { ShowPart } from './ShowPart.js'
import { ThrownAway } from './ThrownAway.js'

/** Where one sees how the film stands: all shows with their reels, where one was, what is asked; and the making of a new reel. */
export function ShowsPage() {
  const {
    data: shows,
    error,
    refetch,
  } = api.useShowsQuery(undefined, {
    refetchOnMountOrArgChange: true,
    // Somebody else may have worked meanwhile.
    refetchOnFocus: true,
  })
  const [making, setMaking] = useState(false)
  const isEmpty = shows?.every(({ reels }) => reels.length === 0) ?? false
  return (
    <div className="flex h-full flex-col">
      <TopBar />
      <div className="flex min-h-0 flex-1">
        <main className="min-w-0 flex-1 overflow-y-auto px-6 py-6">
          <div className="mx-auto max-w-[1040px]">
            {error ? (
              <p role="alert" className="text-gate">
                {messageOf(error)}{' '}
                <Button className="ml-2" onClick={() => void refetch()}>
                  Try again
                </Button>
              </p>
            ) : null}
            {!shows && !error && <p className="text-ink-2">Looking for shows …</p>}
            {isEmpty && <FirstSteps onReel={() => setMaking(true)} />}
            {shows && <GoOn shows={shows} />}
            {shows?.map((show) => (
              <ShowPart key={show.id} show={show} />
            ))}
            {shows && (
              <div className="mt-5 flex flex-wrap items-start gap-2">
                {!making && !isEmpty && <Button onClick={() => setMaking(true)}>New reel …</Button>}
                {!making && <OpenPackage />}
                <ThrownAway />
              </div>
            )}
            {shows && making && <NewReelForm shows={shows} onDone={() => setMaking(false)} />}
          </div>
        </main>
        {shows && !isEmpty && <Beside shows={shows} />}
      </div>
    </div>
  )
}
