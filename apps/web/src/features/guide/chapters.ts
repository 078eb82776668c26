import index from '../../../../../docs/guide.md?raw'

/** A chapter of the guide, written in Markdown in docs/. */
export interface Chapter {
  /** Its name in an address. */
  readonly name: string
  readonly title: string
  readonly text: string
}

const TEXTS = import.meta.glob<string>(['../../../../../docs/guide/*.md', '../../../../../docs/formats.md'], {
  query: '?raw',
  import: 'default',
  eager: true,
})
const PICTURES = import.meta.glob<string>('../../../../../docs/screenshots/*.png', {
  query: '?url',
  import: 'default',
  eager: true,
})

/** The file name of a link or path, without its ending. */
export const nameOf = (path: string): string => (path.split('/').at(-1) as string).replace(/\.\w+(#.*)?$/, '')

const byName = (files: Record<string, string>): ReadonlyMap<string, string> =>
  new Map(Object.entries(files).map(([path, content]) => [nameOf(path), content]))

const texts = byName(TEXTS)
const pictures = byName(PICTURES)

/** The chapters, in the order in which docs/guide.md lists them. */
export const CHAPTERS: readonly Chapter[] = [...index.matchAll(/\[([^\]]+)\]\(([^)]+)\)/g)].flatMap(
  ([, title = '', path = '']) => {
    const name = nameOf(path)
    const text = texts.get(name)
    return text === undefined ? [] : [{ name, title, text }]
  },
)

/** Where the browser finds a picture of the guide. */
export const pictureAt = (path: string): string => pictures.get(nameOf(path)) ?? path
