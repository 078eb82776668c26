import type { FoundSound, SoundOrder } from '@yodel/core'
import { channelsOf, lengthOf, QUALITY_WORDS } from './describe.js'
import { saidOf } from './ResultWords.js'

/** A column of the table of results. */
export interface ResultColumn {
  readonly key: string
  readonly title: string
  /** Figures stand at the right, in figures of one width. */
  readonly figures?: boolean
  /** The order that a press of its heading asks for, where there is one. */
  readonly order?: SoundOrder
  /** What a cell says; the outline is drawn and says nothing. */
  readonly text: (sound: FoundSound) => string
}

/** All columns, as they stand at first. Their widths are in document/resultsLook.ts. */
export const RESULT_COLUMNS: readonly ResultColumn[] = [
  { key: 'name', title: 'Name', order: 'name', text: (sound) => sound.name },
  { key: 'wave', title: 'Outline', text: () => '' },
  { key: 'length', title: 'Length', order: 'length', figures: true, text: (sound) => lengthOf(sound.length) },
  { key: 'channels', title: 'Channels', text: (sound) => channelsOf(sound.channels) },
  { key: 'category', title: 'Category', text: (sound) => sound.category },
  { key: 'events', title: 'Events', order: 'events', figures: true, text: (sound) => String(sound.events) },
  ...QUALITY_WORDS.filter(({ quality }) => quality !== 'length').map(({ quality, name, show }) => ({
    ...{ key: quality, title: name, order: quality, figures: true },
    text: (sound: FoundSound) => (sound.measured ? show(sound) : '–'),
  })),
  { key: 'rating', title: 'Rating', text: (sound) => '★'.repeat(sound.rating) },
  { key: 'said', title: 'Found by, or about', text: saidOf },
  { key: 'shelf', title: 'Shelf', text: (sound) => sound.shelf },
  { key: 'licence', title: 'Licence', text: (sound) => sound.licence },
  { key: 'source', title: 'Source', text: (sound) => sound.source },
  { key: 'tags', title: 'Tags', text: (sound) => sound.tags },
  { key: 'note', title: 'Note', text: (sound) => sound.note },
  {
    key: 'format',
    title: 'Format',
    text: (sound) => `${sound.codec} ${sound.sampleRate / 1000} kHz${sound.bits ? ` ${sound.bits} bit` : ''}`,
  },
  { key: 'path', title: 'Path', text: (sound) => sound.path },
]

const BY_KEY = new Map(RESULT_COLUMNS.map((column) => [column.key, column]))

/** The columns that a look shows, from left to right. */
export const columnsShown = (look: { order: readonly string[]; hidden: readonly string[] }): ResultColumn[] =>
  look.order.flatMap((key) => {
    const column = BY_KEY.get(key)
    return column && !look.hidden.includes(key) ? [column] : []
  })
