import type { MigrationInterface, QueryRunner } from 'typeorm'

/** When the files of a turnover were thrown away, to have their room back. */
export class ClearedMigration1700000900000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE turnover ADD COLUMN cleared timestamptz')
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE turnover DROP COLUMN cleared')
  }
}
