import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Layers of stack plans say how fast they may be with their pitch kept: those that are there are as fast as they were. */
export class TempoMigration1700001500000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `UPDATE stack_plan SET body = jsonb_set(body, '{layers}',
       (SELECT coalesce(jsonb_agg('{"tempo": [1, 1]}'::jsonb || layer ORDER BY place), '[]')
        FROM jsonb_array_elements(body->'layers') WITH ORDINALITY AS layers(layer, place)))`,
    )
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(
      `UPDATE stack_plan SET body = jsonb_set(body, '{layers}',
       (SELECT coalesce(jsonb_agg(layer - 'tempo' ORDER BY place), '[]')
        FROM jsonb_array_elements(body->'layers') WITH ORDINALITY AS layers(layer, place)))`,
    )
  }
}
