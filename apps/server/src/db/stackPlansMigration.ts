import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Plans by which the stacks of a show are made. The key of a pool is read from its body, so that both are kept alike; pools may go on finding. */
export class StackPlansMigration1700001300000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE stack_plan (id uuid PRIMARY KEY, show_id varchar(64) NOT NULL REFERENCES show(id) ON DELETE CASCADE,
       body jsonb NOT NULL)`,
    )
    await runner.query('CREATE INDEX stack_plan_show ON stack_plan (show_id)')
    await runner.query('ALTER TABLE pool DROP COLUMN key')
    await runner.query(`ALTER TABLE pool ADD COLUMN key int GENERATED ALWAYS AS ((body->>'key')::int) STORED`)
    await runner.query('ALTER TABLE pool ADD UNIQUE (show_id, key)')
    await runner.query(`UPDATE pool SET body = '{"live": ""}'::jsonb || body`)
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE stack_plan')
    await runner.query(`UPDATE pool SET body = body - 'live'`)
    await runner.query('ALTER TABLE pool ALTER COLUMN key DROP EXPRESSION')
    await runner.query('ALTER TABLE pool ALTER COLUMN key SET NOT NULL')
  }
}
