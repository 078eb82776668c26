import { X } from 'lucide-react'
import { messageOf } from '../../api/api.js'
import { rootsApi } from '../../api/rootsApi.js'
import { Refusal } from '../../ui/Refusal.js'
import { TextField } from '../../ui/TextField.js'

/** Lets whoever sits at the server's machine say which other folders may be read; nothing for anybody else. */
export function OwnRoots() {
  const { data } = rootsApi.useRootsQuery()
  const [change, { error }] = rootsApi.useChangeRootsMutation()
  if (!data?.mayChange) return null
  return (
    <section className="mt-2 text-[12px]" aria-label="Other folders that may be read">
      {data.own.map((path) => (
        <p key={path} className="flex min-h-6 items-center gap-2">
          <span className="min-w-0 flex-1 truncate font-mono">{path}</span>
          <button
            type="button"
            aria-label={`Let ${path} be read no more`}
            title="Let it be read no more"
            className="grid size-6 place-items-center text-ink-2 hover:text-ink"
            onClick={() => void change({ path, add: false })}
          >
            <X size={13} />
          </button>
        </p>
      ))}
      <TextField
        label="Another folder that may be read"
        value=""
        placeholder="Another folder of this machine that may be read, then Enter"
        className="!mx-0 border-line! bg-paper"
        onCommit={(path) => path.trim() !== '' && void change({ path: path.trim(), add: true })}
      />
      <Refusal text={error && messageOf(error)} />
    </section>
  )
}
