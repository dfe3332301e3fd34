import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, afterEach, describe, expect, test } from '@jest/globals'
import Sqlite from 'better-sqlite3'
import { dayMs, hourMs } from '#core/time/calendar.ts'
import { openStore, type Store } from '../../db/database.ts'
import { readBack } from '../../db/backup.ts'
import { readBackupWords } from '../../db/sealedFile.ts'
import { restore, RestoreError, restoreCommand } from '../../headless/restore.ts'
import { openPostOfficeFile } from '../../standins/postOffice/file.ts'
import { startPostOfficeHere } from '../../standins/postOffice/start.ts'
import { within } from '../../testing/ownProcess.ts'
import { addBookedClient, call, testFolder, writeExampleBusiness } from '../../testing/seed.ts'
import { smallDisk } from '../../testing/smallDisk.ts'
import { createChanges } from '../changes.ts'
import { openApplication, type RunningApplication } from '../runningApplication.ts'
import { backupName, backupsIn, createBackupKeeping } from './backupKeeping.ts'

const isFull = process.env['VORFREUDE_FULL'] === 'yes'
const startsAt = Date.UTC(2026, 10, 29, 3)
let store: Store | null = null
afterEach(() => {
  store?.close()
  store = null
})

function keepingIn(folder: string, clock = { now: startsAt }) {
  store = openStore(testFolder())
  const { file } = store
  return {
    clock,
    keeping: createBackupKeeping({ file, folder, changes: createChanges(), now: () => clock.now }),
  }
}

