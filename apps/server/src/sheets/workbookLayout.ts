import { strFromU8, unzipSync } from 'fflate'

/** How a sheet of a workbook is laid out: what is hidden, and which cells are joined. Rows and columns count from 0. */
export interface SheetLayout {
  readonly hidden: boolean
  readonly hiddenRows: number
  readonly hiddenColumns: number
  readonly joined: readonly {
    readonly top: number
    readonly left: number
    readonly bottom: number
    readonly right: number
  }[]
}

/** More joined cells than a sheet that people read has. */
const MOST_JOINED = 10_000

/**
 * Reads the layout of each sheet of a workbook that has been checked (ECMA-376 part 1: 18.2.19 sheet, 18.3.1.73 row,
 * 18.3.1.13 col, 18.3.1.54 mergeCell; from memory), by the sheets' names.
 */
export function readLayout(bytes: Uint8Array): Map<string, SheetLayout> {
  const parts = unzipSync(bytes, {
    filter: ({ name }) =>
      /^xl\/(workbook\.xml|_rels\/workbook\.xml\.rels|worksheets\/[^/]+\.xml)$/.test(name),
  })
  const textOf = (name: string): string => (parts[name] ? strFromU8(parts[name]) : '')
  const targets = new Map(
    tags(textOf('xl/_rels/workbook.xml.rels'), 'Relationship').map((tag) => [
      said(tag, 'Id'),
      said(tag, 'Target'),
    ]),
  )
  return new Map(
    tags(textOf('xl/workbook.xml'), 'sheet').map((tag) => {
      const target = (targets.get(said(tag, 'r:id')) ?? '').replace(/^\/xl\//, '')
      return [plain(said(tag, 'name')), layoutOf(textOf(`xl/${target}`), /hidden/i.test(said(tag, 'state')))]
    }),
  )
}

function layoutOf(xml: string, hidden: boolean): SheetLayout {
  const isHidden = (tag: string): boolean => /^(1|true)$/.test(said(tag, 'hidden'))
  const columns = tags(xml, 'col').filter(isHidden)
  return {
    hidden,
    hiddenRows: tags(xml, 'row').filter(isHidden).length,
    hiddenColumns: columns.reduce(
      (sum, tag) => sum + Number(said(tag, 'max')) - Number(said(tag, 'min')) + 1,
      0,
    ),
    joined: tags(xml, 'mergeCell')
      .slice(0, MOST_JOINED)
      .flatMap((tag) => {
        const [first, last] = said(tag, 'ref').split(':').map(placeOf)
        return first && last
          ? [{ top: first.row, left: first.column, bottom: last.row, right: last.column }]
          : []
      }),
  }
}

const tags = (xml: string, name: string): string[] =>
  [...xml.matchAll(new RegExp(`<(?:\\w+:)?${name}\\s[^>]*>`, 'g'))].map(([tag]) => tag)
const said = (tag: string, attribute: string): string =>
  new RegExp(`\\s${attribute}="([^"]*)"`).exec(tag)?.[1] ?? ''
const plain = (text: string): string =>
  text.replace(
    /&(amp|lt|gt|quot|apos);/g,
    (_, name: string) => ({ amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" })[name] ?? '',
  )

function placeOf(cell: string): { row: number; column: number } | null {
  const parts = /^\$?([A-Z]{1,3})\$?(\d{1,7})$/.exec(cell)
  if (!parts) return null
  const [, letters = '', row = ''] = parts
  const column = [...letters].reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0)
  return { row: Number(row) - 1, column: column - 1 }
}
