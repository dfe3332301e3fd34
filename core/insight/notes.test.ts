import { describe, expect, test } from '@jest/globals'
import { at } from '../rehearsal/exampleBusiness.ts'
import { realZones } from '../time/realZones.ts'
import { lastChanceNote, morningNote, type NotedMessage } from './notes.ts'

const zone = realZones.zone('Europe/Berlin')
const moment = (local: string) => at(realZones, 'Europe/Berlin', local)
const now = moment('2026-05-14 07:30')
const url = 'http://127.0.0.1:4321/desk'
const message = (clientName: string, lastChanceAt: number | null, trouble = ''): NotedMessage => ({
  action: 'What to wear',
  clientName,
  lastChanceAt,
  trouble,
})

describe('the morning note', () => {
  test('says what expires today first, then what waits, what went wrong, what is to be done', () => {
    const note = morningNote(
      {
        waiting: [message('Oona', moment('2026-05-14 18:00')), message('Tomasz', moment('2026-05-16 20:00'))],
        trouble: [message('Milena', null, 'It was refused.')],
        tasks: [{ title: 'Call back', clientName: 'Jules' }],
      },
      zone,
      now,
      url,
    )
    expect(note?.subject).toBe('This morning: 2 wait for you, 1 expires today, 1 went wrong, 1 thing to do')
    expect(note?.text).toBe(
      [
        'Last chance today',
        '- 18:00  What to wear to Oona',
        '',
        'Waiting for you',
        '- What to wear to Tomasz, last chance Sat 16 May 2026, 20:00',
        '',
        'Went wrong',
        '- What to wear to Milena: It was refused.',
        '',
        'To do today',
        '- Call back (Jules)',
        '',
        `Everything stands on the Desk: ${url}`,
        '',
      ].join('\n'),
    )
  })

  test('a last chance a minute after midnight is not today’s', () => {
    const waiting = [message('Oona', moment('2026-05-15 00:01')), message('Any', null)]
    const note = morningNote({ waiting, trouble: [], tasks: [] }, zone, now, url)
    expect(note?.subject).toBe('This morning: 2 wait for you')
    expect(note?.text).not.toContain('Last chance today')
  })

  test('is none where nothing needs anybody', () => {
    expect(morningNote({ waiting: [], trouble: [], tasks: [] }, zone, now, url)).toBeNull()
  })
})

test('the note at once names message, client and moment', () => {
  const note = lastChanceNote(message('Oona', moment('2026-05-14 18:00')), zone, url)
  expect(note.subject).toBe('Last chance 18:00: What to wear to Oona')
  expect(note.text).toContain('After Thu 14 May 2026, 18:00 it can no longer go.')
})
