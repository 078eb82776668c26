import { splitName } from './words.js'

/** What a file name says by the trade's open habit. */
export interface NamedFile {
  readonly category: string
  readonly name: string
  readonly creator: string
  readonly source: string
}

/**
 * Reads a file name that is written by the open habit of the trade: category code, name, creator and source, joined by underscores
 * (`DOORWood_Cellar Door Creaks_MR_TolliverHalt`). The code begins with at least three capitals.
 *
 * @param stem - File name without ending.
 * @returns Null for a name that is not written so.
 */
export function readFileName(stem: string): NamedFile | null {
  const [code = '', name = '', creator = '', source = ''] = stem.split('_').map((part) => part.trim())
  if (!/^[A-Z]{3,}[A-Za-z]*$/.test(code) || name === '' || creator === '' || /^\d+$/.test(creator))
    return null
  return {
    category: splitName(code.replace(/^([A-Z]{2,}?)([A-Z][a-z])/, '$1 $2')),
    name: splitName(name),
    creator,
    source,
  }
}
