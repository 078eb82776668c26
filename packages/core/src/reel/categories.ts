/** Categories of cues and tracks, in the order in which lists and tracks show them. */
export const CATEGORIES = ['FX', 'FOL', 'BG', 'DX', 'MX', 'DSG'] as const

/** One of {@link CATEGORIES}. */
export type Category = (typeof CATEGORIES)[number]

/** What each category's code stands for. */
export const CATEGORY_NAMES: Readonly<Record<Category, string>> = {
  FX: 'Hard effects',
  FOL: 'Foley',
  BG: 'Backgrounds',
  DX: 'Dialogue',
  MX: 'Music',
  DSG: 'Sound design',
}

/** What people call a category, beside its code and its name: English, German, French, Spanish, Italian (common practice, from memory). */
export const CATEGORY_SPELLINGS: Readonly<Record<Category, readonly string[]>> = {
  FX: [
    ...['SFX', 'effects', 'effect', 'hard fx', 'HFX', 'hard effect', 'spot', 'spot fx', 'sound effects'],
    ...['effekt', 'effekte', 'effet', 'effets', 'efecto', 'efectos', 'effetto', 'effetti'],
  ],
  FOL: [
    'foley',
    'geräusch',
    'geräusche',
    'geräuschemacher',
    'bruitage',
    'bruitages',
    'sala',
    'rumori',
    'rumori sala',
  ],
  BG: [
    ...['BGS', 'background', 'ambience', 'ambiences', 'ambient', 'atmos', 'AMB', 'atmosphere'],
    ...['atmo', 'hintergrund', 'ambiance', 'ambiances', 'ambiente', 'ambientes', 'ambienti'],
  ],
  DX: [
    ...['dialogue', 'dialog', 'dialogues', 'DIA', 'ADR', 'voice', 'VO'],
    ...['dialoge', 'sprache', 'diálogo', 'diálogos', 'dialogo', 'dialoghi'],
  ],
  MX: ['music', 'MUS', 'musik', 'musique', 'música', 'musica'],
  DSG: ['design', 'SD', 'sounddesign', 'diseño', 'diseño sonoro'],
}

/** By any of its names, in lower case. */
const CALLED = new Map(
  CATEGORIES.flatMap((category) =>
    [category, CATEGORY_NAMES[category], ...CATEGORY_SPELLINGS[category]].map(
      (name) => [name.toLowerCase(), category] as const,
    ),
  ),
)

/** The category that somebody calls so; null where nobody does. */
export const categoryCalled = (name: string): Category | null => CALLED.get(name.trim().toLowerCase()) ?? null
