import { CUE_FIELDS } from '../cueFields.js'
import { looksLikeTime } from './times.js'

/** Which column of the file serves which column of the sheet. */
export type ColumnMatch = Readonly<Record<string, number>>

/** Words that stand beside what a heading means, and say nothing by themselves. */
const BESIDE = words(
  'tc timecode time code point record rec reel cue the of hh mm ss ff zeit temps temporel tempo temporale tiempo codigo codice hora de du del di d la le l',
)
/** One of these alone says that a column holds times. */
const TIME = words('tc timecode time zeit temporel temporale tiempo temps tempo')

/** What a heading means by the one word that is left of it: English, German, French, Spanish, Italian (common practice, from memory). */
const MEANINGS: readonly (readonly [field: string, ReadonlySet<string>])[] = [
  [
    'in',
    words(
      'in start begin begins tcin head position from anfang beginn von ab ein einstieg startzeit debut entree inicio entrada desde inizio entrata da',
    ),
  ],
  [
    'out',
    words(
      'out end ends stop finish tcout tail to ende schluss bis aus ausstieg endzeit fin sortie a salida final hasta fine uscita',
    ),
  ],
  [
    'length',
    words('length duration dur len dauer lange laenge duree longueur duracion longitud durata lunghezza'),
  ],
  ['category', words('category cat type kind department kategorie typ art categorie genre categoria tipo')],
  [
    'notes',
    words(
      'notes note remarks remark comments comment notizen notiz bemerkung bemerkungen anmerkung anmerkungen kommentar hinweis hinweise remarque remarques commentaire commentaires notas nota observaciones comentarios osservazioni commenti',
    ),
  ],
  ['scene', words('scene sc szene escena scena')],
  ['where', words('where location place set ort lieu lugar luogo')],
  ['source', words('source maker object character prop sprecher figur personnage personaje personaggio')],
  ['priority', words('priority prio prioritat priorite prioridad priorita')],
  ['state', words('state status etat statut estado stato')],
  ['by', words('editor responsible owner assigned bearbeiter responsable responsabile')],
  ['number', words('no nr num number n id item nummer numero')],
]

/** Words of which a heading over what is heard has at least one; the column with most of them holds it. */
const HEARD = words(
  'description desc sound sounds effect effects fx sfx action event content details what words text foley clip name needed required ' +
    'beschreibung gerausch geraeusch ton effekt effekte effektbeschreibung inhalt aktion atmo bezeichnung hort ' +
    'effet effets son sonore sonores bruitage evenement contenu libelle texte ' +
    'descripcion efecto efectos sonido accion evento contenido detalle texto ' +
    'descrizione effetto effetti suono sonoro rumore azione contenuto dettaglio testo',
)
/** Headings with one of these are about somebody or something else. */
const NOT_HEARD = new Set([
  ...['mixer', 'director', 'file', 'id', 'number', 'no'],
  ...MEANINGS.flatMap(([field, names]) => (['notes', 'by'].includes(field) ? [...names] : [])),
])
const CODES = words('fx sfx fol foley bg bgs amb atmo dx mx dsg')

/** Cells of the first rows that are looked at to tell what a column holds. */
const LOOKED_AT = 50

