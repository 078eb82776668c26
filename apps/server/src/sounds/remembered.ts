import {
  preparationSchema,
  type PastSearch,
  type Preparation,
  type SoundEvent,
  type SoundUse,
} from '@yodel/core'
import type { DataSource } from 'typeorm'

const KEPT_SEARCHES = 30

/** Notes a search that led to something; the same words for the same cue are one entry, the newest time. */
export async function noteSearch(
  db: DataSource,
  person: string,
  search: { reelId: string; cueId: string; query: string },
  now: Date,
): Promise<void> {
  await db.query(
    `INSERT INTO past_search (person, reel_id, cue_id, query, at) VALUES ($1, $2, $3, $4, $5) ON CONFLICT (person, reel_id, cue_id, query) DO UPDATE SET at = excluded.at`,
    [person, search.reelId, search.cueId, search.query, now],
  )
}

/** Past searches of a person: those of a cue first, then all others, the newest first. */
export async function pastSearches(
  db: DataSource,
  person: string,
  reelId: string,
  cueId: string,
): Promise<PastSearch[]> {
  return (await db.query(
    `SELECT query, bool_or(reel_id = $2 AND cue_id = $3 AND cue_id <> '') AS "ofCue" FROM past_search WHERE person = $1
     GROUP BY query ORDER BY 2 DESC, max(at) DESC LIMIT ${KEPT_SEARCHES}`,
    [person, reelId, cueId],
  )) as PastSearch[]
}

/** How a person has prepared a sound; null when they have not. */
export async function preparationOf(
  db: DataSource,
  person: string,
  soundId: string,
): Promise<Preparation | null> {
  const [row] = (await db.query('SELECT data FROM prepared WHERE person = $1 AND sound_id = $2', [
    person,
    soundId,
  ])) as { data: unknown }[]
  const parsed = preparationSchema.safeParse(row?.data)
  return parsed.success ? parsed.data : null
}

/** Keeps how a person has prepared a sound; null forgets it. */
export async function prepare(
  db: DataSource,
  person: string,
  soundId: string,
  preparation: Preparation | null,
): Promise<void> {
  if (preparation === null)
    await db.query('DELETE FROM prepared WHERE person = $1 AND sound_id = $2', [person, soundId])
  else
    await db.query(
      'INSERT INTO prepared (person, sound_id, data) SELECT $1, s.id, $3 FROM sound s WHERE s.id = $2 ON CONFLICT (person, sound_id) DO UPDATE SET data = excluded.data',
      [person, soundId, JSON.stringify(preparation)],
    )
}

/** The events of a sound, as found or as set by hand. */
export async function eventsOf(
  db: DataSource,
  soundId: string,
): Promise<{ events: SoundEvent[]; byHand: boolean }> {
  const [row] = (await db.query('SELECT events, by_hand AS "byHand" FROM sound_events WHERE sound_id = $1', [
    soundId,
  ])) as { events: SoundEvent[]; byHand: boolean }[]
  return row ?? { events: [], byHand: false }
}

/** Sets the events of a sound by hand; they stay when it is indexed again unless its content changes. */
export async function setEvents(
  db: DataSource,
  soundId: string,
  events: readonly SoundEvent[],
  byHand: boolean,
): Promise<void> {
  await db.query(
    'INSERT INTO sound_events (sound_id, events, by_hand) VALUES ($1, $2, $3) ON CONFLICT (sound_id) DO UPDATE SET events = excluded.events, by_hand = excluded.by_hand',
    [soundId, JSON.stringify(events), byHand],
  )
  await db.query('UPDATE sound SET events = $2 WHERE id = $1', [soundId, events.length])
}

/** Where a sound is placed, the newest first. */
export async function usesOf(db: DataSource, soundId: string): Promise<SoundUse[]> {
  return (await db.query(
    `SELECT r.reel_id AS "reelId", f.data->>'show' AS show, f.data->>'name' AS reel, f.data->>'rate' AS rate, (f.data->>'firstFrame')::int AS "firstFrame",
       (r.data->>'start')::float8 AS start, coalesce(q.data->>'words', '') AS cue
     FROM record r JOIN record f ON f.reel_id = r.reel_id AND f.kind = 'reel' LEFT JOIN record q ON q.reel_id = r.reel_id AND q.id = r.data->>'cueId'
     WHERE r.kind = 'clip' AND r.data->>'soundId' = $1 ORDER BY r.reel_id, 6 LIMIT 200`,
    [soundId],
  )) as SoundUse[]
}
