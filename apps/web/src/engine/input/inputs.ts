/** Something that can be recorded from. */
export interface InputDevice {
  readonly id: string
  readonly name: string
}

/** What the ids of made devices begin with. */
export const STAND_IN = 'stand-in:'

/** The microphones and inputs that there are; names are known once one of them was allowed. */
export async function inputDevices(): Promise<InputDevice[]> {
  const all = (await navigator.mediaDevices?.enumerateDevices().catch(() => [])) ?? []
  return all
    .filter(({ kind, deviceId }) => kind === 'audioinput' && deviceId !== '')
    .map(({ deviceId: id, label }, index) => ({ id, name: label || `Input ${index + 1}` }))
}

/** Says whenever an input is plugged in or pulled out. @returns What ends that */
export function watchInputs(changed: () => void): () => void {
  const { mediaDevices } = navigator
  mediaDevices?.addEventListener('devicechange', changed)
  return () => mediaDevices?.removeEventListener('devicechange', changed)
}

/** Says whether there is any input, allowed or not. */
export const hasInput = async (): Promise<boolean> =>
  ((await navigator.mediaDevices?.enumerateDevices().catch(() => [])) ?? []).some(
    ({ kind }) => kind === 'audioinput',
  )

/** Why an input can't be had, and what to do. */
function inputTrouble(error: unknown): Error {
  const { name } = error as { name?: string }
  const words: Record<string, string> = {
    NotAllowedError:
      'This page may not use the microphone. Allow it beside the address of the page, or choose the stand-in.',
    NotFoundError: 'There is no such input any more. Plug it in, or choose another one.',
    NotReadableError:
      'The input is in use by another program, or can’t be opened. Free it, or choose another one.',
    OverconstrainedError: 'There is no such input any more. Plug it in, or choose another one.',
  }
  return new Error(words[name ?? ''] ?? `The input can’t be opened: ${String(error)}.`)
}

/**
 * Opens an input with two channels where it has them, and with nothing that a browser does to voices.
 *
 * @param deviceId - Empty for the browser's own choice
 * @throws Error in words for the editor
 */
export async function openStream(deviceId: string): Promise<MediaStream> {
  if (!navigator.mediaDevices)
    throw new Error(
      'This browser gives inputs only to pages from this computer or over https. Open Yodel at 127.0.0.1, or put it behind https.',
    )
  const plain = { echoCancellation: false, noiseSuppression: false, autoGainControl: false }
  const audio = { ...plain, channelCount: 2, ...(deviceId ? { deviceId: { exact: deviceId } } : {}) }
  return navigator.mediaDevices.getUserMedia({ audio }).catch((error: unknown) => {
    throw inputTrouble(error)
  })
}
