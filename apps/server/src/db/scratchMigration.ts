import type { MigrationInterface, QueryRunner } from 'typeorm'
import { growRecords } from './growRecords.js'

/** No clip that there was is a scratch voice, or has treatment of its own; no candidate is a take. */
export class ScratchMigration1700001600000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of growRecords(
      `WHEN 'clip' THEN '{"scratch": "", "treatment": ""}'::jsonb || record
       WHEN 'candidate' THEN '{"take": 0}'::jsonb || record`,
    ))
      await runner.query(statement)
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const statement of growRecords(
      `WHEN 'clip' THEN record - '{scratch,treatment}'::text[] WHEN 'candidate' THEN record - 'take'`,
    ))
      await runner.query(statement)
  }
}
