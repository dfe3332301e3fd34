import { business, person, service, type Business, type Person, type Service } from '#core/model/business.ts'
import { noteWishes, type NoteWishes } from '#core/model/noteWishes.ts'
import { sequence, sequenceVersion, type Sequence, type SequenceVersion } from '#core/model/sequence.ts'
import { variation, type Variation } from '#core/model/variation.ts'
import { stepsFault } from '#core/sequences/span.ts'
import { asJson, flag, fromJson, isSet } from './columns.ts'
import type { Statements } from './statements.ts'

export function readBusiness(statements: Statements): Business | null {
  const row = statements.one('readBusiness')
  if (!row) return null
  const { sendingHoursJson, officeHoursJson, sharedMailboxJson, allowanceJson, ...others } = row
  const { holidayCountry, holidaySubdivision, ...plain } = others
  return business.strip().parse({
    ...plain,
    sendingHours: fromJson(sendingHoursJson),
    officeHours: fromJson(officeHoursJson),
    sharedMailbox: fromJson(sharedMailboxJson),
    allowance: fromJson(allowanceJson),
    holidayRegion: { country: holidayCountry, subdivision: holidaySubdivision },
  })
}

export function writeBusiness(statements: Statements, written: Business) {
  const { sendingHours, officeHours, holidayRegion, sharedMailbox, allowance, ...plain } = written
  statements.run('writeBusiness', {
    ...plain,
    sendingHoursJson: asJson(sendingHours),
    officeHoursJson: asJson(officeHours),
    sharedMailboxJson: sharedMailbox && asJson(sharedMailbox),
    allowanceJson: asJson(allowance),
    holidayCountry: holidayRegion.country,
    holidaySubdivision: holidayRegion.subdivision,
  })
}

export function readSendingOn(statements: Statements): boolean {
  return isSet(statements.one('readBusiness')?.['isSendingOn'])
}

export function readPeople(statements: Statements): Person[] {
  return statements.all('allPeople').map((row) => person.parse({ ...row, isActive: isSet(row['isActive']) }))
}

/** A person of the team and the notes they want. */
export interface Wishing {
  readonly person: Person
  readonly wishes: NoteWishes
}

export function readNoteWishes(statements: Statements): Wishing[] {
  return statements.all('noteWishes').map(({ notesJson, ...row }) => ({
    person: person.parse({ ...row, isActive: isSet(row['isActive']) }),
    wishes: noteWishes.parse(fromJson(notesJson)),
  }))
}

export function addPerson(statements: Statements, added: Person, passwordHash: string | null) {
  statements.run('insertPerson', { ...added, isActive: flag(added.isActive), passwordHash })
}

export function readServices(statements: Statements): Service[] {
  return statements
    .all('allServices')
    .map((row) => service.parse({ ...row, isActive: isSet(row['isActive']) }))
}

export function addService(statements: Statements, added: Service) {
  statements.run('insertService', { ...added, isActive: flag(added.isActive) })
}

export function readServiceVariations(statements: Statements): Variation[] {
  return statements.all('variationsOfServices').map((row) => variation.parse(fromJson(row['variationJson'])))
}

export function readSequences(statements: Statements): Sequence[] {
  return statements.all('allSequences').map((row) => sequence.parse(row))
}

export function readSequenceVersions(statements: Statements): SequenceVersion[] {
  return statements.all('allSequenceVersions').map(({ startJson, stepsJson, stopsJson, ...plain }) =>
    sequenceVersion.parse({
      ...plain,
      start: fromJson(startJson),
      steps: fromJson(stepsJson),
      stops: fromJson(stopsJson),
    }),
  )
}

export function putSequence(statements: Statements, put: Sequence) {
  statements.run('putSequence', put)
}

export function addSequence(statements: Statements, added: Sequence, version: SequenceVersion) {
  const fault = stepsFault(version.steps)
  if (fault) throw new RangeError(`Sequence ${added.name}: ${fault}`)
  putSequence(statements, added)
  addSequenceVersion(statements, version)
}

export function addSequenceVersion(statements: Statements, version: SequenceVersion) {
  const { start, steps, stops, ...plain } = version
  statements.run('insertSequenceVersion', {
    ...plain,
    startJson: asJson(start),
    stepsJson: asJson(steps),
    stopsJson: asJson(stops),
  })
}
