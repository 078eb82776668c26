const letters = (row: string): string[] => [...row].map((letter) => `Key${letter}`)

/** The places that write, row by row, as `KeyboardEvent.code` names them (W3C UI Events KeyboardEvent code Values). */
export const PLACES: readonly string[] = [
  ...['Backquote', ...[...'1234567890'].map((digit) => `Digit${digit}`), 'Minus', 'Equal'],
  ...[...letters('QWERTYUIOP'), 'BracketLeft', 'BracketRight'],
  ...[...letters('ASDFGHJKL'), 'Semicolon', 'Quote', 'Backslash'],
  ...['IntlBackslash', ...letters('ZXCVBNM'), 'Comma', 'Period', 'Slash'],
]

/** What a keyboard writes at each place, pressed alone; dead keys by the sign on them. */
export type Written = ReadonlyMap<string, string>

/** Reads the 48 signs of a keyboard, in the order of {@link PLACES}. */
const written = (row: string): Written => {
  const signs = [...row]
  return new Map(PLACES.map((place, index) => [place, signs[index] as string]))
}

/** Keyboards for browsers that don't say what is written on the keys. Source: xkb-data 2.35.1, level 1. */
export const LAYOUTS = {
  us: { name: 'English (US)', keys: written("`1234567890-=qwertyuiop[]asdfghjkl;'\\<zxcvbnm,./") },
  uk: { name: 'English (UK)', keys: written("`1234567890-=qwertyuiop[]asdfghjkl;'#\\zxcvbnm,./") },
  german: { name: 'German', keys: written('^1234567890ß´qwertzuiopü+asdfghjklöä#<yxcvbnm,.-') },
  french: { name: 'French', keys: written('²&é"\'(-è_çà)=azertyuiop^$qsdfghjklmù*<wxcvbn,;:!') },
  swedish: { name: 'Swedish', keys: written("§1234567890+´qwertyuiopå¨asdfghjklöä'<zxcvbnm,.-") },
} as const

/** A keyboard of {@link LAYOUTS}. */
export type LayoutName = keyof typeof LAYOUTS

/** All of {@link LAYOUTS}. */
export const LAYOUT_NAMES = Object.keys(LAYOUTS) as LayoutName[]

const OF_LANGUAGE: Readonly<Record<string, LayoutName>> = {
  'en-GB': 'uk',
  'en-IE': 'uk',
  // Keyboards of Canada have their letters where those of the US have them, those of Switzerland as German ones.
  'fr-CA': 'us',
  'fr-CH': 'german',
  'de': 'german',
  'fr': 'french',
  'sv': 'swedish',
  'fi': 'swedish',
}

/** The keyboard that somebody who reads this language most likely has. @param language - As `de-AT` (BCP 47) */
export const guessLayout = (language: string): LayoutName =>
  OF_LANGUAGE[language] ?? OF_LANGUAGE[language.split('-')[0] as string] ?? 'us'

/** Which keyboard it must be if this place wrote this letter: the present one if it agrees, else another; or null. */
export function layoutThatWrites(place: string, letter: string, present: LayoutName): LayoutName | null {
  const agrees = (name: LayoutName): boolean => LAYOUTS[name].keys.get(place) === letter
  return agrees(present) ? present : (LAYOUT_NAMES.find(agrees) ?? null)
}