describe('backups', () => {
  test('are named by their moment, for nobody else to read, and read back whole', async () => {
    const folder = join(testFolder(), 'further', 'backups')
    const { keeping } = keepingIn(folder)
    // One that was ended in the middle leaves nothing that stays.
    mkdirSync(folder, { recursive: true, mode: 0o700 })
    writeFileSync(join(folder, `${backupName(startsAt - dayMs)}.unfinished`), 'half of it')
    const { backups, trouble } = await keeping.take()
    expect(trouble).toBeNull()
    expect(backups.map(({ name, at }) => [name, at])).toEqual([['vorfreude-2026-11-29T030000Z.db', startsAt]])
    expect(readdirSync(folder)).toEqual([backups[0]?.name])
    expect(statSync(folder).mode & 0o77).toBe(0)
    const copy = join(folder, backups[0]?.name ?? '')
    const version = readBack(copy, (database) => database.pragma('user_version', { simple: true }))
    expect(version).toBe(
      new Sqlite(store?.file ?? '', { readonly: true }).pragma('user_version', { simple: true }),
    )
  })

  test('sealed by words show nothing of what is in them, and open with the same words alone', async () => {
    const folder = testFolder()
    store = openStore(testFolder())
    const { file, statements } = store
    store.transaction(() => writeExampleBusiness(statements))
    const words = 'three blue kites over Sandby'
    const options = { file, folder, changes: createChanges(), now: () => startsAt }
    const keeping = createBackupKeeping({ ...options, words })
    const { backups, trouble, isSealed } = await keeping.take()
    expect([trouble, isSealed, backups.map(({ name, at }) => [name, at])]).toEqual([
      null,
      true,
      [['vorfreude-2026-11-29T030000Z.db.sealed', startsAt]],
    ])
    expect(readdirSync(folder)).toEqual([backups[0]?.name])
    expect(readdirSync(join(file, '..')).filter((name) => name.includes('sealed'))).toEqual([])
    const backup = join(folder, backups[0]?.name ?? '')
    const bytes = readFileSync(backup)
    for (const inside of ['SQLite format', 'Kiteworks', 'CREATE TABLE'])
      expect(bytes.includes(inside)).toBe(false)
    const present = process.env['VORFREUDE_BACKUP_WORDS']
    try {
      const restored = () => {
        const to = join(testFolder(), 'new')
        const said: string[] = []
        return { code: restoreCommand([backup, '--data', to], (line) => void said.push(line)), said, to }
      }
      delete process.env['VORFREUDE_BACKUP_WORDS']
      expect(restored().said.join()).toMatch('is sealed. Set VORFREUDE_BACKUP_WORDS')
      process.env['VORFREUDE_BACKUP_WORDS'] = 'three blue kites over Sandby!'
      const wrong = restored()
      expect([wrong.code, wrong.said.join(), existsSync(wrong.to)]).toEqual([
        1,
        expect.stringContaining('the words do not fit, or the file is damaged. Nothing was written.'),
        false,
      ])
      process.env['VORFREUDE_BACKUP_WORDS'] = words
      const right = restored()
      expect([
        right.code,
        readBack(join(right.to, 'vorfreude.db'), (database) =>
          database.prepare('SELECT name FROM business').pluck().get(),
        ),
      ]).toEqual([0, 'Kiteworks'])
      // Any byte changed, or the end missing, and it does not open.
      for (const spoiled of [
        bytes.subarray(0, -1),
        Buffer.concat([bytes.subarray(0, 5000), Buffer.from([(bytes[5000] ?? 0) ^ 1]), bytes.subarray(5001)]),
        Buffer.from('x'),
        bytes.subarray(0, 40),
      ]) {
        writeFileSync(backup, spoiled)
        const outcome = restored()
        expect([outcome.code, existsSync(outcome.to)]).toEqual([1, false])
      }
    } finally {
      if (present === undefined) delete process.env['VORFREUDE_BACKUP_WORDS']
      else process.env['VORFREUDE_BACKUP_WORDS'] = present
    }
    expect(readBackupWords('kites').ok).toBe(false)
  })

  test('are taken once a day by themselves, and those that are not needed go', async () => {
    const folder = testFolder()
    const { keeping, clock } = keepingIn(folder)
    const other = join(folder, 'notes.txt')
    writeFileSync(other, 'not ours')
    for (let day = 0; day < 12; day += 1) {
      clock.now = startsAt + day * dayMs
      await keeping.take()
    }
    // Of the first five days the newest of a week and of a month.
    expect(backupsIn(folder).length).toBeLessThan(12)
    expect(backupsIn(folder).length).toBeGreaterThanOrEqual(7)
    expect(existsSync(other)).toBe(true)
    keeping.begin()
    await keeping.end()
    // The newest is of this day: it takes none.
    expect(backupsIn(folder)[0]?.at).toBe(clock.now)
    clock.now += dayMs
    keeping.begin()
    await keeping.end()
    expect(backupsIn(folder)[0]?.at).toBe(clock.now)
  })

  test.each([
    ['gone', (folder: string) => writeFileSync(folder, 'a file')],
    ['of a name that a file has', (folder: string) => writeFileSync(folder, '')],
  ])('into a folder that is %s are said to fail, and are tried again', async (_, spoil) => {
    const folder = join(testFolder(), 'backups')
    spoil(folder)
    const { keeping, clock } = keepingIn(folder)
    const { trouble, backups } = await keeping.take()
    expect(trouble).toMatch('is gone or cannot be written to')
    expect(backups).toEqual([])
    rmSync(folder)
    clock.now += hourMs
    keeping.begin()
    await keeping.end()
    expect(keeping.state().trouble).toBeNull()
    expect(backupsIn(folder)).toHaveLength(1)
  })

  const diskFolder = testFolder()
  const disk = smallDisk(diskFolder, '200k')
  afterAll(() => disk?.unmount())
  const onDisk = disk ? test : test.skip
  onDisk('onto a full or a read-only disk are said to fail, and leave nothing half written', async () => {
    const { keeping } = keepingIn(diskFolder)
    expect((await keeping.take()).trouble).toMatch('no room left')
    disk?.makeReadOnly()
    expect((await keeping.take()).trouble).toMatch(/no room left|cannot be written to/)
    expect(readdirSync(diskFolder)).toEqual([])
  })
})

