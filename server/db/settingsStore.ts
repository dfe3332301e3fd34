import { business, person, service, type Business, type Person, type Service } from '#core/model/business.ts'
import { letter, type Letter } from '#core/model/letter.ts'
import { sequence, sequenceVersion, type Sequence, type SequenceVersion } from '#core/model/sequence.ts'
import { stepFault } from '#core/sequences/span.ts'
import { asJson, flag, fromJson, isSet } from './columns.ts'
import type { Statements } from './statements.ts'

export function readBusiness(statements: Statements): Business | null {
  const row = statements.one('readBusiness')
  if (!row) return null
  const { sendingHoursJson, officeHoursJson, holidayCountry, holidaySubdivision, ...plain } = row
  return business.strip().parse({
    ...plain,
    sendingHours: fromJson(sendingHoursJson),
    officeHours: fromJson(officeHoursJson),
    holidayRegion: { country: holidayCountry, subdivision: holidaySubdivision },
  })
}

export function writeBusiness(
  statements: Statements,
  { sendingHours, officeHours, holidayRegion, ...plain }: Business,
) {
  statements.run('writeBusiness', {
    ...plain,
    sendingHoursJson: asJson(sendingHours),
    officeHoursJson: asJson(officeHours),
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

export function readLetters(statements: Statements): Letter[] {
  return statements
    .all('allLetters')
    .map(({ subjectJson, sectionsJson, ...plain }) =>
      letter.parse({ ...plain, subject: fromJson(subjectJson), sections: fromJson(sectionsJson) }),
    )
}

export function addLetter(statements: Statements, { subject, sections, ...plain }: Letter) {
  statements.run('insertLetter', { ...plain, subjectJson: asJson(subject), sectionsJson: asJson(sections) })
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

export function addSequence(statements: Statements, added: Sequence, version: SequenceVersion) {
  const { start, steps, stops, ...plain } = version
  const fault = steps.map(stepFault).find((sentence) => sentence !== null)
  if (fault) throw new RangeError(`Sequence ${added.name}: ${fault}`)
  statements.run('insertSequence', added)
  statements.run('insertSequenceVersion', {
    ...plain,
    startJson: asJson(start),
    stepsJson: asJson(steps),
    stopsJson: asJson(stops),
  })
}
