import { randomUUID } from 'node:crypto'
import {
  addTake,
  cueCode,
  expectOk,
  frames,
  frameToSample,
  keepTakeOf,
  layScratch,
  partOfTake,
  piecesOf,
  placeTreatment,
  planTake,
  rateOf,
  reelOf,
  SAMPLE_RATE,
  secondsOfLine,
  standInRoom,
  standInSound,
  textOfLine,
  treatClips,
  treatmentIn,
  type Change,
  type Cue,
  type MadeLine,
  type ReelDocument,
  type Result,
  type ScratchLine,
  type Sound,
  type TakeAbout,
} from '@yodel/core'
import { CALL, CALL_REEL, COAT } from '@yodel/demo'
import { reasonOf } from '../errors.js'
import { keepTake } from '../record/keepTake.js'
import { commitChange } from '../reels/commitChange.js'
import { commitOf } from '../reels/commitOf.js'
import { loadStand } from '../reels/reelStore.js'
import type { Services } from '../services.js'
import { keepLine } from '../voices/keepLine.js'

const PERSON = 'Idris Koch'

/**
 * Makes what the demo's call is tried out with: lines that machines say, one of them out of the telephone, and takes that the stand-in
 * performs. Where no voice is installed there are no lines. A reel that somebody has worked on is left alone.
 */
export async function seedMade(services: Services, say: (line: string) => void): Promise<void> {
  const { doc, seq } = await loadStand(services.db, CALL_REEL.id)
  if (seq !== 1) return
  await recordCoat(services, doc)
  const { voices } = await services.voices.voices()
  if (voices.length === 0) return
  // The demo is as good without them: a voice that can't be had must not keep Yodel from starting.
  await sayCall(services).catch((error: unknown) => say(`  the call has no lines: ${reasonOf(error)}`))
}

/** Does an edit on the reel as it stands. */
async function does(services: Services, edit: (doc: ReelDocument) => Result<Change>): Promise<void> {
  const { db, clock } = services
  const { doc, seq } = await loadStand(db, CALL_REEL.id)
  await commitChange(db, CALL_REEL.id, PERSON, clock(), commitOf(expectOk(edit(doc)), seq))
}

async function sayCall(services: Services): Promise<void> {
  const { doc } = await loadStand(services.db, CALL_REEL.id)
  const rate = rateOf(doc)
  const { voices } = await services.voices.voices()
  const lines: MadeLine[] = []
  for (const { id, said } of CALL) {
    const cue = doc.cue.get(id) as Cue
    const voice = voices.some(({ name }) => name === said.voice) ? said.voice : (voices[0]?.name ?? '')
    const line: ScratchLine = { ...said, voice, text: '' }
    const spoken = { ...line, text: textOfLine(line, cue) }
    const saying = { line: spoken, seconds: said.pace === 'cue' ? secondsOfLine(cue, rate) : null }
    const speech = await services.voices.say(saying, new AbortController().signal)
    const sound = await keepLine(services, speech, saying, {
      ...{ reelId: CALL_REEL.id, cue: cueCode(cue), by: PERSON },
      timeReference: frameToSample(frames(reelOf(doc).firstFrame + cue.sync), rate),
    })
    lines.push({
      ...{ cueId: id, line, said: spoken.text, id: `${id}-said`, newTrackId: `${id}-track` },
      sound: { id: sound.id, name: sound.name, recorded: sound.length, sync: 0, from: 0, to: sound.length },
    })
  }
  await does(services, (now) => layScratch(now, { lines }))
  const ids = CALL.filter(({ distant }) => distant).map(({ id }) => `${id}-said`)
  const pieces = piecesOf(treatmentIn({ treatment: placeTreatment('telephone', 1) }))
  await does(services, (now) => treatClips(now, { ids, pieces }))
}

async function recordCoat(services: Services, doc: ReelDocument): Promise<void> {
  const cue = doc.cue.get(COAT.id) as Cue
  const rate = rateOf(doc)
  const at = (frame: number): number => frameToSample(frames(frame), rate)
  const wanted = { in: at(cue.in), out: at(cue.out), sync: at(cue.sync) }
  const plan = planTake({ ...wanted, reelEnd: at(reelOf(doc).length), countIn: true })
  const sounds: Sound[] = []
  for (let number = 1; number <= COAT.takes; number++) {
    const about: TakeAbout = {
      ...{ id: randomUUID(), reelId: CALL_REEL.id, cueId: cue.id, number, channels: 1, start: plan.roll },
      ...{ ...wanted, name: `${cueCode(cue)} take ${number}`, reelAt: at(reelOf(doc).firstFrame) },
      ...{ device: 'Stand-in: a bag is crumpled', roundTrip: 0, measured: false },
    }
    const performed = actedOut(number, plan.end - plan.roll, wanted.sync - plan.roll)
    await services.takes.begin(about, PERSON, services.clock())
    await services.takes.append(about.id, 0, Buffer.from(performed.buffer))
    const sound = await keepTake(services, about.id, { length: performed.length, note: '', later: 0 })
    const part = partOfTake({ start: about.start, length: sound.length }, wanted)
    const id = `${cue.id}-${number}`
    await does(services, (now) => addTake(now, { id, cueId: cue.id, take: number, sound, part }))
    await services.takes.forget(about.id)
    sounds.push(sound)
  }
  const id = `${cue.id}-${COAT.best}`
  const sound = sounds[COAT.best - 1] as Sound
  await does(services, (now) =>
    keepTakeOf(now, { id, sound, newId: `${id}-laid`, newTrackId: `${cue.id}-track` }),
  )
}

/** What the stand-in gives in a take: its room, and a bag at a moment. */
function actedOut(take: number, length: number, moment: number): Float32Array<ArrayBuffer> {
  const room = standInRoom()
  const out = Float32Array.from({ length }, (_, i) => room[i % SAMPLE_RATE] ?? 0)
  for (const [i, value] of standInSound('bag', take).entries())
    if (moment + i < length) out[moment + i] = (out[moment + i] as number) + value
  return out
}
