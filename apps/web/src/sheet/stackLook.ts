import { clipsByGroup, type Clip, type ReelDocument, type Stack } from '@yodel/core'

/** How a clip of a closed stack is drawn: the longest of its layers stands for all of them, the others only mark their tracks. */
export interface StackLook {
  readonly stack: Stack
  readonly layers: readonly Clip[]
  readonly leads: boolean
}

/** The stack that a clip is drawn as a part of; null for a sound by itself, and for a layer of a stack that is opened. */
export function stackLookOf(
  doc: Pick<ReelDocument, 'clip' | 'stack'>,
  clip: Pick<Clip, 'id' | 'group'>,
  opened: readonly string[],
): StackLook | null {
  const stack = clip.group === '' ? undefined : doc.stack.get(clip.group)
  if (!stack || opened.includes(stack.id)) return null
  const layers = clipsByGroup(doc).get(stack.id) ?? []
  const lead = layers.reduce<Clip | null>(
    (best, one) => (best && best.length >= one.length ? best : one),
    null,
  )
  return { stack, layers, leads: lead?.id === clip.id }
}
