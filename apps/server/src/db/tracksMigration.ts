import type { MigrationInterface, QueryRunner } from 'typeorm'
import { growRecords } from './growRecords.js'

/** Ink, width, folder and printed column of tracks; bends of rides. */
export class TracksMigration1700000400000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    const track = `'{"ink": "category", "width": "stereo", "folder": "", "column": 0}'::jsonb`
    for (const statement of growRecords(
      `WHEN 'track' THEN ${track} || record WHEN 'ride' THEN '{"bend": "straight"}'::jsonb || record`,
    ))
      await runner.query(statement)
  }

  /** Older versions of the records' form pass over fields they don't know. */
  async down(): Promise<void> {}
}
