import { useState } from 'react'
import { api } from '../../../api/api.js'
import { FolderChooser } from '../../../panes/folders/FolderChooser.js'

/** Makes a folder of the server's disks a shelf. */
export function AddShelf({ open, onClose }: { open: boolean; onClose: () => void }) {
  const [shared, setShared] = useState(true)
  const [add, adding] = api.useAddShelfMutation()
  const take = (path: string): void => {
    add({ path, name: '', shared })
      .unwrap()
      .then(onClose, () => undefined)
  }
  return (
    <FolderChooser
      open={open}
      onClose={onClose}
      title="Add a folder of recordings"
      words="They are listened to and listed, never copied or changed. Folders in it are searched as well."
      act="Add this folder"
      busy={adding.isLoading}
      failure={adding.error}
      onTake={take}
    >
      <label className="flex items-center gap-2">
        <input type="checkbox" checked={shared} onChange={() => setShared(!shared)} /> for everybody
      </label>
    </FolderChooser>
  )
}
