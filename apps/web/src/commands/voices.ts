import {
  cueCode,
  cuesInOrder,
  frameToSample,
  isStale,
  layScratch,
  reelOf,
  samples,
  scratchIn,
  scratchOf,
  secondsOfLine,
  textOfLine,
  frames,
  type Cue,
  type MadeLine,
  type Saying,
  type Scratch,
  type ScratchLine,
} from '@yodel/core'
import { answerOf } from '../api/answerOf.js'
import { heardLine, usualVoice, voicesApi } from '../api/voicesApi.js'
import { messageOf } from '../api/api.js'
import { voiceActions, type Manner } from '../document/voiceSlice.js'
import type { AppStore } from '../document/store.js'
import { SpokenLine } from '../session/SpokenLine.js'
import type { CommandContext } from './context.js'

/** A line that is to be said, and the cue that it is for. */
interface WantedLine {
  readonly cue: Cue
  readonly line: ScratchLine
}

/** Lines that a machine says until the actor does. */
export function voiceCommands(context: CommandContext) {
  const { doc, rate, cue, clips, edit, refuse, tell, select, dispatch, state, newId } = context
  const player = new SpokenLine()
  let sounding: AbortController | null = null
  let stopped = false

  /** The line that is laid for a cue, or null. */
  const saidFor = (cueId: string): Scratch | null => {
    const laid = scratchOf(doc(), cueId)
    return laid && scratchIn(laid)
  }
  /** The line of a cue as it would be said now: as it was said there, or else as the last one was. */
  const lineOf = async (of: Cue): Promise<ScratchLine | null> => {
    const laid = saidFor(of.id)
    const { manner, texts } = state().voices
    const { text, voice, pace, pitch } = laid ?? { text: texts[of.id] ?? '', ...manner }
    if (voice !== '') return { text, voice, pace, pitch }
    const answer = await answerOf(dispatch(voicesApi.endpoints.voices.initiate())).catch(() => null)
    const usual = usualVoice(answer?.voices ?? [], navigator.languages)
    if (usual) return { text, voice: usual.name, pace, pitch }
    refuse(answer ? `No voice is installed: ${answer.missing.join('; ')}.` : messageOf(null))
    return null
  }
  const sayingOf = (of: Cue, line: ScratchLine): Saying | null => {
    const text = textOfLine(line, of)
    if (text === '') {
      refuse(`${cueCode(of)} has no words that could be said. Type its words, or a line of its own.`)
      return null
    }
    return { line: { ...line, text }, seconds: line.pace === 'cue' ? secondsOfLine(of, rate()) : null }
  }
  const stopHearing = (): void => {
    sounding?.abort()
    sounding = null
    player.stop()
    dispatch(voiceActions.setSpeaking(null))
  }

  /** Has a line made into a recording. @returns Null where it could not be; that is said */
  const make = async (of: Cue, line: ScratchLine): Promise<(MadeLine & { note: string }) | null> => {
    const saying = sayingOf(of, line)
    if (!saying) return null
    const reel = reelOf(doc())
    const wanted = {
      ...{ reelId: state().document.reelId ?? '', cue: cueCode(of), ...saying },
      timeReference: frameToSample(frames(reel.firstFrame + of.sync), rate()),
    }
    const asked = dispatch(voicesApi.endpoints.keepLine.initiate(wanted))
    const made = await asked.unwrap().catch((error: unknown) => {
      refuse(`${cueCode(of)}: ${messageOf(error)}`)
      return null
    })
    if (!made) return null
    const { id, name, length } = made.sound
    const took = made.seconds.toFixed(1)
    const note = made.fits ? '' : `${cueCode(of)} takes ${took} s, as near as these words come to its cue.`
    // It begins with its first word: that is what is laid on the moment.
    const sound = { id, name, recorded: samples(length), sync: 0, from: 0, to: length }
    return { cueId: of.id, line, said: saying.line.text, sound, id: newId(), newTrackId: newId(), note }
  }
  /** Makes the lines of cues and lays them as one step; what can't be made is said and left out. */
  const sayNow = async (all: readonly WantedLine[]): Promise<string[]> => {
    stopped = false
    const made: (MadeLine & { note: string })[] = []
    try {
      for (const [done, { cue: of, line }] of all.entries()) {
        if (stopped) break
        dispatch(voiceActions.setSaying({ done, of: all.length }))
        const one = await make(of, line)
        if (one) made.push(one)
      }
    } finally {
      dispatch(voiceActions.setSaying(null))
    }
    // Somebody may have taken a cue out meanwhile.
    const lines = made.filter(({ cueId }) => doc().cue.has(cueId))
    if (lines.length === 0 || !edit((now) => layScratch(now, { lines }))) return []
    for (const { cueId } of lines) dispatch(voiceActions.setText({ cueId, text: '' }))
    const notes = lines.map(({ note }) => note).filter(Boolean)
    if (notes.length > 0) tell(notes.slice(0, 3).join(' '))
    else if (all.length > 1) tell(`${lines.length} of ${all.length} lines are said and laid.`)
    return lines.flatMap(({ cueId }) => scratchOf(doc(), cueId)?.id ?? [])
  }
  let before: Promise<unknown> = Promise.resolve()
  /** {@link sayNow} when what is being said has been said. */
  const sayEach = (all: readonly WantedLine[]): Promise<string[]> => {
    const mine = before.then(() => sayNow(all))
    before = mine.catch(() => undefined)
    return mine
  }
  /** The selected cue, or that of the selected scratch voice. */
  const here = (): Cue | null => {
    const found = cue() ?? doc().cue.get(clips().find(({ scratch }) => scratch !== '')?.cueId ?? '') ?? null
    if (!found) refuse('Select a cue first; a voice then says its words.')
    return found
  }

  return {
    /** Hears the line of the selected cue, or ends that. */
    hear: async () => {
      if (sounding) return stopHearing()
      const of = here()
      const line = of && (await lineOf(of))
      const saying = of && line && sayingOf(of, line)
      if (!of || !saying) return
      const end = new AbortController()
      sounding = end
      dispatch(voiceActions.setSpeaking(of.id))
      try {
        const said = await heardLine(saying, end.signal)
        if (!end.signal.aborted) await player.play(said, stopHearing)
      } catch (error) {
        if (end.signal.aborted) return
        stopHearing()
        refuse(error instanceof Error ? error.message : String(error))
      }
    },
    /** Has the line of the selected cue said and laid at its sync, or said anew in its place. @param fields - What is other than before */
    say: async (fields: Partial<ScratchLine> = {}) => {
      const of = here()
      const line = of && (await lineOf(of))
      if (!of || !line) return
      stopHearing()
      const ids = await sayEach([{ cue: of, line: { ...line, ...fields } }])
      // In sight, wherever its track is.
      if (ids.length > 0) select(ids)
    },
    /** Says the lines of all dialogue cues that have none, or one with words that were changed since. */
    sayAll: async () => {
      if (state().voices.saying) return refuse('Lines are being said already; wait for them, or stop them.')
      const now = doc()
      const wanted = cuesInOrder(now).filter((one) => {
        const laid = scratchOf(now, one.id)
        if (one.category !== 'DX' || one.state === 'omitted') return false
        return laid ? isStale(laid, one) : textOfLine({ text: '' }, one) !== ''
      })
      if (wanted.length === 0) return tell('Every dialogue cue with words has its line already.')
      const lines: WantedLine[] = []
      for (const one of wanted) {
        const line = await lineOf(one)
        if (!line) return
        lines.push({ cue: one, line })
      }
      await sayEach(lines)
    },
    /** Lays what is said already and says no more. */
    stop: () => void (stopped = true),
    /** The next line is said so; a line that is laid is said anew. */
    setManner: async (of: Cue, manner: Partial<Manner>): Promise<void> => {
      dispatch(voiceActions.setManner(manner))
      const laid = saidFor(of.id)
      if (!laid) return
      const { text, voice, pace, pitch } = laid
      await sayEach([{ cue: of, line: { text, voice, pace, pitch, ...manner } }])
    },
    /** Words for the line of a cue, empty for the cue's own; a line that is laid is said anew. */
    setText: async (of: Cue, text: string): Promise<void> => {
      const laid = saidFor(of.id)
      if (!laid) return void dispatch(voiceActions.setText({ cueId: of.id, text }))
      const { voice, pace, pitch } = laid
      await sayEach([{ cue: of, line: { text, voice, pace, pitch } }])
    },
    /** Says lines anew whose cue's words were changed here. @returns Ends it */
    follow: (store: AppStore) => {
      let before = store.getState().document
      return store.subscribe(() => {
        const now = store.getState().document
        const was = before
        before = now
        if (now.doc.cue === was.doc.cue || now.reelId !== was.reelId) return
        // What others change they have said themselves.
        if (now.pending.length <= was.pending.length) return
        const changed = [...now.doc.cue.values()].flatMap((one) => {
          const old = was.doc.cue.get(one.id)
          const laid = !old || old.words === one.words ? null : scratchOf(now.doc, one.id)
          const said = laid && scratchIn(laid)
          if (!said || !isStale(laid, one) || textOfLine(said, one) === '') return []
          const { text, voice, pace, pitch } = said
          return [{ cue: one, line: { text, voice, pace, pitch } }]
        })
        if (changed.length > 0) void sayEach(changed)
      })
    },
  }
}
