import type { MigrationInterface, QueryRunner } from 'typeorm'

/** When the file of a recording was last found to hold something else; when the first frame of a movie is shown, and what is said of the movie. */
export class FilesMigration1700000700000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE sound ADD COLUMN altered timestamptz')
    await runner.query(
      "ALTER TABLE picture ADD COLUMN first_time float8, ADD COLUMN remark text NOT NULL DEFAULT ''",
    )
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE picture DROP COLUMN first_time, DROP COLUMN remark')
    await runner.query('ALTER TABLE sound DROP COLUMN altered')
  }
}
