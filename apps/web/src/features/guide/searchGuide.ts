import { anchorOf } from './renderChapter.js'

/** A place in the guide where all words of a search stand. */
export interface Found {
  readonly chapter: string
  readonly title: string
  readonly heading: string
  readonly anchor: string
  /** The text about the first word. */
  readonly around: string
}

/** How much of the text is shown on either side of a word, in characters. */
const AROUND = 70

const plain = (markdown: string): string =>
  markdown
    .replace(/!\[[^\]]*\]\([^)]*\)/g, '')
    .replace(/\[([^\]]*)\]\([^)]*\)/g, '$1')
    .replace(/[`*|]|^#+ /gm, '')
    .replace(/\s+/g, ' ')
    .trim()

/** Paragraphs of the guide in which each of some beginnings of words stands, or in their heading, in the order of the guide. */
export function searchGuide(
  chapters: readonly { name: string; title: string; text: string }[],
  query: string,
): readonly Found[] {
  const words = query.toLowerCase().split(/\s+/).filter(Boolean)
  if (words.length === 0) return []
  return chapters.flatMap(({ name, title, text }) => {
    let heading = title
    return text.split(/\n\n+/).flatMap((block) => {
      const head = /^#+ (.*)/.exec(block)?.[1]
      if (head !== undefined) heading = head
      const said = plain(block)
      const all = ` ${heading} ${said}`.toLowerCase()
      if (
        head !== undefined ||
        !words.every((word) => new RegExp(`[^\\p{L}\\d]${escape(word)}`, 'u').test(all))
      )
        return []
      const at = Math.max(0, said.toLowerCase().indexOf(words[0] as string))
      const from = Math.max(0, at - AROUND)
      const cut = said.slice(from, at + AROUND)
      const around = `${from > 0 ? '…' : ''}${cut}${at + AROUND < said.length ? '…' : ''}`
      return [{ chapter: name, title, heading, anchor: anchorOf(heading), around }]
    })
  })
}

const escape = (word: string): string => word.replace(/[\\^$.*+?()[\]{}|]/g, '\\$&')
