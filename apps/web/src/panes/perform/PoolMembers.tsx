import type { PoolMember } from '@yodel/core'
import { Play, X } from 'lucide-react'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { viewActions } from '../../document/viewSlice.js'
import type { HitPlayer } from '../../session/HitPlayer.js'
import { lengthOf } from '../sounds/describe.js'

/** What is in a pool: heard, weighed, left out, taken out. */
export function PoolMembers(props: {
  members: readonly PoolMember[]
  player: HitPlayer
  onChange: (members: readonly PoolMember[]) => void
}) {
  const { members, player, onChange } = props
  const dispatch = useAppDispatch()
  const { sounds, gone } = useAppSelector((state) => state.perform)
  const hear = (member: PoolMember): void => {
    const sound = sounds[member.soundId]
    if (!sound || player.play(member.soundId, member.part, sound.length, { gain: 0, speed: 1 })) return
    dispatch(viewActions.notify({ tone: 'plain', text: `${member.name} is not loaded yet.` }))
  }
  const set = (at: number, fields: Partial<PoolMember>): void =>
    onChange(members.map((member, index) => (index === at ? { ...member, ...fields } : member)))
  return (
    <ul
      className="mt-2 min-h-[80px] flex-1 overflow-y-auto border-y border-line text-[12px]"
      aria-label="In the pool"
    >
      {members.length === 0 && <li className="p-2 text-ink-2">Nothing yet. Put something in above.</li>}
      {members.map((member, index) => {
        const sound = sounds[member.soundId]
        const length = member.part ? member.part.to - member.part.from : sound?.length
        return (
          <li key={index} className="flex items-center gap-2 border-t border-hair px-1 first:border-0">
            <button
              type="button"
              aria-label={`Hear ${member.name}`}
              disabled={!sound}
              className="grid size-6 place-items-center disabled:opacity-40"
              onClick={() => hear(member)}
            >
              <Play size={12} />
            </button>
            <span className={`min-w-0 flex-1 truncate ${member.weight === 0 ? 'text-ink-3' : ''}`}>
              {member.name}
              {gone.includes(member.soundId) && <span className="text-gate"> (gone)</span>}
            </span>
            {length !== undefined && <span className="font-mono text-ink-2">{lengthOf(length)}</span>}
            <input
              type="range"
              min={0}
              max={5}
              step={0.5}
              value={member.weight}
              aria-label={`How often ${member.name} is picked`}
              title={member.weight === 0 ? 'left out' : `weight ${member.weight}`}
              className="w-20 accent-ink"
              onChange={(event) => set(index, { weight: Number(event.target.value) })}
            />
            <button
              type="button"
              aria-label={`Take ${member.name} out`}
              className="grid size-6 place-items-center text-ink-2 hover:text-ink"
              onClick={() => onChange(members.filter((_, at) => at !== index))}
            >
              <X size={12} />
            </button>
          </li>
        )
      })}
    </ul>
  )
}
