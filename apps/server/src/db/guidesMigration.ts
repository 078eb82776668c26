import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Every sound track of a movie is a guide; and the timecode at which its file begins. */
export class GuidesMigration1700000800000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      "ALTER TABLE picture ADD COLUMN start text, ADD COLUMN tracks jsonb NOT NULL DEFAULT '[]', ADD COLUMN heard jsonb NOT NULL DEFAULT '[]', ADD COLUMN drawn int NOT NULL DEFAULT 0",
    )
    // Until now it was the first, as two channels.
    await runner.query(
      `UPDATE picture SET heard = '[0]', tracks = jsonb_build_array(jsonb_build_object(
         'stream', 0, 'channel', NULL, 'channels', 2, 'isWide', false, 'name', '', 'length', guide, 'silent', false, 'problem', ''))
       WHERE has_sound`,
    )
    await runner.query('ALTER TABLE picture DROP COLUMN guide, DROP COLUMN has_sound')
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(
      'ALTER TABLE picture ADD COLUMN has_sound boolean NOT NULL DEFAULT false, ADD COLUMN guide float8 NOT NULL DEFAULT 0',
    )
    await runner.query(
      "UPDATE picture SET has_sound = true, guide = (tracks->0->>'length')::float8 WHERE jsonb_array_length(tracks) > 0",
    )
    await runner.query(
      'ALTER TABLE picture DROP COLUMN start, DROP COLUMN tracks, DROP COLUMN heard, DROP COLUMN drawn',
    )
  }
}
