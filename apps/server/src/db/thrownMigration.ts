import type { MigrationInterface, QueryRunner } from 'typeorm'

/** When a reel was thrown away, and by whom; it can be brought back for a while. */
export class ThrownMigration1700001100000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE reel ADD COLUMN thrown timestamptz, ADD COLUMN thrown_by text')
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE reel DROP COLUMN thrown, DROP COLUMN thrown_by')
  }
}
