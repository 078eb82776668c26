import { Marked } from 'marked'

/** What a chapter's text refers to. */
export interface References {
  /** A key as it is written in front of the person, or null where a word in code is no key. */
  readonly key: (written: string) => string | null
  readonly picture: (path: string) => string
  /** The address of another page of the guide. */
  readonly link: (path: string) => string
}

const escaped = (text: string): string =>
  text.replace(
    /[&<>"]/g,
    (sign) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[sign] as string,
  )

/** A heading's name in an address: its words, small, with dashes. */
export const anchorOf = (heading: string): string =>
  heading
    .toLowerCase()
    .replace(/[^\p{L}\d]+/gu, '-')
    .replace(/^-|-$/g, '')

/** A chapter of the guide as HTML. @param markdown - One of our own files: it is not made harmless */
export function renderChapter(markdown: string, references: References): string {
  const marked = new Marked({
    renderer: {
      codespan: ({ text }) => {
        const key = references.key(text)
        return key === null ? `<code>${escaped(text)}</code>` : `<kbd>${escaped(key)}</kbd>`
      },
      image: ({ href, text }) =>
        `<img src="${references.picture(href)}" alt="${escaped(text)}" loading="lazy">`,
      link({ href, tokens }) {
        return `<a href="${references.link(href)}">${this.parser.parseInline(tokens)}</a>`
      },
      heading({ tokens, depth, text }) {
        return `<h${depth} id="${anchorOf(text)}">${this.parser.parseInline(tokens)}</h${depth}>`
      },
    },
  })
  return marked.parse(markdown, { async: false })
}
