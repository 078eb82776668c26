/**
 * Statements that give records new fields, in the rows and in every change of the log, so that what was done before can still be undone.
 *
 * @param cases - `WHEN 'kind' THEN …` of the expression that makes a grown `record` (jsonb) from the old one.
 */
export function growRecords(cases: string): string[] {
  return [
    `CREATE OR REPLACE FUNCTION pg_temp.grown(record jsonb) RETURNS jsonb LANGUAGE sql AS $$ SELECT CASE record->>'kind' ${cases} ELSE record END $$`,
    `CREATE OR REPLACE FUNCTION pg_temp.grown_all(records jsonb) RETURNS jsonb LANGUAGE sql AS $$
       SELECT coalesce(jsonb_agg(pg_temp.grown(r) ORDER BY n), '[]') FROM jsonb_array_elements(records) WITH ORDINALITY AS t(r, n) $$`,
    `UPDATE record SET data = pg_temp.grown(data) WHERE data <> pg_temp.grown(data)`,
    `UPDATE change SET change = change || jsonb_build_object(
       'added', pg_temp.grown_all(change->'added'), 'removed', pg_temp.grown_all(change->'removed'),
       'updated', (SELECT coalesce(jsonb_agg(pg_temp.grown_all(pair) ORDER BY n), '[]') FROM jsonb_array_elements(change->'updated') WITH ORDINALITY AS t(pair, n)))`,
  ]
}
