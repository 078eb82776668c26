import type { MigrationInterface, QueryRunner } from 'typeorm'
import { growRecords } from './growRecords.js'

const STILL = `'{"runUp": 0, "runDown": 0, "passSpeed": 0, "passDistance": 5}'::jsonb`

/** How a clip moves: evenly and not at all, for every clip there was. */
export class MovementMigration1700001400000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const statement of growRecords(`WHEN 'clip' THEN ${STILL} || record`)) await runner.query(statement)
  }

  async down(runner: QueryRunner): Promise<void> {
    const fields = `'{runUp,runDown,passSpeed,passDistance}'::text[]`
    for (const statement of growRecords(`WHEN 'clip' THEN record - ${fields}`)) await runner.query(statement)
  }
}
