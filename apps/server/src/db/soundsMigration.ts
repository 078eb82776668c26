import type { MigrationInterface, QueryRunner } from 'typeorm'
import { growRecords } from './growRecords.js'

// How a clip is played: new in every clip of every row and of the log.
const CLIP = `'{"speed": 1, "keepPitch": false, "reverse": false, "sides": "kept"}'::jsonb`

const UP = [
  ...growRecords(`WHEN 'clip' THEN ${CLIP} || record`),
  'DROP INDEX sound_names',
  'DROP INDEX sound_browse',
  'ALTER TABLE sound DROP COLUMN search, DROP COLUMN words',
  'DROP TEXT SEARCH CONFIGURATION yodel',
  // Names in the order that people count in: 2 before 10.
  `CREATE COLLATION yodel_names (provider = icu, locale = 'und-u-kn-true')`,
  `ALTER TABLE sound
     ALTER COLUMN name TYPE text COLLATE yodel_names,
     ADD content text NOT NULL DEFAULT '', ADD size float8 NOT NULL DEFAULT 0,
     ADD tags text NOT NULL DEFAULT '', ADD note text NOT NULL DEFAULT '', ADD rating int NOT NULL DEFAULT 0,
     ADD licence_from varchar(8) NOT NULL DEFAULT 'file', ADD source_from varchar(8) NOT NULL DEFAULT 'file', ADD category_from varchar(8) NOT NULL DEFAULT 'file',
     ADD added timestamptz(3) NOT NULL DEFAULT now(), ADD standing int NOT NULL DEFAULT 0,
     ADD measured int NOT NULL DEFAULT 0, ADD loudness real NOT NULL DEFAULT -70, ADD true_peak real NOT NULL DEFAULT -144,
     ADD weight real NOT NULL DEFAULT 0, ADD brightness real NOT NULL DEFAULT 0, ADD bite real NOT NULL DEFAULT 0, ADD noisiness real NOT NULL DEFAULT 0,
     ADD pitch real NOT NULL DEFAULT 0, ADD events int NOT NULL DEFAULT 0,
     ADD search tsvector NOT NULL DEFAULT '', ADD seq bigserial,
     ADD sampled boolean NOT NULL GENERATED ALWAYS AS (hashtext(id) & 15 = 0) STORED, ADD sampled_few boolean NOT NULL GENERATED ALWAYS AS (hashtext(id) & 255 = 0) STORED`,
  // What was indexed before is read again: it has no vector and no qualities yet.
  `UPDATE sound SET fingerprint = ''`,
  'CREATE INDEX sound_search ON sound USING gin (search)',
  // Samples of one in 16 and one in 256: what a search of many finds is counted on them.
  'CREATE INDEX sound_sample ON sound USING gin (search) WHERE sampled',
  'CREATE INDEX sound_sample_few ON sound USING gin (search) WHERE sampled_few',
  // The static order that many matches are ranked in, piece by piece; within one standing rows follow each other as they lie on the disk.
  'CREATE INDEX sound_by_standing ON sound (standing, seq)',
  'CREATE INDEX sound_shelf ON sound (shelf_id)',
  'CREATE INDEX sound_content ON sound (content)',
  // One index for each order that results can stand in; the last column breaks ties.
  ...[
    'name',
    'length',
    'loudness',
    'weight',
    'brightness',
    'bite',
    'noisiness',
    'pitch',
    'events',
    'added',
  ].map((column) => `CREATE INDEX sound_by_${column} ON sound (${column}, id)`),
  `CREATE TABLE term (word text PRIMARY KEY, sounds int NOT NULL)`,
  'CREATE INDEX term_prefix ON term (word text_pattern_ops)',
  'CREATE INDEX term_near ON term USING gin (word gin_trgm_ops) WITH (fastupdate = off)',
  `CREATE TABLE sound_events (sound_id varchar(64) PRIMARY KEY REFERENCES sound(id) ON DELETE CASCADE, events jsonb NOT NULL, by_hand boolean NOT NULL DEFAULT false)`,
  'CREATE EXTENSION IF NOT EXISTS cube',
  'CREATE TABLE cell (id int PRIMARY KEY, centre cube NOT NULL)',
  `CREATE TABLE likeness (sound_id varchar(64) PRIMARY KEY REFERENCES sound(id) ON DELETE CASCADE, cell int NOT NULL DEFAULT 0, at cube NOT NULL)`,
  'CREATE INDEX likeness_cell ON likeness (cell)',
  `CREATE TABLE prepared (person text NOT NULL, sound_id varchar(64) NOT NULL REFERENCES sound(id) ON DELETE CASCADE, data jsonb NOT NULL, PRIMARY KEY (person, sound_id))`,
  `CREATE TABLE past_search (person text NOT NULL, reel_id varchar(64) NOT NULL DEFAULT '', cue_id varchar(64) NOT NULL DEFAULT '', query text NOT NULL, at timestamptz NOT NULL,
     PRIMARY KEY (person, reel_id, cue_id, query))`,
  `CREATE TABLE kit (id uuid PRIMARY KEY, name text NOT NULL, owner text NOT NULL, shared boolean NOT NULL DEFAULT false, parent_id uuid REFERENCES kit(id) ON DELETE CASCADE)`,
  `CREATE TABLE kit_sound (kit_id uuid NOT NULL REFERENCES kit(id) ON DELETE CASCADE, sound_id varchar(64) NOT NULL REFERENCES sound(id) ON DELETE CASCADE,
     at timestamptz NOT NULL, PRIMARY KEY (kit_id, sound_id))`,
  `CREATE INDEX record_sounds ON record ((data->>'soundId')) WHERE kind = 'clip'`,
  `ALTER TABLE shelf ADD owner text NOT NULL DEFAULT '', ADD shared boolean NOT NULL DEFAULT true, ADD licence text NOT NULL DEFAULT '', ADD source text NOT NULL DEFAULT '',
     ADD away boolean NOT NULL DEFAULT false, ADD counts jsonb, ADD sounds int NOT NULL DEFAULT 0, ADD watched boolean NOT NULL DEFAULT false`,
]

const DOWN = [
  ...['kit_sound', 'kit', 'past_search', 'prepared', 'likeness', 'cell', 'sound_events', 'term'].map(
    (table) => `DROP TABLE ${table}`,
  ),
  'DROP INDEX record_sounds',
]

/** Search by words and by ear, events, kits, preparation, and what a shelf says of its sounds. */
export class SoundsMigration1700000200000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of UP) await runner.query(statement)
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const statement of DOWN) await runner.query(statement)
  }
}
