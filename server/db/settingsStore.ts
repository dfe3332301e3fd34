import { business, person, service, type Business, type Person, type Service } from '#core/model/business.ts'
import { noteWishes, type NoteWishes } from '#core/model/noteWishes.ts'
import { ownStatus, type OwnStatus } from '#core/model/ownStatus.ts'
import { pipeline, type Pipeline } from '#core/model/pipeline.ts'
import { sequence, sequenceVersion, type Sequence, type SequenceVersion } from '#core/model/sequence.ts'
import { variation, type Variation } from '#core/model/variation.ts'
import { stepsFault } from '#core/sequences/span.ts'
import { asJson, flag, fromJson, isSet, kept } from './columns.ts'
import type { Statements } from './statements.ts'
import { readRows } from './unreadable.ts'

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
  const { sendingHours, officeHours, holidayRegion, sharedMailbox, allowance, ...plain } = kept(
    business,
    written,
  )
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

function asPerson({ hoursJson, signatureJson, awayJson, ...row }: Record<string, unknown>): Person {
  const parts = { hours: fromJson(hoursJson), signature: fromJson(signatureJson), away: fromJson(awayJson) }
  return person.parse({ ...row, ...parts, isActive: isSet(row['isActive']) })
}

export function readPeople(statements: Statements): Person[] {
  return readRows(statements, 'person', statements.all('allPeople'), asPerson)
}

/** A person of the team and the notes they want. */
export interface Wishing {
  readonly person: Person
  readonly wishes: NoteWishes
}

export function readNoteWishes(statements: Statements): Wishing[] {
  return readRows(statements, 'person', statements.all('noteWishes'), ({ notesJson, ...row }) => ({
    person: asPerson(row),
    wishes: noteWishes.parse(fromJson(notesJson)),
  }))
}

export function addPerson(statements: Statements, added: Person, passwordHash: string | null) {
  statements.run('insertPerson', { ...rowOfPerson(added), passwordHash })
}

function rowOfPerson(put: Person) {
  const { hours, signature, away, ...plain } = kept(person, put)
  const parts = { signatureJson: asJson(signature), awayJson: asJson(away) }
  return { ...plain, ...parts, isActive: flag(put.isActive), hoursJson: hours && asJson(hours) }
}

export function putPerson(statements: Statements, put: Person) {
  statements.run('putPerson', rowOfPerson(put))
}

export function readServices(statements: Statements): Service[] {
  return readRows(statements, 'service', statements.all('allServices'), ({ offerJson, ...row }) =>
    service.parse({ ...row, isActive: isSet(row['isActive']), offer: fromJson(offerJson) }),
  )
}

export function putService(statements: Statements, put: Service) {
  const { offer, ...plain } = kept(service, put)
  statements.run('putService', { ...plain, isActive: flag(put.isActive), offerJson: asJson(offer) })
}

export function readOwnStatuses(statements: Statements): OwnStatus[] {
  return readRows(statements, 'status', statements.all('allOwnStatuses'), ({ ownStatusJson }) =>
    ownStatus.parse(fromJson(ownStatusJson)),
  )
}

export function putOwnStatus(statements: Statements, put: OwnStatus) {
  statements.run('putOwnStatus', { id: put.id, ownStatusJson: asJson(kept(ownStatus, put)) })
}

export function readPipelines(statements: Statements): Pipeline[] {
  return readRows(statements, 'pipeline', statements.all('allPipelines'), ({ pipelineJson }) =>
    pipeline.parse(fromJson(pipelineJson)),
  )
}

export function putPipeline(statements: Statements, put: Pipeline) {
  statements.run('putPipeline', { id: put.id, pipelineJson: asJson(kept(pipeline, put)) })
}

export function readServiceVariations(statements: Statements): Variation[] {
  return readRows(statements, 'variation', statements.all('variationsOfServices'), (row) =>
    variation.parse(fromJson(row['variationJson'])),
  )
}

export function readSequences(statements: Statements): Sequence[] {
  return readRows(statements, 'sequence', statements.all('allSequences'), (row) => sequence.parse(row))
}

export function readSequenceVersions(statements: Statements): SequenceVersion[] {
  const rows = statements.all('allSequenceVersions')
  return readRows(
    statements,
    'version of the sequence',
    rows,
    ({ startJson, stepsJson, stopsJson, ...plain }) =>
      sequenceVersion.parse({
        ...plain,
        start: fromJson(startJson),
        steps: fromJson(stepsJson),
        stops: fromJson(stopsJson),
      }),
  )
}

export function putSequence(statements: Statements, put: Sequence) {
  statements.run('putSequence', kept(sequence, put))
}

export function addSequence(statements: Statements, added: Sequence, version: SequenceVersion) {
  const fault = stepsFault(version.steps)
  if (fault) throw new RangeError(`Sequence ${added.name}: ${fault}`)
  putSequence(statements, added)
  addSequenceVersion(statements, version)
}

export function addSequenceVersion(statements: Statements, version: SequenceVersion) {
  const { start, steps, stops, ...plain } = kept(sequenceVersion, version)
  statements.run('insertSequenceVersion', {
    ...plain,
    startJson: asJson(start),
    stepsJson: asJson(steps),
    stopsJson: asJson(stops),
  })
}
