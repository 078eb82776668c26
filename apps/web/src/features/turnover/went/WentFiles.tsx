import type { FileKind, KeptFile } from '@yodel/core'
import { api, messageOf } from '../../../api/api.js'

const KINDS: readonly (readonly [FileKind, string])[] = [
  ['report', 'Report'],
  ['list', 'Lists'],
  ['audio', 'Audio'],
  ['movie', 'Movie'],
  ['sound', 'Sounds'],
  ['reel', 'Reel'],
]

/** The files of a turnover, each to be fetched by itself as long as they are there. */
export function WentFiles({ id, areThere }: { id: string; areThere: boolean }) {
  const { data: files, error } = api.useTurnoverFilesQuery(id)
  if (error) return <p className="ml-8 text-gate">{messageOf(error)}</p>
  return (
    <ul className="ml-8 max-h-72 overflow-y-auto text-[12px]">
      {KINDS.map(([kind, title]) => (
        <Kind
          key={kind}
          {...{ title, id, areThere }}
          files={files?.filter((file) => file.kind === kind) ?? []}
        />
      ))}
    </ul>
  )
}

function Kind(props: { title: string; id: string; areThere: boolean; files: readonly KeptFile[] }) {
  const { title, id, areThere, files } = props
  if (files.length === 0) return null
  return (
    <li>
      <b className="font-semibold text-ink-2">{title}</b>
      <ul>
        {files.map(({ path, title: name, sha256 }) => (
          <li key={path} className="truncate">
            <a
              className={areThere ? 'underline decoration-line hover:decoration-ink' : ''}
              {...(areThere
                ? { href: `/api/turnovers/${id}/files/${path.split('/').map(encodeURIComponent).join('/')}` }
                : {})}
              title={`${path}\nSHA-256 ${sha256}`}
              download
            >
              {name}
            </a>{' '}
            <span className="text-ink-3">{path.split('/').at(-1)}</span>
          </li>
        ))}
      </ul>
    </li>
  )
}
