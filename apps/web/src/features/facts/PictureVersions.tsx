import {
  frames,
  editCut,
  FRAME_RATES,
  formatTimecode,
  frameToSample,
  nearestFrame,
  removeCut,
  sameSpeed,
  showCut,
  type Cut,
  type Picture,
} from '@yodel/core'
import { useState } from 'react'
import { api } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { openPictureWindow } from '../../picture/otherWindow.js'
import { Button, Chip } from '../../ui/Button.js'
import { TextField } from '../../ui/TextField.js'
import { edit } from '../../document/edit.js'
import { useAnalysis, usePicture, usePictureOffset, useReel } from '../../session/session.js'
import { PictureChooser } from '../../panes/picture/PictureChooser.js'
import { TimecodeMismatch } from '../../panes/picture/TimecodeMismatch.js'
import { Part } from '../../ui/Part.js'

/** All versions of the picture: which one is current, where each begins, and the check of the leader. */
export function PictureVersions() {
  const reel = useReel()
  const cuts = useAppSelector((state) => state.document.doc.cut)
  const [adding, setAdding] = useState(false)
  const versions = [...cuts.values()].sort((a, b) =>
    a.name.localeCompare(b.name, undefined, { numeric: true }),
  )
  return (
    <Part title="Picture">
      <ul className="flex flex-col gap-2">
        {versions.map((cut) => (
          <Version key={cut.id} cut={cut} current={cut.pictureId === reel.pictureId} />
        ))}
      </ul>
      <LeaderCheck />
      {adding || versions.length === 0 ? (
        <div className="mt-3">
          <PictureChooser onTaken={() => setAdding(false)} />
          {versions.length > 0 && <Button onClick={() => setAdding(false)}>Cancel</Button>}
        </div>
      ) : (
        <div className="mt-3 flex gap-2">
          <Button onClick={() => setAdding(true)}>New version …</Button>
          <Button onClick={openPictureWindow}>Picture in its own window</Button>
        </div>
      )}
    </Part>
  )
}

function Version({ cut, current }: { cut: Cut; current: boolean }) {
  const dispatch = useAppDispatch()
  const reel = useReel()
  const { data: picture } = api.usePictureQuery(cut.pictureId)
  const rate = FRAME_RATES[reel.rate]
  return (
    <li className={`rounded-[5px] border px-2.5 py-2 ${current ? 'border-gate bg-card' : 'border-line'}`}>
      <div className="flex items-center gap-2">
        <TextField
          label="Name of the version"
          value={cut.name}
          className="font-semibold"
          onCommit={(name) =>
            name.trim() !== '' &&
            dispatch(edit((doc) => editCut(doc, { id: cut.id, fields: { name: name.trim() } })))
          }
        />
        {current ? (
          <Chip className="border-gate font-semibold text-gate">current</Chip>
        ) : (
          <Button onClick={() => dispatch(edit((doc) => showCut(doc, { id: cut.id })))}>Show</Button>
        )}
      </div>
      <p className="text-[12px] text-ink-2">
        {picture
          ? `${picture.name}, ${FRAME_RATES[picture.rate].label}, ${picture.frames.toLocaleString('en')} frames, ${picture.width}×${picture.height}${soundsOf(picture)}`
          : 'Looking …'}
        {picture && !sameSpeed(FRAME_RATES[picture.rate], rate) && (
          <b className="text-gate"> not the reel’s rate</b>
        )}
      </p>
      {picture && <TimecodeMismatch picture={picture} cut={cut} />}
      <div className="mt-1 flex items-center gap-2 text-[12px]">
        <span className="text-ink-3">begins at</span>
        <span className="font-mono">{formatTimecode(reel.firstFrame + cut.offset, rate)}</span>
        <span className="text-ink-3">offset</span>
        <TextField
          label="Offset in frames"
          value={String(cut.offset)}
          className="max-w-[56px] font-mono"
          onCommit={(text) => {
            const offset = Number(text.trim())
            return (
              Number.isInteger(offset) &&
              dispatch(edit((doc) => editCut(doc, { id: cut.id, fields: { offset } })))
            )
          }}
        />
        <span className="text-ink-3">frames</span>
        <Button
          look="bare"
          className="ml-auto px-1"
          onClick={() => dispatch(edit((doc) => removeCut(doc, { id: cut.id })))}
        >
          Take out
        </Button>
      </div>
    </li>
  )
}

/** How many sound tracks there are, and the file's timecode. */
const soundsOf = ({ tracks, start }: Picture): string =>
  [
    ...(tracks.length === 0 ? [', no sound'] : tracks.length > 1 ? [`, ${tracks.length} sound tracks`] : []),
    ...(start === null ? [] : [`, timecode from ${start}`]),
  ].join('')

/** Says whether the 2-pop sounds two seconds before the programme, and offers to set right what is not. */
function LeaderCheck() {
  const dispatch = useAppDispatch()
  const reel = useReel()
  const picture = usePicture()
  const analysis = useAnalysis()
  const offset = usePictureOffset()
  const cut = useAppSelector((state) =>
    [...state.document.doc.cut.values()].find((candidate) => candidate.pictureId === reel.pictureId),
  )
  if (!picture || !analysis) return null
  const rate = FRAME_RATES[reel.rate]
  const tc = (frame: number): string => formatTimecode(reel.firstFrame + frame, rate)
  const wanted = reel.programme - 2 * rate.nominal
  if (!analysis.twoPop)
    return <p className="mt-2 text-[12px] text-ink-2">No 2-pop was heard in the first minute of the guide.</p>
  const heard =
    offset + nearestFrame(frameToSample(frames(analysis.twoPop.frame), FRAME_RATES[picture.rate]), rate)
  if (heard === wanted)
    return (
      <p className="mt-2 text-[12px] text-ink-2" data-leader="right">
        ✓ 2-pop at <span className="font-mono">{tc(heard)}</span>, two seconds before the programme.
      </p>
    )
  return (
    <div className="mt-2 text-[12px]" role="alert" data-leader="wrong">
      <p className="text-gate">
        2-pop heard at <span className="font-mono">{tc(heard)}</span>; for a programme at{' '}
        <span className="font-mono">{tc(reel.programme)}</span> it belongs at{' '}
        <span className="font-mono">{tc(wanted)}</span>.
      </p>
      {cut && (
        <Button
          className="mt-1"
          onClick={() =>
            dispatch(
              edit((doc) => editCut(doc, { id: cut.id, fields: { offset: cut.offset + wanted - heard } })),
            )
          }
        >
          Move the picture by {wanted - heard} frames
        </Button>
      )}
    </div>
  )
}
