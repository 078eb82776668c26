import type { MigrationInterface, QueryRunner } from 'typeorm'

// As jsonb writes them: \u0001 to \u001f but tab and line breaks, and \u007f to \u009f as they are.
const ESCAPED = String.raw`(?<!\\)\\u00(0[1-8bBcCeEfF]|1[0-9a-fA-F])`
const RAW = String.raw`[\u007f-\u009f]`

/** Takes control characters out of records and the log: since they are refused where they come in, nothing that was stored may hold any. */
export class PlainTextMigration1700000500000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const [table, column] of [
      ['record', 'data'],
      ['change', 'change'],
    ]) {
      await runner.query(
        `UPDATE ${table} SET ${column} = regexp_replace(regexp_replace(${column}::text, $1, '', 'g'), $2, '', 'g')::jsonb
         WHERE ${column}::text ~ $1 OR ${column}::text ~ $2`,
        [ESCAPED, RAW],
      )
    }
    await runner.query(`UPDATE change SET label = regexp_replace(label, $1, '', 'g') WHERE label ~ $1`, [
      String.raw`[\u0001-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f]`,
    ])
  }

  /** What was taken out is not worth having back. */
  async down(): Promise<void> {}
}
