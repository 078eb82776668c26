import type { MigrationInterface, QueryRunner } from 'typeorm'

/** When the file of a recording was last found to hold something else. */
export class AlteredMigration1700000700000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE sound ADD COLUMN altered timestamptz')
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE sound DROP COLUMN altered')
  }
}
