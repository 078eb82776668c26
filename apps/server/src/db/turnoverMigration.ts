import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Turnovers as they left, and the recipes of shows. */
export class TurnoverMigration1700000600000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE turnover (
      id varchar(64) PRIMARY KEY,
      reel_id varchar(64) NOT NULL REFERENCES reel (id) ON DELETE CASCADE,
      number int NOT NULL,
      seq int NOT NULL,
      name text NOT NULL,
      author text NOT NULL,
      at timestamptz NOT NULL,
      recipe jsonb NOT NULL,
      findings jsonb NOT NULL,
      measured jsonb,
      remarks jsonb NOT NULL,
      files jsonb NOT NULL,
      UNIQUE (reel_id, number))`)
    await runner.query(`CREATE TABLE recipe (
      id varchar(64) PRIMARY KEY,
      show_id varchar(64) NOT NULL REFERENCES show (id) ON DELETE CASCADE,
      recipe jsonb NOT NULL)`)
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE recipe')
    await runner.query('DROP TABLE turnover')
  }
}
