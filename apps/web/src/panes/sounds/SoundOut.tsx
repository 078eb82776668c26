import type { Preparation, Sound } from '@yodel/core'
import { Download } from 'lucide-react'
import type { DragEvent } from 'react'

/** The prepared sound as a WAV: saved by a press, or dragged out of the browser where it can do that. */
export function SoundOut({ sound, prepared }: { sound: Sound; prepared: Preparation }) {
  const href = `/api/sounds/${sound.id}/prepared.wav?as=${encodeURIComponent(JSON.stringify(prepared))}`
  const onDragStart = (event: DragEvent): void => {
    const name = `${sound.name.replace(/[:/\\]/g, ' ')}.wav`
    event.dataTransfer.setData('DownloadURL', `audio/wav:${name}:${new URL(href, location.href).href}`)
  }
  return (
    <a
      href={href}
      download
      draggable
      onDragStart={onDragStart}
      aria-label="Save as WAV"
      title="Save as WAV, as it is prepared; or drag it out of the browser"
      className="inline-flex min-h-6 items-center rounded-[5px] border border-line bg-card px-1.5 py-1 hover:border-ink-3"
    >
      <Download size={15} />
    </a>
  )
}
