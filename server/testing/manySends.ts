import type Sqlite from 'better-sqlite3'

/** Copies of one planned message go to days from tomorrow on, so many a day. */
const aDay = 400

/**
 * Fills a database with copies of its planned messages, a quarter of an hour apart and so many a day, for seeing how lists
 * bear large numbers. They hang on the runs that are there.
 */
export function fillWithSends(database: Sqlite.Database, count: number, from: number) {
  const columns = (database.pragma('table_info(sends)') as { name: string }[]).map(({ name }) => name)
  const taken = new Map([
    ['id', "'sd_many-' || n.value"],
    ['occurrence', '1000 + n.value'],
    [
      'due_at',
      '@from + (n.value / CAST(@aDay AS INTEGER)) * 86400000 + (n.value % CAST(@aDay AS INTEGER)) * 120000',
    ],
    ['message_id', "'<many-' || n.value || '@many.example>'"],
    ['state', "'ready'"],
  ])
  const values = columns.map((name) => taken.get(name) ?? `s.${name}`).join(', ')
  database
    .prepare(
      `WITH RECURSIVE n(value) AS (SELECT 0 UNION ALL SELECT value + 1 FROM n WHERE value + 1 < @count),
        base AS (SELECT *, row_number() OVER (ORDER BY id) - 1 AS place, count(*) OVER () AS total
          FROM sends WHERE state = 'ready' AND sent_at IS NULL)
      INSERT INTO sends (${columns.join(', ')})
      SELECT ${values} FROM n JOIN base s ON s.place = n.value % s.total`,
    )
    .run({ count, from, aDay })
}
