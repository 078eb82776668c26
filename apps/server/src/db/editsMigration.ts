import type { MigrationInterface, QueryRunner } from 'typeorm'
import { growRecords } from './growRecords.js'

/** Groups and locks of clips. */
export class EditsMigration1700000300000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of growRecords(`WHEN 'clip' THEN '{"group": "", "locked": false}'::jsonb || record`))
      await runner.query(statement)
  }

  /** Older versions of the records' form pass over fields they don't know. */
  async down(): Promise<void> {}
}
