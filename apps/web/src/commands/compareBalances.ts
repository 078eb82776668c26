import { FRAME_RATES, frameToSample, planReel, SILENT_LUFS, withBalance, type Frames } from '@yodel/core'
import { useMemo } from 'react'
import { useAppDispatch, useAppStore } from '../document/store.js'
import type { Measured, MeasureOrder } from '../engine/measure.worker.js'
import { useReel, useSession } from '../session/session.js'
import { viewActions } from '../document/viewSlice.js'

/** Seconds on either side of the gate over which two balances are held against each other, where nothing loops. */
const AROUND_S = 5
const MOST_DB = 20

/** Changes between the balance of now and the one laid beside it, the other one as loud as the present one is around the gate. */
export function useCompare(): { toggle: () => Promise<void> } {
  const store = useAppStore()
  const dispatch = useAppDispatch()
  const { transport } = useSession()
  const { rate } = useReel()
  return useMemo(
    () => ({
      toggle: async () => {
        const { compared } = store.getState().view
        const say = (text: string): void => void dispatch(viewActions.notify({ tone: 'plain', text }))
        if (!compared) return say('Choose an earlier balance first: Shift B, then Beside.')
        if (compared.heard) return void dispatch(viewActions.compare({ ...compared, heard: false }))
        const { doc } = store.getState().document
        const gate = frameToSample(transport.frame as Frames, FRAME_RATES[rate])
        const [from, to] = transport.loop
          ? [transport.loop.from, transport.loop.to]
          : [Math.max(0, gate - AROUND_S * 48_000), gate + AROUND_S * 48_000]
        const measured = await measureLoudness({
          plans: [planReel(doc), planReel(withBalance(doc, compared.then))],
          from,
          to,
        })
        if ('problem' in measured)
          return void dispatch(
            viewActions.notify({
              tone: 'problem',
              text: `The two can’t be held against each other: ${measured.problem}`,
            }),
          )
        const [now = SILENT_LUFS, then = SILENT_LUFS] = measured.loudness
        const matched = now > SILENT_LUFS && then > SILENT_LUFS
        const db = matched ? Math.max(-MOST_DB, Math.min(MOST_DB, now - then)) : 0
        dispatch(viewActions.compare({ ...compared, heard: true, db }))
        say(
          matched
            ? `You hear “${compared.name}”, by ${signed(db)} dB as loud as now.`
            : `You hear “${compared.name}”; here it is silent, so it is not matched.`,
        )
      },
    }),
    [store, dispatch, transport, rate],
  )
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
