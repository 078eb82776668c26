/** A piece of a line: words that are said in one breath, or a pause in seconds. */
export type SpeechPiece = { readonly words: string } | { readonly pause: number }

/** Seconds of a blank line, and the longest pause that can be asked for. */
export const BLANK_LINE = 0.7
const LONGEST_PAUSE = 60

const PAUSE = /\(\s*(\d{1,3}(?:[.,]\d{1,3})?)\s*s?\s*\)/

/** Signs by which speech engines are told how to say something: tags, phonemes, escapes. Nobody says them. */
const MARKUP = /[[\]{}<>\\|^~`_*#@=]+/g

/**
 * Parts a text into what is said and pauses: a blank line is one, and `(1.5)` is one of so many seconds.
 * No piece of words holds a sign that an engine would take for an order.
 */
export function speechOf(text: string): SpeechPiece[] {
  const pieces: SpeechPiece[] = []
  const say = (words: string): void => {
    const clean = words.replace(MARKUP, ' ').replace(/\s+/g, ' ').trim()
    if (/[\p{L}\p{N}]/u.test(clean)) pieces.push({ words: clean })
  }
  const paragraphs = text.replace(/\r\n?/g, '\n').split(/\n[ \t]*\n\s*/)
  paragraphs.forEach((paragraph, index) => {
    if (index > 0) pieces.push({ pause: BLANK_LINE })
    // Every other part is what stood between the brackets of a pause.
    paragraph.split(PAUSE).forEach((part, at) => {
      if (at % 2 === 0) say(part)
      else pieces.push({ pause: Math.min(LONGEST_PAUSE, Number(part.replace(',', '.'))) })
    })
  })
  return pieces
}

/** What stands between quotation marks: English, German, French, and the other way round. */
const QUOTED = /[“"„«»]([^“”"„«»]+)[”"“»«]/g

/**
 * What of a cue's words is said: what stands in quotation marks, else all of it but a name before a colon
 * (`SIGNALMAN: Hold it there.`) and remarks in brackets (`(whispers)`); pauses in brackets stay.
 */
export function spokenWords(words: string): string {
  const quoted = [...words.matchAll(QUOTED)].map(([, said = '']) => said.trim()).filter(Boolean)
  if (quoted.length > 0) return quoted.join(' ')
  const noName = words.replace(/^\s*\p{Lu}[\p{L}\p{N} .'’-]{0,30}:\s+/u, '')
  const noRemarks = noName.replace(/\(([^()]*)\)/g, (all: string) => (PAUSE.test(all) ? all : ' '))
  return noRemarks.replace(/[^\S\n]+/g, ' ').trim()
}
