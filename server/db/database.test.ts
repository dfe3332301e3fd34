import { copyFileSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, test } from '@jest/globals'
import Sqlite from 'better-sqlite3'
import { openStore } from './database.ts'
import { readBooking, factsOfClient } from './clientStore.ts'
import { readLetters } from './letterStore.ts'
import { readSequenceVersions } from './settingsStore.ts'
import { readQueries } from './queryFiles.ts'
import { testFolder, writeExampleBusiness } from '../testing/seed.ts'

function migrated(): Sqlite.Database {
  const folder = testFolder()
  openStore(folder).close()
  const database = new Sqlite(join(folder, 'vorfreude.db'))
  database.pragma('foreign_keys = ON')
  return database
}

describe('the queries', () => {
  const database = migrated()
  const queries = readQueries()

  test('have names of their own', () => {
    expect(new Set(queries.map(({ name }) => name)).size).toBe(queries.length)
    expect(queries.length).toBeGreaterThan(50)
  })

  test.each(queries.map(({ name, sql }) => [name, sql]))('%s can be prepared', (_, sql) => {
    expect(() => database.prepare(sql)).not.toThrow()
  })

  /** Tables a person fills by hand: they stay short. */
  const short = [
    'business',
    'letters',
    'own_words',
    'passages',
    'people',
    'sequence_designs',
    'sequence_versions',
    'sequences',
    'q',
    'services',
    'sessions',
    'variations',
  ]
  /** Indexes of what is open only: walking one in order, up to a limit, is what they are for. */
  const ofFew =
    /USING (COVERING )?INDEX (sends_(due|in_trouble|claimed|waiting|by_last_chance)|clients_held_back|tasks_to_do|rollouts_under_way)/
  const unstored = /^SCAN (\w+ VIRTUAL TABLE|json_each|CONSTANT ROW|\(subquery|month|found|merged|mergedTo)/

  function scansOf(sql: string): readonly string[] {
    const names = [...sql.matchAll(/@(\w+)/g)].map(([, name]) => [name, null])
    const plan = database.prepare(`EXPLAIN QUERY PLAN ${sql}`).all(Object.fromEntries(names)) as {
      detail: string
    }[]
    return plan
      .map(({ detail }) => detail)
      .filter((detail) => detail.startsWith('SCAN') && !unstored.test(detail) && !ofFew.test(detail))
      .filter((detail) => !short.includes(detail.split(' ')[1] ?? ''))
  }

  test.each(queries.map(({ name, sql, whole }) => [name, sql, whole] as const))(
    '%s walks no whole table, or says why',
    (_, sql, whole) => {
      if (whole === null) expect(scansOf(sql)).toEqual([])
      else expect(scansOf(sql)).not.toEqual([])
    },
  )
})

describe('a database of the first version', () => {
  /** What the first version had written for a client with a booking that settles, and a reminder that went. */
  function ofFirstVersion(): string {
    const folder = testFolder()
    const database = new Sqlite(join(folder, 'vorfreude.db'))
    database.exec(readFileSync(new URL('./migrations/001_start.sql', import.meta.url), 'utf8'))
    database.exec(`
      INSERT INTO services VALUES ('sv_1', 'Lesson', '', NULL, 60, 4, 1);
      INSERT INTO clients VALUES ('cl_1', 'Oona', NULL, 'en', 1, 1, 0, 1);
      INSERT INTO contacts VALUES ('ct_1', 'cl_1', 0, 'Oona', '', 'oona@siltanen.example', '', 1);
      INSERT INTO bookings VALUES ('bk_1', 'cl_1', 'sv_1', NULL, 'confirmed', 100, 200, 1, 1, '[]', '{"confirmed":1}', 1,
        '{"since":5,"until":9,"from":{"status":"confirmed","startAt":90,"endAt":190}}', 1);
      INSERT INTO letters VALUES ('lt_1', 'Soon', 'before', '[{"kind":"text","text":"Soon"}]', '[{"kind":"facts"}]', 1);
      INSERT INTO sequences VALUES ('sq_1', 'Before', 'live', 0, 1);
      INSERT INTO sequence_versions VALUES ('sq_1', 1, '{"on":"booking confirmed"}',
        '[{"kind":"mail","id":"st_1","letterId":"lt_1","purpose":"reminder","timing":{"kind":"at once"},"recipients":"all contacts"}]', '[]');
      INSERT INTO runs VALUES ('ru_1', 'sq_1', 1, 'cl_1', 'booking', 'bk_1', 'running', 1, NULL, NULL);
      INSERT INTO sends (id, run_id, sequence_id, sequence_version, step_id, occurrence, anchor_value, contact_id, client_id,
        subject_kind, subject_id, letter_id, purpose, state, due_at, trace_json, message_id, attempts, sent_at, state_since)
        VALUES ('sd_1', 'ru_1', 'sq_1', 1, 'st_1', 0, '', 'ct_1', 'cl_1', 'booking', 'bk_1', 'lt_1', 'reminder', 'sent', 1,
        '[]', 'm', 1, 1, 1);
      INSERT INTO messages VALUES ('sd_1', 'Soon', x'00', '250 ok');
      INSERT INTO due_moments VALUES ('settle ends', 'bk_1', 9);
      PRAGMA user_version = 1;`)
    database.close()
    return folder
  }

  test('is brought up to date with all that is in it, after a backup', () => {
    const folder = ofFirstVersion()
    const store = openStore(folder)
    const { statements } = store
    expect(readBooking(statements, 'bk_1')).toMatchObject({
      told: { startAt: 100, endAt: 200, since: 1 },
      history: { dueAgainSince: 1, nearby: [], undone: [] },
      settling: { from: { startAt: 90, timesSetAt: 1, statusAt: { confirmed: 1 } } },
    })
    expect(factsOfClient(statements, 'cl_1')).toMatchObject({
      runs: [{ startedOn: 'booking confirmed', branches: [] }],
      sends: [{ recipientId: 'ct_1', stepKind: 'mail', state: 'sent' }],
    })
    expect(readSequenceVersions(statements)).toMatchObject([
      { steps: [{ recipients: [{ to: 'all contacts', letterId: null }] }] },
    ])
    expect(readLetters(statements)).toMatchObject([
      { name: 'Soon', class: 'service', sections: [{ id: 's0', kind: 'facts' }], isStarter: false },
    ])
    expect(statements.one('readMessage', { sendId: 'sd_1' })).toMatchObject({ answer: '250 ok' })
    expect(statements.one('earliestDueMoment', { until: 50, kinds: '' })).toMatchObject({
      clientId: 'cl_1',
    })
    store.close()
    const backup = new Sqlite(join(folder, 'vorfreude.db.before-002.1'))
    expect(backup.pragma('user_version', { simple: true })).toBe(1)
    backup.close()
  })
})

test('a business that was there before keeps its e-mails for ever until somebody says otherwise, a new one for two years', () => {
  const folder = testFolder()
  const before = openStore(folder)
  before.transaction(() => writeExampleBusiness(before.statements))
  expect(before.statements.one('readSourcesKept')).toEqual({ months: 24 })
  before.close()
  const database = new Sqlite(join(folder, 'vorfreude.db'))
  // As the version before left it.
  database.exec(`DROP INDEX messages_unpacked; DROP INDEX sends_of_client_by_time;
    ALTER TABLE messages DROP COLUMN is_packed; ALTER TABLE messages DROP COLUMN text;
    ALTER TABLE business DROP COLUMN sources_kept_months; DROP TABLE letter_drafts;
    DROP INDEX clients_by_language; ALTER TABLE passages DROP COLUMN translations_json;
    ALTER TABLE sends DROP COLUMN approved_words_json;
    DROP INDEX variations_of_service; DROP INDEX enquiries_of_service; DROP INDEX contacts_by_address;
    ALTER TABLE services DROP COLUMN offer_json; ALTER TABLE services DROP COLUMN revision;
    ALTER TABLE business DROP COLUMN revision; ALTER TABLE bookings DROP COLUMN answers_json;
    ALTER TABLE bookings DROP COLUMN cancellation_json; ALTER TABLE bookings DROP COLUMN people_json;
    ALTER TABLE bookings DROP COLUMN own_json; DROP TABLE own_statuses;
    DROP INDEX bookings_brought_in; ALTER TABLE bookings DROP COLUMN brought_in_as;
    ALTER TABLE bookings DROP COLUMN price_cents; DROP TABLE calendar_feeds; DROP TABLE mail_account;
    ALTER TABLE runs DROP COLUMN held_json;
    DROP INDEX enquiries_of_pipeline; DROP INDEX enquiries_of_booking; DROP INDEX enquiries_by_deadline;
    DROP TABLE pipelines; DROP TABLE one_press_moves; DROP TABLE pressed_moves; DROP TABLE form_receipts; DROP TABLE form_versions; DROP TABLE forms; DROP TABLE signings; DROP TABLE documents;
    ALTER TABLE enquiries DROP COLUMN pipeline_id; ALTER TABLE enquiries DROP COLUMN what;
    ALTER TABLE enquiries DROP COLUMN party_size; ALTER TABLE enquiries DROP COLUMN budget_cents;
    ALTER TABLE enquiries DROP COLUMN source; ALTER TABLE enquiries DROP COLUMN answers_json;
    ALTER TABLE enquiries DROP COLUMN contact_ids_json; ALTER TABLE enquiries DROP COLUMN lost_reason; ALTER TABLE enquiries DROP COLUMN booking_id;
    ALTER TABLE enquiries DROP COLUMN revision;
    DROP TABLE message_links; DROP TABLE visits; DROP TABLE unnoticed_clients;
    DROP TABLE incoming_mailboxes; DROP TABLE mailbox_positions; DROP TABLE mailbox_old;
    DROP TABLE written_answers; DROP TABLE incoming; DROP TABLE undelivered;
    DROP TABLE further_accounts; DROP INDEX sends_through; DROP INDEX sends_to_go_through;
    ALTER TABLE sends DROP COLUMN through;
    DROP TABLE ways_in; DROP TABLE second_factors; DROP TABLE recovery_words;
    ALTER TABLE people DROP COLUMN reply_to; ALTER TABLE people DROP COLUMN signature_json;
    ALTER TABLE people DROP COLUMN away_json; ALTER TABLE people DROP COLUMN handed_to_id;
    DROP TABLE web_calls; DROP TABLE api_keys; DROP INDEX due_moments_of_client; DROP TABLE client_merges; DROP TABLE imported_clients; DROP TABLE client_imports; DROP INDEX rollout_clients_of_client;
    ALTER TABLE people DROP COLUMN hours_json; ALTER TABLE people DROP COLUMN revision;
    DROP INDEX invoices_by_number;
    ALTER TABLE invoices DROP COLUMN number; ALTER TABLE invoices DROP COLUMN reason;
    ALTER TABLE invoices DROP COLUMN payments_json; ALTER TABLE invoices DROP COLUMN voided_at; PRAGMA user_version = 11;`)
  database.close()
  const after = openStore(folder)
  expect(after.statements.one('readSourcesKept')).toEqual({ months: null })
  after.close()
})

describe('the database', () => {
  test('has no list of states or subjects of its own: a new one needs no table made anew', () => {
    const database = migrated()
    const lists = database
      .prepare(
        "SELECT name FROM sqlite_schema WHERE sql LIKE '%CHECK (state IN (''expected''%' OR sql LIKE '%CHECK (subject_kind%'",
      )
      .all()
    expect(lists).toEqual([])
    expect(database.pragma('integrity_check', { simple: true })).toBe('ok')
    database.close()
  })

  test('keeps events for ever as they are', () => {
    const database = migrated()
    database.exec(
      "INSERT INTO events (id, at, kind, name, sentence) VALUES ('ev_1', 0, 'client added', '', 'x')",
    )
    expect(() => database.exec("UPDATE events SET sentence = 'y'")).toThrow('events are never changed')
    expect(() => database.exec('DELETE FROM events')).toThrow('events are never deleted')
  })

  test('takes no second send with one key, whatever the state of the first', () => {
    const database = migrated()
    database.pragma('foreign_keys = OFF')
    const insert = (id: string, state: string) =>
      database
        .prepare(
          `INSERT INTO sends (id, run_id, sequence_id, sequence_version, step_id, step_kind, occurrence, anchor_value,
            recipient_id, client_id, subject_kind, subject_id, letter_id, purpose, state, trace_json, message_id,
            decision_json, attempts, state_since)
           VALUES (?, 'ru_1', 'sq_1', 1, 'st_1', 'mail', 0, '5', 'ct_1', 'cl_1', 'booking', 'bk_1', 'lt_1', 'reminder',
            ?, '[]', 'm', '{}', 0, 0)`,
        )
        .run(id, state)
    insert('sd_1', 'cancelled')
    expect(() => insert('sd_2', 'ready')).toThrow('UNIQUE')
  })

  test('is opened by one process at a time', () => {
    const folder = testFolder()
    const store = openStore(folder)
    expect(() => openStore(folder)).toThrow('already running')
    store.close()
    openStore(folder).close()
  })

  test('knows when it is a copy', () => {
    const folder = testFolder()
    const original = openStore(folder)
    original.transaction(() => writeExampleBusiness(original.statements))
    expect(original.isCopy).toBe(false)
    original.close()
    const again = openStore(folder)
    expect(again.isCopy).toBe(false)
    again.close()
    const elsewhere = join(testFolder(), 'restored')
    mkdirSync(elsewhere)
    copyFileSync(join(folder, 'vorfreude.db'), join(elsewhere, 'vorfreude.db'))
    const copy = openStore(elsewhere)
    expect(copy.isCopy).toBe(true)
    copy.close()
  })

  test('of a newer version is refused', () => {
    const folder = testFolder()
    openStore(folder).close()
    const database = new Sqlite(join(folder, 'vorfreude.db'))
    database.pragma('user_version = 999')
    database.close()
    expect(() => openStore(folder)).toThrow('newer version')
  })

  test('cannot lie where a file is', () => {
    const file = join(testFolder(), 'file')
    writeFileSync(file, '')
    expect(() => openStore(join(file, 'data'))).toThrow('cannot be written to')
  })

  test('takes a whole transaction or nothing of it', () => {
    const store = openStore(testFolder())
    expect(() =>
      store.transaction(() => {
        store.statements.run('writeMeta', { key: 'half', value: 'written' })
        throw new Error('stop')
      }),
    ).toThrow('stop')
    expect(store.statements.one('readMeta', { key: 'half' })).toBeUndefined()
    store.close()
  })
})
