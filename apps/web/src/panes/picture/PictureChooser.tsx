import { addCut, currentCut, FRAME_RATES, type Picture } from '@yodel/core'
import { skipToken } from '@reduxjs/toolkit/query'
import { Film } from 'lucide-react'
import { useState, type ChangeEvent } from 'react'
import { api, codeOf, messageOf } from '../../api/api.js'
import { useAppDispatch } from '../../document/store.js'
import { editReel } from '../../document/editReel.js'
import { useReel } from '../../session/session.js'
import { Button } from '../../ui/Button.js'
import { TextField } from '../../ui/TextField.js'

/** Brings in a movie: uploaded from this computer, or picked by its path on the server's disks. */
export function PictureChooser({ problem, onTaken }: { problem?: string; onTaken?: () => void }) {
  const dispatch = useAppDispatch()
  const reel = useReel()
  const [pick] = api.usePickPictureMutation()
  const [part, setPart] = useState<number | null>(null)
  const [look, setLook] = useState('')
  const [failure, setFailure] = useState(problem ?? '')
  const [anyway, setAnyway] = useState<(() => void) | null>(null)
  const take = async (picture: Picture): Promise<void> => {
    const rate = FRAME_RATES[picture.rate]
    const reelRate = FRAME_RATES[reel.rate]
    const length = Math.ceil((picture.frames * rate.den * reelRate.num) / (rate.num * reelRate.den))
    // A new version stands where the one before it stood.
    const done = await dispatch(
      editReel(reel.id, `${picture.name} for ${reel.name}`, (doc) =>
        addCut(doc, {
          id: crypto.randomUUID(),
          pictureId: picture.id,
          name: picture.name,
          length,
          offset: currentCut(doc)?.offset ?? 0,
        }),
      ),
    )
    if (done) onTaken?.()
  }
  /** Sends a movie, or names one; what is wrong is said, with the way to take it all the same where there is one. */
  const bring = (from: File | string, short: boolean): void => {
    setFailure('')
    setAnyway(null)
    const asked = crypto.randomUUID()
    setLook(asked)
    const sent =
      typeof from === 'string'
        ? pick({ path: from, short, look: asked }).unwrap()
        : send(from, short, asked, setPart)
    // A movie that lies there is looked through at once; one that is sent, when all of it has come.
    setPart(typeof from === 'string' ? 1 : 0)
    sent
      .then(take, (error: unknown) => {
        setFailure(messageOf(error))
        if (codeOf(error) === 'MOVIE_CUT_SHORT') setAnyway(() => () => bring(from, true))
      })
      .finally(() => setPart(null))
  }
  const upload = (event: ChangeEvent<HTMLInputElement>): void => {
    const file = event.target.files?.[0]
    // The same file may be chosen again when it has been mended.
    event.target.value = ''
    if (file) bring(file, false)
  }
  return (
    <div className="flex min-h-[167px] w-full flex-col gap-2 bg-paper-3 p-4">
      <b className="font-semibold">
        {failure
          ? 'That movie can’t be used'
          : reel.pictureId === null
            ? 'No picture yet'
            : 'A new version of the picture'}
      </b>
      <p
        className={`text-[12px] ${failure ? 'text-gate' : 'text-ink-2'}`}
        role={failure ? 'alert' : undefined}
      >
        {failure ||
          (reel.pictureId === null
            ? 'Bring in the movie of this reel. Its own sound becomes the guide.'
            : 'The versions before it are kept. Cues and sounds stay where they are.')}
      </p>
      {anyway && part === null && (
        <Button className="self-start" onClick={anyway}>
          Take it as it is
        </Button>
      )}
      {part === null ? (
        <label className="inline-flex min-h-6 cursor-pointer items-center justify-center gap-1.5 self-start rounded-[5px] border border-ink bg-ink px-2.5 py-1 text-[12.5px] font-semibold text-paper focus-within:outline-2">
          <Film size={14} /> Choose a movie …
          <input type="file" accept="video/*,.mov,.mkv,.mxf" className="sr-only" onChange={upload} />
        </label>
      ) : (
        <Bringing part={part} look={look} />
      )}
      <TextField
        label="Path of a movie on the server"
        value=""
        placeholder="or its path on the server’s disk, then Enter"
        className="border-line! bg-card text-[12px]"
        onCommit={(path) => {
          if (path.trim() !== '') bring(path.trim(), false)
        }}
      />
      {failure && part === null && reel.pictureId !== null && (
        <Button className="self-start" onClick={() => setFailure('')}>
          Close
        </Button>
      )}
    </div>
  )
}

/** How far a movie has come: sent, then looked through. */
function Bringing({ part, look }: { part: number; look: string }) {
  const isSent = part >= 1
  const { currentData } = api.useLookingQuery(isSent ? look : skipToken, { pollingInterval: 500 })
  const shown = isSent ? (currentData?.part ?? null) : part
  const percent = shown === null ? '' : `${Math.floor(shown * 100)} %`
  return (
    <div className="text-[12px] text-ink-2">
      <progress
        className="h-1.5 w-full"
        {...(shown === null ? {} : { value: shown })}
        max={1}
        aria-label={isSent ? 'Looking through the movie' : 'Upload'}
      />
      {isSent ? `Looking through the movie, frame by frame … ${percent}` : `${percent} sent`}
    </div>
  )
}

/** Uploads with progress, which fetch does not report. */
function send(file: File, short: boolean, look: string, onPart: (part: number) => void): Promise<Picture> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest()
    const form = new FormData()
    form.append('movie', file)
    request.upload.onprogress = (event) => onPart(event.total > 0 ? event.loaded / event.total : 0)
    request.onload = () => {
      const data = JSON.parse(request.responseText) as Picture & { code: string; message: string }
      if (request.status === 201) resolve(data)
      // In the form in which other requests fail.
      else reject(Object.assign(new Error(data.message), { data }))
    }
    request.onerror = () => {
      const message = `${file.name} was not sent: the server does not answer. Try again when it is back.`
      reject(Object.assign(new Error(message), { data: { message } }))
    }
    request.open('POST', `/api/pictures?look=${look}${short ? '&short=take' : ''}`)
    request.send(form)
  })
}
