import { frameToSample, planReel, samplesIn, SILENT_LUFS, withBalance, frames } from '@yodel/core'
import { viewActions } from '../document/viewSlice.js'
import type { Measured, MeasureOrder } from '../engine/measure.worker.js'
import type { CommandContext } from './context.js'

/** On either side of the gate, what two balances are held against each other over where nothing loops. */
const AROUND = samplesIn(5)
const MOST_DB = 20

/** Hearing an earlier balance instead of the present one. */
export function balanceCommands({ state, dispatch, transport, doc, rate, refuse, tell }: CommandContext) {
  return {
    /** Changes between the balance of now and the one laid beside it, the other one as loud as the present one is around the gate. */
    toggleCompared: async () => {
      const { compared } = state().view
      if (!compared) return refuse('Choose an earlier balance first, under Beside in the balance.')
      if (compared.heard) return void dispatch(viewActions.compare({ ...compared, heard: false }))
      const gate = frameToSample(frames(transport.frame), rate())
      const stretch = transport.loop ?? { from: Math.max(0, gate - AROUND), to: gate + AROUND }
      const plans = [planReel(doc()), planReel(withBalance(doc(), compared.then))]
      const measured = await measureLoudness({ plans, from: stretch.from, to: stretch.to })
      if ('problem' in measured)
        return refuse(`The two can’t be held against each other: ${measured.problem}`)
      const [now = SILENT_LUFS, then = SILENT_LUFS] = measured.loudness
      const matched = now > SILENT_LUFS && then > SILENT_LUFS
      const db = matched ? Math.max(-MOST_DB, Math.min(MOST_DB, now - then)) : 0
      dispatch(viewActions.compare({ ...compared, heard: true, db }))
      tell(
        matched
          ? `You hear “${compared.name}”, by ${signed(db)} dB as loud as now.`
          : `You hear “${compared.name}”; here it is silent, so it is not matched.`,
      )
    },
  }
}

/** Decibels with their sign and one decimal. */
export const signed = (db: number): string =>
  `${db.toFixed(1).startsWith('-') && Number(db.toFixed(1)) !== 0 ? '−' : '+'}${Math.abs(db).toFixed(1)}`

function measureLoudness(order: MeasureOrder): Promise<Measured> {
  const worker = new Worker(new URL('../engine/measure.worker.ts', import.meta.url), { type: 'module' })
  return new Promise<Measured>((resolve) => {
    worker.onmessage = ({ data }: MessageEvent<Measured>) => resolve(data)
    worker.onerror = (event) => resolve({ problem: event.message })
    worker.postMessage(order)
  }).finally(() => worker.terminate())
}
