import type { FoundSound, Match } from '@yodel/core'

const WHERE: Readonly<Record<Match['field'], string>> = {
  name: 'name',
  keywords: 'keywords',
  tags: 'tags',
  description: 'description',
  note: 'note',
  category: 'category',
  folders: 'folder',
}

function reason(match: Match): string {
  if (match.how === 'typed') return `“${match.found}” in ${WHERE[match.field]}`
  if (match.how === 'within') return `“${match.found}” in ${WHERE[match.field]}`
  if (match.how === 'respelt') return `“${match.found}”, spelt like ${match.typed}`
  return match.how === 'translated'
    ? `“${match.found}” is ${match.typed}`
    : `“${match.found}”, akin to ${match.typed}`
}

/** A text with the words that were met underlined. */
export function Marked({ text, matches }: { text: string; matches: readonly Match[] }) {
  if (matches.length === 0) return <>{text}</>
  const found = new Set(matches.map((match) => match.found))
  return (
    <>
      {text.split(/(?<=[^\p{L}\p{N}\p{M}])|(?=[^\p{L}\p{N}\p{M}])/u).map((piece, index) =>
        found.has(piece.toLowerCase()) ? (
          <u key={index} className="decoration-gate decoration-2 underline-offset-2">
            {piece}
          </u>
        ) : (
          piece
        ),
      )}
    </>
  )
}

/** Why a result was found where its name alone does not show it, else what is known of it. */
export function saidOf(sound: FoundSound): string {
  const why = sound.why.filter((match) => match.field !== 'name' || match.how !== 'typed')
  return why.length > 0 ? why.map(reason).join(', ') : sound.description || sound.path
}

/** The words of a search that a name meets. */
export const metByName = (sound: FoundSound): readonly Match[] =>
  sound.why.filter((match) => match.field === 'name')