describe('a restore', () => {
  test('refuses what is no backup, and a folder that is not empty, and writes nothing', () => {
    const folder = testFolder()
    const file = join(folder, 'broken.db')
    writeFileSync(file, 'SQLite format 3\0 but not really')
    const target = join(folder, 'new')
    expect(() => restore(file, target, null)).toThrow(RestoreError)
    expect(() => restore(join(folder, 'nothing.db'), target, null)).toThrow('is no whole backup')
    expect(existsSync(target)).toBe(false)
    const said: string[] = []
    expect(restoreCommand([file], (sentence) => said.push(sentence))).toBe(2)
    expect(restoreCommand([file, '--data', folder], (sentence) => said.push(sentence))).toBe(1)
    expect(said[0]).toMatch('./run restore BACKUP --data NEW_FOLDER')
  })

  const clients = isFull ? 200 : 60
  const soonMs = 120_000

  async function open(folder: string, backupFolder: string): Promise<RunningApplication> {
    return await openApplication({
      folder,
      isDemo: false,
      smtpUrl: null,
      backupFolder,
      startPostOffice: startPostOfficeHere,
      onFault: (fault) => {
        throw fault
      },
    })
  }
  const countOf = ({ application }: RunningApplication, states: readonly string[]) =>
    application.store.statements
      .all('listByTime', {
        ...{
          from: 0,
          to: 1e15,
          clientId: null,
          serviceId: null,
          sequenceId: null,
          letterId: null,
          offset: 0,
        },
        statesJson: JSON.stringify(states),
        limit: 10_000,
      })
      .filter((row) => row['purpose'] === 'confirmation').length
  const takenIn = (folder: string) => {
    const file = openPostOfficeFile(join(folder, 'postoffice.db'))
    const ids = Array.from({ length: clients }, (_, index) => file.mailOf(`c${index}@mail.example`)).flat()
    file.close()
    return ids.map(({ messageId }) => messageId)
  }

  test('of a backup taken while messages went sends none of them twice, and lists those it does not know of', async () => {
    const [folder, backupFolder, anew] = [
      testFolder(),
      join(testFolder(), 'backups'),
      join(testFolder(), 'anew'),
    ]
    const first = await open(folder, backupFolder)
    const { store: own, settings } = first.application
    own.transaction(() => writeExampleBusiness(own.statements))
    settings.forget()
    own.statements.run('setSendingOn', { isSendingOn: 1 })
    settings.forget()
    await first.begin()
    await first.backups?.end()
    for (const { name } of backupsIn(backupFolder)) rmSync(join(backupFolder, name))
    for (let index = 0; index < clients; index += 1) {
      addBookedClient(
        first.application,
        first.commands,
        `C${index}`,
        `c${index}@mail.example`,
        5 + (index % 20),
      )
    }
    expect(await within(soonMs, () => countOf(first, ['sent']) > 0)).not.toBeNull()
    const taken = await first.backups?.take()
    expect(taken?.trouble).toBeNull()
    expect(await within(soonMs, () => countOf(first, ['sent']) === clients)).not.toBeNull()
    const went = takenIn(folder)
    expect(new Set(went).size).toBe(clients)
    await first.end()
    const backup = join(backupFolder, taken?.backups[0]?.name ?? '')
    const keys = join(folder, 'keys.json')
    expect(restore(backup, anew, keys)).toMatchObject({ clients, hasKeys: true })
    rmSync(folder, { recursive: true })

    const second = await open(anew, backupFolder)
    await second.begin()
    expect(second.application.settings.required().isSendingOn).toBe(false)
    const known = countOf(second, ['sent'])
    expect(known).toBeLessThan(clients)
    expect(second.commands.setSending(call('setSending'), true).ok).toBe(true)
    await second.pump.settled()
    await second.end()
    const third = await open(anew, backupFolder)
    const listed = countOf(third, ['missed', 'in doubt'])
    await third.end()
    expect(known + listed).toBe(clients)
    expect(takenIn(anew).filter((id) => went.includes(id))).toEqual([])
  })

  test('without its key file says what is lost', () => {
    const folder = testFolder()
    store = openStore(testFolder())
    const backup = join(folder, backupName(startsAt))
    const database = new Sqlite(store.file)
    database.function('folded', { deterministic: true }, (text) => String(text))
    database.prepare('VACUUM INTO ?').run(backup)
    database.close()
    const said: string[] = []
    expect(restoreCommand([backup, '--data', join(folder, 'new')], (sentence) => said.push(sentence))).toBe(0)
    expect(said.join(' ')).toMatch('There is no key file beside it')
    expect(said.join(' ')).toMatch('starts held back')
    expect(
      restoreCommand([backup, '--data', join(folder, 'x'), '--keys', '/nowhere'], (sentence) =>
        said.push(sentence),
      ),
    ).toBe(1)
  })
})
