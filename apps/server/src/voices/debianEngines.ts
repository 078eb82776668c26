import type { EngineVoice, VoiceEngine } from './VoiceEngine.js'

const NAMES = new Intl.DisplayNames('en', { type: 'language', fallback: 'none' })

/** What a language is called in English, `en-GB` British English; what has no name there keeps its own. */
function languageName(code: string, own: string): string {
  try {
    return NAMES.of(code) ?? own
  } catch {
    return own
  }
}

/** `en-gb` as BCP 47 writes it, `en-GB`; what is no such code stays as it is. */
function tagOf(code: string): string {
  try {
    return Intl.getCanonicalLocales(code)[0] ?? code
  } catch {
    return code
  }
}

/** Points of espeak-ng's pitch (0 to 99) for a semitone, measured: 40 points are 6.2 semitones. */
const POINTS_A_SEMITONE = 6.5
const ESPEAK_PACE = 175
/** It speaks no slower than this; beyond, it leaves gaps between words, each step a twentieth more (measured). */
const ESPEAK_SLOWEST = 80
const gapSteps = (stretch: number): number =>
  Math.ceil(20 * Math.max(0, (stretch * ESPEAK_SLOWEST) / ESPEAK_PACE - 1))
const espeakPace = (stretch: number): number =>
  Math.round(Math.min(450, Math.max(ESPEAK_SLOWEST, (ESPEAK_PACE / stretch) * (1 + gapSteps(stretch) / 20))))
/** Files of voices that need recordings of another package, and of those that only colour another voice. */
const NOT_BY_ITSELF = /^(mb|!v)\//
/** The colouring of espeak-ng that turns its voices into women's. */
const AS_WOMAN = '+f3'

/** espeak-ng: a hundred languages, each by rule; Debian's package of that name. */
export const ESPEAK: VoiceEngine = {
  name: 'espeak-ng',
  command: 'espeak-ng',
  otherwise: 'apt-get install espeak-ng',
  usualPace: ESPEAK_PACE,
  sayArgs: ({ voice, stretch, semitones, textFile, out }) => [
    ...['-v', voice, '-s', String(espeakPace(stretch))],
    ...['-g', String(gapSteps(stretch))],
    ...['-p', String(Math.round(Math.min(99, Math.max(0, 50 + semitones * POINTS_A_SEMITONE))))],
    ...['-b', '1', '-f', textFile, '-w', out],
  ],
  listArgs: ['--voices'],
  voicesIn: (listed) =>
    listed.split('\n').flatMap((line): EngineVoice[] => {
      const [, language = '', , own = '', file = ''] = line.trim().split(/\s+/)
      if (!/^[a-z]{2,3}(-[a-z0-9]+)*$/i.test(language) || file === '' || NOT_BY_ITSELF.test(file)) return []
      const tag = tagOf(language)
      const called = languageName(tag, own.replaceAll('_', ' '))
      return [
        { id: language, called: `${called}, man`, language: tag, sex: 'man' },
        { id: `${language}${AS_WOMAN}`, called: `${called}, woman`, language: tag, sex: 'woman' },
      ]
    }),
}

/** Where the voices of flite come from, and who speaks, as its documentation says. */
const FLITE: Readonly<Record<string, readonly [who: string, language: string, sex: EngineVoice['sex']]>> = {
  slt: ['American English, woman', 'en-US', 'woman'],
  rms: ['American English, man', 'en-US', 'man'],
  awb: ['Scottish English, man', 'en-GB', 'man'],
  kal16: ['American English, man, plain', 'en-US', 'man'],
}

/** flite: a few English voices from recordings of people; Debian's package of that name. */
export const FLITE_ENGINE: VoiceEngine = {
  name: 'flite',
  command: 'flite',
  otherwise: 'apt-get install flite',
  usualPace: 185,
  sayArgs: ({ voice, stretch, semitones, textFile, out }) => [
    ...['-voice', voice, '--setf', `duration_stretch=${stretch.toFixed(4)}`],
    ...['--setf', `f0_shift=${(2 ** (semitones / 12)).toFixed(4)}`, '-f', textFile, '-o', out],
  ],
  listArgs: ['-lv'],
  voicesIn: (listed) =>
    Object.entries(FLITE).flatMap(([id, [called, language, sex]]) =>
      new RegExp(`\\b${id}\\b`).test(listed) ? [{ id, called, language, sex }] : [],
    ),
}
