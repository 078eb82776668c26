import {
  clipsByGroup,
  emptyChange,
  ok,
  planOfStack,
  readVariation,
  shakeStack,
  stackSpan,
  swapStack,
  variationText,
  type FoundLayers,
  type Stack,
  type StackPlan,
  type Variation,
} from '@yodel/core'
import { answerOf } from '../api/answerOf.js'
import { messageOf } from '../api/api.js'
import { stacksApi } from '../api/stacksApi.js'
import { draftActions } from '../document/draftSlice.js'
import { stackActions, variationsListed } from '../document/stackSlice.js'
import { keepTriedStack, stackTriedIn } from '../document/tried.js'
import { viewActions } from '../document/viewSlice.js'
import type { CommandContext } from './context.js'
import { loopAround } from './loopAround.js'
import type { TryingCommands } from './trying.js'

/** Commands of {@link stackCommands}. */
export type StackCommands = ReturnType<typeof stackCommands>

/** Nothing is tried. */
const NOTHING = ok(emptyChange('Keep'))
/** So many variations in a row may come out with no layer before looking for another is given up. */
const MOST_EMPTY = 50

/** Variations of a plan: heard, tried on the cue, kept as one thing, swapped on the Sheet. */
export function stackCommands(context: CommandContext, tries: TryingCommands) {
  const { transport, listening, doc, rate, cueHere, clips, edit, select, refuse, dispatch, state, newId } =
    context
  const stacking = () => state().stacking

  /** The stack whose layers are selected, or null. */
  const selectedStack = (): Stack | null => {
    const groups = new Set(clips().map(({ group }) => group))
    const [group = ''] = groups
    return groups.size === 1 ? (doc().stack.get(group) ?? null) : null
  }
  const hear = (): void => {
    const { plan, found, chosen } = stacking()
    if (!plan || !found || !chosen) return refuse('Choose a plan under Stacks, and one of its variations.')
    const layers = shakeStack(plan, chosen, found)
    const span = stackSpan(layers)
    if (!span) return refuse(`None of the layers of ${plan.name} finds a sound.`)
    listening.playPlan((strip) => planOfStack(layers, strip), span[1] - span[0])
  }
  const here = (): void => {
    const { plan, found, chosen, place } = stacking()
    if (!plan || !found || !chosen) return refuse('Choose a plan under Stacks, and one of its variations.')
    const at = cueHere()
    listening.stop()
    dispatch(draftActions.show(null))
    if (tries.isTrying()) tries.putBack()
    const stays = place !== null && (at === null || at.id === place.cueId)
    const next = stays ? place : { cueId: at?.id ?? null, frame: at?.sync ?? transport.frame }
    dispatch(stackActions.tryAt(next))
    const laid = stackTriedIn(doc(), stacking())?.clips ?? []
    if (laid.length === 0) {
      const change = keepTriedStack(doc(), stacking(), newId(), newId)
      if (change?.ok === false) refuse(change.message)
      return void dispatch(stackActions.putBack())
    }
    transport.setLoop(loopAround(next.frame, laid, at, rate()))
    transport.play()
  }
  const putBack = (): void => {
    const { place } = stacking()
    transport.stop()
    transport.setLoop(null)
    dispatch(stackActions.putBack())
    if (place) transport.goToFrame(place.frame)
  }
  const choose = (variation: Variation): void => {
    dispatch(stackActions.choose(variation))
    if (stacking().place) here()
    else hear()
  }
  /** The plan of a stack and what it finds: as they stand in the pane, else asked for. Null when they can't be had, which is then told. */
  const madeBy = async (stack: Stack): Promise<{ plan: StackPlan; found: FoundLayers } | null> => {
    const { plan, found } = stacking()
    if (plan?.id === stack.planId && found) return { plan, found }
    const reelId = state().document.reelId ?? ''
    try {
      const all = await answerOf(dispatch(stacksApi.endpoints.plans.initiate(reelId)))
      const own = all.find(({ id }) => id === stack.planId)
      if (!own) {
        refuse(`The plan of ${stack.name} is gone, so it has no other variations.`)
        return null
      }
      const asked = { reelId, planId: own.id, version: own.version }
      const found = await answerOf(dispatch(stacksApi.endpoints.foundLayers.initiate(asked)))
      return { plan: own, found }
    } catch (error) {
      refuse(`The plan of ${stack.name} can’t be had: ${messageOf(error)}`)
      return null
    }
  }

  return {
    hear,
    here,
    putBack,
    choose,
    isTrying: () => stacking().place !== null,
    choosePlan: (id: string) => {
      if (stacking().place) putBack()
      dispatch(stackActions.choosePlan(id))
    },
    /** The next of the listed variations, or one before. */
    step: (by: number) => {
      const listed = variationsListed(stacking())
      const text = stacking().chosen && variationText(stacking().chosen as Variation)
      const at = listed.findIndex((one) => variationText(one) === text)
      const next = listed[at < 0 ? 0 : Math.max(0, Math.min(listed.length - 1, at + by))]
      if (next) choose(next)
    },
    /** Makes the tried stack part of the reel, as one thing. */
    keep: () => {
      const id = newId()
      if (!stacking().place || !edit((now) => keepTriedStack(now, stacking(), id, newId) ?? NOTHING)) return
      putBack()
      select((clipsByGroup(doc()).get(id) ?? []).map((clip) => clip.id))
    },
    selectedStack,
    /** Puts the next variation of its plan in the place of the selected stack, or the one before. */
    swap: async (by: 1 | -1) => {
      const stack = selectedStack()
      if (!stack) return refuse('Select a stack first; then another variation takes its place.')
      const now = readVariation(stack.variation)
      if (stack.planId === '' || !now)
        return refuse(`${stack.name} was stacked by hand: it has no variations.`)
      const made = await madeBy(stack)
      if (!made) return
      const { plan, found } = made
      const before = shakeStack(plan, now, found)
      for (let step = 1; step <= MOST_EMPTY; step++) {
        const next = { ...now, seed: (now.seed + step * by + 2 ** 32) % 2 ** 32 }
        const layers = shakeStack(plan, next, found)
        if (layers.length === 0) continue
        const args = { id: stack.id, layers, before, variation: variationText(next), newId }
        if (edit((now) => swapStack(now, args)))
          select((clipsByGroup(doc()).get(stack.id) ?? []).map((clip) => clip.id))
        return
      }
      refuse(`None of the layers of ${plan.name} finds a sound.`)
    },
    /** Opens the selected stack to its layers, or closes it. */
    open: () => {
      const stack = selectedStack()
      if (!stack) return refuse('Select a stack first; then it can be opened to its layers.')
      dispatch(viewActions.toggleStack(stack.id))
    },
  }
}
