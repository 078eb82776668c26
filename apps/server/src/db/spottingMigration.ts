import type { MigrationInterface, QueryRunner } from 'typeorm'
import { growRecords } from './growRecords.js'

const CUE = `'{"scene": "", "perspective": "unsaid"}'::jsonb`
const REEL = `'{"company": "", "nameRule": "{show}_{reel}_{date}_{function}"}'::jsonb`

const UP = [
  ...growRecords(`WHEN 'cue' THEN ${CUE} || record WHEN 'reel' THEN ${REEL} || record`),
  // Every reel that has a picture gets its first version of it, by a change of its log like any other:
  // a reel as it was is folded from the log, which therefore has to hold every record.
  `INSERT INTO change (reel_id, seq, change_id, author, at, role, target, label, change)
     SELECT r.reel_id, l.seq + 1, gen_random_uuid(), 'Yodel', now(), 'do', NULL, 'Picture ' || p.name,
       jsonb_build_object('label', 'Picture ' || p.name, 'updated', '[]'::jsonb, 'removed', '[]'::jsonb, 'added', jsonb_build_array(
         jsonb_build_object('kind', 'cut', 'id', 'cut-' || left(md5(p.id), 16), 'pictureId', p.id, 'name', p.name, 'offset', 0)))
     FROM record r JOIN reel l ON l.id = r.reel_id JOIN picture p ON p.id = r.data->>'pictureId' WHERE r.kind = 'reel'`,
  `INSERT INTO record (reel_id, id, kind, version, data)
     SELECT c.reel_id, c.change->'added'->0->>'id', 'cut', c.seq, c.change->'added'->0 FROM change c JOIN reel l ON l.id = c.reel_id AND c.seq = l.seq + 1`,
  'UPDATE reel SET seq = seq + 1 WHERE EXISTS (SELECT 1 FROM change c WHERE c.reel_id = reel.id AND c.seq = reel.seq + 1)',
  `CREATE TABLE milestone (id uuid PRIMARY KEY, reel_id varchar(64) NOT NULL REFERENCES reel(id) ON DELETE CASCADE, seq int NOT NULL,
     name text NOT NULL, author text NOT NULL, at timestamptz NOT NULL)`,
  `CREATE TABLE watched (reel_id varchar(64) NOT NULL REFERENCES reel(id) ON DELETE CASCADE, person text NOT NULL, category varchar(8) NOT NULL,
     spans jsonb NOT NULL DEFAULT '[]', PRIMARY KEY (reel_id, person, category))`,
]

/** Notes, versions of the picture, milestones, watched stretches; scene and perspective of cues. */
export class SpottingMigration1700000100000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of UP) await runner.query(statement)
  }

  async down(runner: QueryRunner): Promise<void> {
    // The new fields stay in the rows: earlier versions of the schema pass over what they do not know.
    for (const table of ['watched', 'milestone']) await runner.query(`DROP TABLE ${table}`)
    await runner.query(`DELETE FROM record WHERE kind IN ('cut', 'note')`)
  }
}
