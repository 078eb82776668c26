import type { Category, ImportPreview } from '@yodel/core'
import { Choice } from '../../ui/Choice.js'

/** Words where a category should stand that are none of ours: asked once for all their lines, and remembered. */
export function UnknownWords({
  words,
  options,
  onMeans,
}: {
  words: ImportPreview['unknown']
  options: readonly (readonly [Category, string])[]
  onMeans: (word: string, category: Category) => void
}) {
  if (words.length === 0) return null
  return (
    <section
      className="my-2 rounded-[5px] border border-gate p-2 text-[12px]"
      aria-label="Unknown categories"
    >
      <p>Which category is meant? Until you say, these are like lines that name none.</p>
      <ul className="mt-1 flex flex-col gap-1">
        {words.map(({ word, lines }) => (
          <li key={word} className="grid grid-cols-[1fr_130px] items-center gap-2">
            <span className="truncate" title={word}>
              <b>{word}</b> <span className="text-ink-3">{lines === 1 ? '1 line' : `${lines} lines`}</span>
            </span>
            <Choice<Category | ''>
              label={`Category of ${word}`}
              value=""
              options={[['', 'choose …'], ...options]}
              onChange={(category) => category !== '' && onMeans(word, category)}
            />
          </li>
        ))}
      </ul>
    </section>
  )
}
