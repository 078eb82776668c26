import { useEffect, useRef, useState } from 'react'
import { api } from '../../../api/api.js'
import { Button } from '../../../ui/Button.js'
import { filesOf, sendFiles, type DroppedFile, type Sending } from './dropped.js'

const isFiles = (event: DragEvent): boolean => event.dataTransfer?.types.includes('Files') ?? false

/** Recordings and folders that are dropped anywhere on the page go to a shelf of their own. */
export function DropSounds() {
  const [over, setOver] = useState(false)
  const [sending, setSending] = useState<Sending | null>(null)
  const [problems, setProblems] = useState<readonly { path: string; reason: string }[]>([])
  const [index] = api.useIndexDroppedMutation()
  const ending = useRef<AbortController | null>(null)
  const queue = useRef<Promise<void>>(Promise.resolve())
  useEffect(() => {
    const send = async (files: readonly DroppedFile[]): Promise<void> => {
      const stop = new AbortController()
      ending.current = stop
      const left = await sendFiles(files, setSending, stop.signal)
      setProblems((before) => [...before, ...left])
      setSending(null)
      if (files.length > 0) await index()
    }
    const onOver = (event: DragEvent): void => {
      if (!isFiles(event)) return
      event.preventDefault()
      setOver(true)
    }
    const onLeave = (event: DragEvent): void => {
      if (event.relatedTarget === null) setOver(false)
    }
    const onDrop = (event: DragEvent): void => {
      if (!isFiles(event) || !event.dataTransfer) return
      event.preventDefault()
      setOver(false)
      const coming = filesOf(event.dataTransfer)
      // What is dropped while something is being sent comes after it; it goes on while another page is looked at.
      queue.current = queue.current
        .then(async () => send(await coming))
        .catch((error: unknown) => setProblems([{ path: 'The drop', reason: String(error) }]))
    }
    addEventListener('dragover', onOver)
    addEventListener('dragleave', onLeave)
    addEventListener('drop', onDrop)
    return () => {
      removeEventListener('dragover', onOver)
      removeEventListener('dragleave', onLeave)
      removeEventListener('drop', onDrop)
    }
  }, [index])
  return (
    <>
      {over && (
        <div className="pointer-events-none fixed inset-3 z-40 grid place-items-center rounded-[6px] border-2 border-dashed border-focus bg-paper/80">
          <p className="text-[16px] font-bold">Drop recordings or folders: they go to a shelf of their own</p>
        </div>
      )}
      {sending && (
        <div className="mb-3 text-[12px]" role="status">
          <p className="flex items-center justify-between">
            <span>
              {sending.done} of {sending.of} recordings sent
            </span>
            <Button className="px-1.5 py-0" onClick={() => ending.current?.abort()}>
              Stop
            </Button>
          </p>
          <progress
            className="mt-1 h-1.5 w-full"
            value={sending.part}
            max={1}
            aria-label="Sending recordings"
          />
        </div>
      )}
      {problems.length > 0 && (
        <div className="mb-3 text-[12px] text-gate" role="alert">
          <p className="flex items-center justify-between">
            <b>{problems.length} could not be sent</b>
            <Button className="px-1.5 py-0" onClick={() => setProblems([])}>
              Close
            </Button>
          </p>
          <ul>
            {problems.slice(0, 6).map(({ path, reason }) => (
              <li key={path}>
                <span className="font-mono">{path}</span>: {reason}
              </li>
            ))}
          </ul>
        </div>
      )}
    </>
  )
}
