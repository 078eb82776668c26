import { skipToken } from '@reduxjs/toolkit/query'
import { ChevronRight, CornerLeftUp } from 'lucide-react'
import { useState, type ReactNode } from 'react'
import { api, messageOf } from '../../api/api.js'
import { Button } from '../../ui/Button.js'
import { Overlay } from '../../ui/Overlay.js'
import { Refusal } from '../../ui/Refusal.js'
import { OwnRoots } from './OwnRoots.js'
import { TextField } from '../../ui/TextField.js'

/** Chooses a folder of the server's disks, inside those it may read. */
export function FolderChooser(props: {
  open: boolean
  title: string
  words: string
  /** What is done with the folder. */
  act: string
  busy: boolean
  /** Why that could not be done, as it was answered. */
  failure: unknown
  onTake: (path: string) => void
  onClose: () => void
  /** What else is asked. */
  children?: ReactNode
}) {
  const { open, onClose } = props
  const [path, setPath] = useState('')
  const { currentData, error } = api.useFoldersQuery(open ? path : skipToken)
  const failure = props.failure ?? error
  return (
    <Overlay open={open} onClose={onClose} className="flex h-[480px] w-[560px] flex-col p-5">
      <h2 className="text-[16px] font-bold">{props.title}</h2>
      <p className="text-ink-2">{props.words}</p>
      <TextField
        label="Path of a folder"
        value={path}
        placeholder="/path/on/the/server"
        className="!mx-0 mt-2 border-line! bg-paper font-mono text-[12px]"
        onCommit={(text) => setPath(text.trim())}
      />
      <ul className="mt-2 min-h-0 flex-1 overflow-y-auto border-y border-line" data-folders>
        {path !== '' && (
          <li>
            <button
              type="button"
              className="flex min-h-7 w-full items-center gap-2 px-2 text-left hover:bg-paper-2"
              onClick={() => setPath(currentData?.parent ?? '')}
            >
              <CornerLeftUp size={13} aria-hidden /> up
            </button>
          </li>
        )}
        {currentData?.folders.map((folder) => (
          <li key={folder.path}>
            <button
              type="button"
              className="flex min-h-7 w-full items-center gap-2 px-2 text-left hover:bg-paper-2"
              onClick={() => setPath(folder.path)}
            >
              <ChevronRight size={13} aria-hidden /> {folder.name}
            </button>
          </li>
        ))}
        {currentData?.folders.length === 0 && (
          <li className="p-2 text-ink-2">
            {path === ''
              ? 'No folder may be read, or none of them is there. They are named at the server’s own machine, here or in YODEL_SOUND_ROOTS.'
              : 'No further folders in here.'}
          </li>
        )}
      </ul>
      {path === '' && <OwnRoots />}
      <Refusal text={failure && messageOf(failure)} className="mt-1" />
      <div className="mt-3 flex items-center gap-3">
        <Button look="strong" disabled={path === '' || props.busy} onClick={() => props.onTake(path)}>
          {props.act}
        </Button>
        {props.children}
        <Button look="bare" className="ml-auto" onClick={onClose}>
          Cancel
        </Button>
      </div>
    </Overlay>
  )
}
