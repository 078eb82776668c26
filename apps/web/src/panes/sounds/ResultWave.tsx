import type { Sound } from '@yodel/core'
import { Wave } from '../../ui/Wave.js'

/** The outline of a result, in the ink of what is chosen where it is that. */
export function ResultWave(props: { sound: Sound; width: number; height: number; chosen: boolean }) {
  const { sound, width, height, chosen } = props
  return (
    <Wave
      mediaId={sound.id}
      from={0}
      to={sound.length}
      width={width}
      height={height}
      colour={chosen ? '--gate' : '--ink-3'}
      opacity={0.8}
    />
  )
}
