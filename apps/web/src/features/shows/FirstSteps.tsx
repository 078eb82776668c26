import type { ReactNode } from 'react'
import { Link } from 'react-router'
import { Button } from '../../ui/Button.js'

/** What an empty Yodel leads through: a reel, its picture, a shelf of sounds; none of them has to be. */
export function FirstSteps({ onReel }: { onReel: () => void }) {
  return (
    <section aria-label="First steps" className="mb-6">
      <h1 className="text-[20px] font-bold tracking-tight">Nothing is here yet</h1>
      <p className="text-ink-2">Three steps, in any order; each can be left out.</p>
      <ol className="mt-4 border-b border-line">
        <Step number={1} title="A reel">
          Its rate and the timecode of its first frame are fixed once, and everything counts from there.
          <Button look="gate" className="mt-2" onClick={onReel}>
            Make the first reel …
          </Button>
        </Step>
        <Step number={2} title="Its picture">
          On the reel’s Sheet bring in the movie. Its own sound becomes the guide. Without one you can spot
          against timecode alone.
        </Step>
        <Step number={3} title="A shelf of sounds">
          Folders with recordings, on this computer or a disk. They stay where they are; Yodel listens to them
          once.
          <Link to="/sounds" className="mt-2 underline underline-offset-2">
            Choose a folder on the Sounds page
          </Link>
        </Step>
      </ol>
    </section>
  )
}

function Step({ number, title, children }: { number: number; title: string; children: ReactNode }) {
  return (
    <li className="grid grid-cols-[36px_140px_1fr] items-baseline border-t border-line py-4">
      <span className="font-mono text-[20px] text-ink-3">{number}</span>
      <b className="text-[15px] font-bold">{title}</b>
      <div className="flex max-w-[520px] flex-col items-start text-ink-2">{children}</div>
    </li>
  )
}
