import { formatTimecode, FRAME_RATES, sampleToFrame, type Sound, type SoundEdit } from '@yodel/core'
import { Link } from 'react-router'
import { useKeyOf } from '../../actions/useKeys.js'
import { api } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Choice } from '../../ui/Choice.js'
import { TextField } from '../../ui/TextField.js'
import { QUALITY_WORDS } from './describe.js'
import { searchActions } from '../../document/searchSlice.js'

/** What people say of a sound; it stands above what its file says. */
const SAID = [
  ['tags', 'Tags', 'parted by commas'],
  ['note', 'Note', 'what to remember'],
  ['category', 'Category', 'none'],
  ['licence', 'Licence', 'none given'],
  ['source', 'Source', 'none given'],
] as const
/** Places of use that are shown at most. */
const SHOWN = 8

/** What is known of a sound: measured, said by its file, said by people; in which kits it is put and where it is used. */
export function SoundCard({ sound: chosen }: { sound: Sound }) {
  const { currentData: data } = api.useSoundQuery(chosen.id)
  const sound = data ?? chosen
  const [edit] = api.useEditSoundsMutation()
  const save = (fields: SoundEdit): void => void edit({ ids: [sound.id], edit: fields })
  return (
    <div className="mt-1.5 text-[12px]" data-sound-card>
      <div className="flex items-center justify-between">
        <Stars rating={sound.rating} onRate={(rating) => save({ rating })} />
        <KitChoice sound={sound} />
      </div>
      <dl className="mt-1 grid grid-cols-[72px_1fr] items-baseline gap-x-2">
        {SAID.map(([key, name, placeholder]) => (
          <Said
            key={key}
            name={name}
            value={sound[key]}
            placeholder={placeholder}
            onCommit={(text) => save({ [key]: text })}
          />
        ))}
        {sound.description && (
          <>
            <dt className="text-ink-3">Says</dt>
            <dd>{sound.description}</dd>
          </>
        )}
        {sound.measured &&
          QUALITY_WORDS.map((entry) => (
            <div key={entry.quality} className="contents">
              <dt className="text-ink-3">{entry.name}</dt>
              <dd className="flex items-center gap-2 font-mono text-[11.5px]">
                <span className="h-1.5 w-24 bg-hair">
                  <span className="block h-full bg-ink-2" style={{ width: `${entry.part(sound) * 100}%` }} />
                </span>
                {entry.show(sound)}
              </dd>
            </div>
          ))}
        <dt className="text-ink-3">True peak</dt>
        <dd className="font-mono text-[11.5px]">
          {sound.measured ? `${sound.truePeak.toFixed(1)} dBTP` : 'not listened to yet'}
        </dd>
        <dt className="text-ink-3">File</dt>
        <dd className="font-mono text-[11px] break-all text-ink-2">
          {sound.path}
          {sound.missing && <b className="text-gate"> is not there at present</b>}
        </dd>
        <dt className="text-ink-3">Used</dt>
        <dd>
          <Uses id={sound.id} />
        </dd>
      </dl>
    </div>
  )
}

/** Where in reels a sound is used. */
function Uses({ id }: { id: string }) {
  const { currentData: uses } = api.useUsesQuery(id, { refetchOnMountOrArgChange: true })
  return (
    <>
      {uses?.length === 0 && <span className="text-ink-3">nowhere yet</span>}
      {uses?.slice(0, SHOWN).map((use, index) => (
        <div key={index}>
          <Link
            className="underline decoration-line underline-offset-2 hover:decoration-ink"
            to={`/reels/${use.reelId}`}
          >
            {use.reel}
          </Link>{' '}
          <span className="font-mono">
            {formatTimecode(
              sampleToFrame(use.start, FRAME_RATES[use.rate]) + use.firstFrame,
              FRAME_RATES[use.rate],
            )}
          </span>{' '}
          {use.cue}
        </div>
      ))}
      {uses && uses.length > SHOWN && <span className="text-ink-3">and {uses.length - SHOWN} more</span>}
    </>
  )
}

function Said({
  name,
  value,
  placeholder,
  onCommit,
}: {
  name: string
  value: string
  placeholder: string
  onCommit: (text: string) => void
}) {
  return (
    <>
      <dt className="text-ink-3">{name}</dt>
      <dd>
        <TextField label={name} value={value} placeholder={placeholder} onCommit={onCommit} />
      </dd>
    </>
  )
}

/** A rating of 0 to 5; the star that is the rating takes it away. */
export function Stars({ rating, onRate }: { rating: number; onRate: (rating: number) => void }) {
  return (
    <div role="group" aria-label="Rating" className="flex">
      {[1, 2, 3, 4, 5].map((star) => (
        <button
          key={star}
          type="button"
          aria-label={`${star} of 5`}
          aria-pressed={rating >= star}
          onClick={() => onRate(rating === star ? 0 : star)}
          className={`min-h-6 min-w-6 text-[15px] leading-none ${rating >= star ? 'text-ink' : 'text-ink-3'}`}
        >
          {rating >= star ? '★' : '☆'}
        </button>
      ))}
    </div>
  )
}

/** Puts the sound into a kit; the kit chosen last is the current one, which a key fills. */
function KitChoice({ sound }: { sound: Sound }) {
  const dispatch = useAppDispatch()
  const current = useAppSelector((state) => state.search.currentKit)
  const { data: kits } = api.useKitsQuery()
  const [fill] = api.useFillKitMutation()
  const key = useKeyOf('put-in-kit')
  const me = useAppSelector((state) => state.document.me)
  const mine = kits?.filter((kit) => kit.owner === me || me === '') ?? []
  if (mine.length === 0)
    return <span className="text-[11.5px] text-ink-3">Make a kit under Sounds to gather sounds.</span>
  return (
    <Choice
      label="Put into kit"
      value=""
      options={[
        ['', 'Put into kit …'],
        ...mine.map((kit) => [kit.id, `${kit.name}${kit.id === current && key ? ` (${key})` : ''}`] as const),
      ]}
      onChange={(id) => {
        if (id === '') return
        dispatch(searchActions.currentKit(id))
        void fill({ id, ids: [sound.id], put: true })
      }}
      className="max-w-[150px]"
    />
  )
}
