import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Pools of sounds that a show is performed with, one on a key. */
export class PoolsMigration1700001200000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE pool (id uuid PRIMARY KEY, show_id varchar(64) NOT NULL REFERENCES show(id) ON DELETE CASCADE,
       key int NOT NULL, body jsonb NOT NULL, UNIQUE (show_id, key))`,
    )
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE pool')
  }
}
