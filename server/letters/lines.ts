import type { LetterLine, LetterView } from '#core/api/letterEndpoints.ts'
import { usesOfLetter } from '#core/engine/commands/letterCommands.ts'
import { plainWords, wordsOfSection } from '#core/letters/plainWords.ts'
import { languages } from '#core/letters/language.ts'
import { missingLanguages, translationsOf } from '#core/letters/translations.ts'
import { passageIdsOf, problemsOf } from '#core/letters/problems.ts'
import { sendingsOf } from '#core/sequences/sendingsOfLetter.ts'
import type { Language } from '#core/model/values.ts'
import type { Letter } from '#core/model/letter.ts'
import { serviceOf, type Settings } from '#core/planning/slice.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'

type Context = LetterView['context']

function ownWordsOf({ application }: RunningApplication, { business, services, people }: Settings): string[] {
  const added = application.store.statements.all('ownWords').map(({ word }) => String(word))
  const house = [business.name, business.senderName, business.postalAddress]
  return [
    ...added,
    ...house,
    ...services.flatMap(({ name, place }) => [name, place]),
    ...people.map(({ name }) => name),
  ]
}

/** What every letter is looked at against alike; read once for all of them. */
export function houseOf(running: RunningApplication): House {
  const { application } = running
  const settings = application.settings.required()
  const clients = application.store.statements.all('clientNames').map(({ name }) => String(name))
  const { statements } = application.store
  return {
    settings,
    clientLanguages: languages.filter((language) => statements.one('anyClientOfLanguage', { language })),
    ownWords: ownWordsOf(running, settings),
    names: [
      ...clients.map((name) => ({ name, whose: 'client' as const })),
      ...settings.people.map(({ name }) => ({ name, whose: 'team' as const })),
    ],
    hasPostalAddress: settings.business.postalAddress.trim() !== '',
  }
}

interface House extends Pick<Context, 'ownWords' | 'names' | 'hasPostalAddress'> {
  readonly settings: Settings
  /** Languages that clients read. */
  readonly clientLanguages: readonly Language[]
}

/** What a letter is looked at against. */
export function contextOf({ settings, ...house }: House, letter: Letter): Context {
  return {
    ...house,
    sendings: [...sendingsOf(settings, letter.id)],
    sisters: settings.letters
      .filter(({ id, moment, isArchived }) => id !== letter.id && moment === letter.moment && !isArchived)
      .map((one) => [...passageIdsOf(one)]),
  }
}

/** How many things in a letter are to be seen to. */
export function problemsIn(house: House, letter: Letter): number {
  return problemsOf(letter, { ...contextOf(house, letter), passages: house.settings.passages }).length
}

/** A letter as the library lists it. */
export function lineOf(house: House, letter: Letter, hasDraft: boolean): LetterLine {
  const { settings } = house
  const { id, name, moment, class: kind, language, isStarter, isArchived, changedAt } = letter
  const services = letter.variants.flatMap(({ scope }) =>
    scope.of === 'service' ? [serviceOf(settings, scope.serviceId).name] : [],
  )
  const translations = translationsOf(letter, settings.passages).map((one) => ({
    language: one.language,
    gaps: one.gaps.length + one.serviceGaps.length,
  }))
  const lines = [letter.subject, letter.preheader, ...letter.sections.flatMap(wordsOfSection)]
  const text = lines.map(plainWords).join(' ')
  const problems = problemsIn(house, letter)
  const flags = { isStarter, isArchived, changedAt, hasDraft }
  return {
    id,
    name,
    moment,
    class: kind,
    language,
    usedBy: [...usesOfLetter(settings, id)],
    services: [...new Set(services)],
    translations,
    missingLanguages: [...missingLanguages(letter, house.clientLanguages)],
    text,
    problems,
    ...flags,
  }
}
