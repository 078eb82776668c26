import type { MigrationInterface, QueryRunner } from 'typeorm'
import { growRecords } from './growRecords.js'

/** Of which channels of its recording a clip is: of all, for every clip there was. */
export class ChannelsMigration1700001000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of growRecords(`WHEN 'clip' THEN '{"channels": ""}'::jsonb || record`))
      await runner.query(statement)
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const statement of growRecords(`WHEN 'clip' THEN record - 'channels'`)) await runner.query(statement)
  }
}
