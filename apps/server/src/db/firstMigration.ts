import type { MigrationInterface, QueryRunner } from 'typeorm'

const UP = [
  'CREATE EXTENSION IF NOT EXISTS pg_trgm',
  'CREATE EXTENSION IF NOT EXISTS unaccent',
  // A configuration without stemming: prefixes of a word must find it while it is typed.
  'CREATE TEXT SEARCH CONFIGURATION yodel (COPY = simple)',
  'ALTER TEXT SEARCH CONFIGURATION yodel ALTER MAPPING FOR hword, hword_part, word WITH unaccent, simple',
  `CREATE TABLE show (id varchar(64) PRIMARY KEY, name text NOT NULL DEFAULT '', company text NOT NULL DEFAULT '')`,
  `CREATE TABLE reel (id varchar(64) PRIMARY KEY, show_id varchar(64) NOT NULL REFERENCES show(id), seq int NOT NULL DEFAULT 0)`,
  `CREATE TABLE record (reel_id varchar(64) NOT NULL REFERENCES reel(id) ON DELETE CASCADE, id varchar(64) NOT NULL,
     kind varchar(16) NOT NULL, version int NOT NULL, data jsonb NOT NULL, PRIMARY KEY (reel_id, id))`,
  `CREATE TABLE change (reel_id varchar(64) NOT NULL REFERENCES reel(id) ON DELETE CASCADE, seq int NOT NULL, change_id uuid NOT NULL UNIQUE,
     author text NOT NULL DEFAULT '', at timestamptz NOT NULL, role varchar(8) NOT NULL, target int, label text NOT NULL DEFAULT '',
     change jsonb NOT NULL, PRIMARY KEY (reel_id, seq))`,
  `CREATE TABLE shelf (id varchar(64) PRIMARY KEY, name text NOT NULL DEFAULT '', root text NOT NULL UNIQUE, problems jsonb NOT NULL DEFAULT '[]', job_id varchar(64))`,
  `CREATE TABLE sound (id varchar(64) PRIMARY KEY, shelf_id varchar(64) NOT NULL REFERENCES shelf(id) ON DELETE CASCADE, path text NOT NULL,
     fingerprint text NOT NULL, name text NOT NULL, words text NOT NULL, description text NOT NULL, keywords text NOT NULL, category text NOT NULL,
     licence text NOT NULL, source text NOT NULL, channels int NOT NULL, sample_rate int NOT NULL, bits int, codec text NOT NULL,
     length float8 NOT NULL, sync float8 NOT NULL, peak float8 NOT NULL, missing boolean NOT NULL DEFAULT false, UNIQUE (shelf_id, path),
     search tsvector GENERATED ALWAYS AS (setweight(to_tsvector('yodel', words), 'A') || setweight(to_tsvector('yodel', keywords || ' ' || category), 'B')
       || setweight(to_tsvector('yodel', description), 'C')) STORED)`,
  'CREATE INDEX sound_search ON sound USING gin (search)',
  'CREATE INDEX sound_names ON sound USING gin (words gin_trgm_ops)',
  'CREATE INDEX sound_browse ON sound (name, id)',
  `CREATE TABLE picture (id varchar(64) PRIMARY KEY, name text NOT NULL DEFAULT '', file text NOT NULL, rate text NOT NULL, frames int NOT NULL, width int NOT NULL,
     height int NOT NULL, codec text NOT NULL, variable boolean NOT NULL DEFAULT false, has_sound boolean NOT NULL DEFAULT false, guide float8 NOT NULL DEFAULT 0,
     state varchar(8) NOT NULL, message text NOT NULL DEFAULT '', job_id varchar(64))`,
  `CREATE TABLE job (id varchar(64) PRIMARY KEY, kind text NOT NULL, title text NOT NULL, payload jsonb NOT NULL, state varchar(12) NOT NULL, progress float8 NOT NULL DEFAULT 0,
     message text NOT NULL DEFAULT '', result jsonb, beat_at timestamptz, created_at timestamptz NOT NULL, attempts int NOT NULL DEFAULT 0)`,
  `CREATE INDEX job_open ON job (created_at) WHERE state IN ('waiting', 'running')`,
]

const DOWN = ['job', 'picture', 'sound', 'shelf', 'change', 'record', 'reel', 'show'].map(
  (table) => `DROP TABLE ${table}`,
)

/** Makes the tables, the search configuration and the indexes. */
export class FirstMigration1700000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of UP) await runner.query(statement)
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const statement of [...DOWN, 'DROP TEXT SEARCH CONFIGURATION yodel']) await runner.query(statement)
  }
}