/** Guesses which column is which from the headings: our own, other names for them, then by what their words mean. */
export function matchColumns(headings: readonly string[]): ColumnMatch {
  const match: Record<string, number> = {}
  const taken = new Set<number>()
  const take = (field: string, at: number | undefined): void => {
    if (at === undefined || at < 0 || field in match) return
    match[field] = at
    taken.add(at)
  }
  const plain = headings.map((heading) => heading.trim().toLowerCase().replace(/\s+/g, ' '))
  for (const namesOf of [
    (field: (typeof CUE_FIELDS)[number]) => [field.title.toLowerCase(), field.key.toLowerCase()],
    (field: (typeof CUE_FIELDS)[number]) => field.aliases,
  ])
    for (const field of CUE_FIELDS) {
      if (!isReadable(field.key)) continue
      const found = namesOf(field).map((name) => plain.findIndex((one, at) => one === name && !taken.has(at)))
      take(
        field.key,
        found.find((at) => at >= 0),
      )
    }
  const tokens = headings.map(tokensOf)
  const free = (is: (own: readonly string[]) => boolean): number =>
    tokens.findIndex((own, at) => !taken.has(at) && own.length > 0 && is(own))
  take(
    'category',
    free((own) => own.filter((token) => CODES.has(token)).length > 1),
  )
  for (const [field, names] of MEANINGS)
    take(
      field,
      free((own) => meantBy(own).some((token) => names.has(token))),
    )
  take(
    'in',
    free((own) => meantBy(own).length === 0 && own.some((token) => TIME.has(token))),
  )
  if (!('words' in match)) take('words', mostHeard(tokens, taken))
  // Where nothing else says what is heard, the comments do.
  const { notes, ...rest } = match
  return 'words' in match || notes === undefined ? match : { ...rest, words: notes }
}

/** {@link matchColumns}; where no heading says when a cue begins, the first columns that hold times do. */
export function matchTable(headings: readonly string[], rows: readonly (readonly string[])[]): ColumnMatch {
  const match = matchColumns(headings)
  if ('in' in match) return match
  const looked = rows.slice(0, LOOKED_AT)
  const taken = new Set(Object.values(match))
  const columns = looked.reduce((most, row) => Math.max(most, row.length), 0)
  const cells = Array.from({ length: columns }, (_, at) =>
    looked.map((row) => (row[at] ?? '').trim()).filter((cell) => cell !== ''),
  )
  const isTimes = (own: readonly string[]): boolean =>
    own.length > 0 && own.filter(looksLikeTime).length * 2 > own.length
  const [begin, end] = cells.flatMap((own, at) => (!taken.has(at) && isTimes(own) ? [at] : []))
  if (begin === undefined) return match
  // Without a heading, the longest text is what is heard.
  const letters = (at: number): number => (cells[at] ?? []).reduce((sum, cell) => sum + cell.length, 0)
  const rest = cells.map((_, at) => at).filter((at) => !taken.has(at) && at !== begin && at !== end)
  const longest = rest.sort((a, b) => letters(b) - letters(a))[0]
  return {
    ...{ in: begin },
    ...(end === undefined ? {} : { out: end }),
    ...(longest !== undefined && letters(longest) > 0 ? { words: longest } : {}),
    ...match,
  }
}

/** How many of a line's cells are headings that mean something. */
export const meantIn = (headings: readonly string[]): number => Object.keys(matchColumns(headings)).length

const isReadable = (key: string): boolean =>
  key === 'length' || CUE_FIELDS.some((one) => one.key === key && one.read)

/** The column whose heading has most words for what is heard; the first of several. */
function mostHeard(tokens: readonly (readonly string[])[], taken: ReadonlySet<number>): number | undefined {
  const scores = tokens.map((own, at) =>
    taken.has(at) || own.some((token) => NOT_HEARD.has(token))
      ? 0
      : own.filter((token) => HEARD.has(token)).length,
  )
  const most = Math.max(...scores, 0)
  return most > 0 ? scores.indexOf(most) : undefined
}

/** What is left of a heading without the words beside; those themselves mean nothing. */
const meantBy = (tokens: readonly string[]): string[] => {
  const rest = tokens.filter((token) => !BESIDE.has(token))
  return rest.length === 1 ? rest : []
}

/** A heading's words: without accents, marks and case. */
function tokensOf(heading: string): string[] {
  const plain = heading.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase()
  return plain.split(/[^\p{L}\p{N}]+/u).filter(Boolean)
}

function words(text: string): ReadonlySet<string> {
  return new Set(text.split(' '))
}
