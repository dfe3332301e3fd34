import type { Sequence } from '#core/model/sequence.ts'
import type { Settings } from '#core/planning/slice.ts'
import { noticing, usualNoticing, type Noticing } from '#core/model/noticing.ts'
import { realZones } from '#core/time/realZones.ts'
import {
  readBusiness,
  readOwnStatuses,
  readPeople,
  readPipelines,
  readSendingOn,
  readSequences,
  readSequenceVersions,
  readServices,
  readServiceVariations,
} from '../db/settingsStore.ts'
import { readDocuments } from '../db/documentStore.ts'
import { readForms } from '../db/formStore.ts'
import { readOnePressMoves } from '../db/moveStore.ts'
import { readLetters, readPassages } from '../db/letterStore.ts'
import { readIncomingMailboxes, withoutPassword } from '../db/mailboxStore.ts'
import { onlyTo } from '#core/model/mailAccount.ts'
import { fromJson } from '../db/columns.ts'
import { isOfStore } from '../db/storeFault.ts'
import type { Statements } from '../db/statements.ts'
import { holidaysOf, type HolidayName } from './holidays.ts'

/** How messages go out. */
export interface SendingWays {
  /** False: sending is off whatever the switch says. */
  readonly canSend: boolean
  readonly isRealMail: boolean
  readonly mailAccounts: Settings['mailAccounts']
}

export interface SettingsSource {
  /** Null while the database has not been set up. */
  current(): Settings | null
  /** The settings of a database that has been set up; throws before that. */
  required(): Settings
  holidayName: HolidayName
  /** To be called after anything in the settings was written. */
  forget(): void
}

/** What is kept of the business itself cannot be read: without it nothing can be done, and it is not started. */
export class UnreadableBusiness extends Error {
  constructor(cause: unknown) {
    super(
      'What is kept of the business cannot be read. Nothing was changed. Put a backup of the data in its place, or start the version that wrote it.',
      { cause },
    )
  }
}

function readableBusiness(statements: Statements) {
  try {
    return readBusiness(statements)
  } catch (fault) {
    if (isOfStore(fault)) throw fault
    throw new UnreadableBusiness(fault)
  }
}

export const onlyToKey = 'only to'
export const noticingKey = 'noticing'
export const markedAnswersKey = 'marked answers'

/** Whom messages reach in quiet mode; null: it is off. What cannot be read lets nothing out. */
function readOnlyTo(statements: Statements): readonly string[] | null {
  const value = statements.one('readMeta', { key: onlyToKey })?.['value']
  if (value === undefined) return null
  const parsed = onlyTo.safeParse(fromJson(value))
  return parsed.success ? parsed.data : []
}

/** What is signed with the keys of the house. */
interface WithKeys {
  readonly clientLinks: Settings['clientLinks']
  readonly markAnswers: NonNullable<Settings['markAnswers']>
}

/** What is noticed; of what cannot be read, nothing. */
function readNoticing(statements: Statements): Noticing {
  const value = statements.one('readMeta', { key: noticingKey })?.['value']
  if (value === undefined) return usualNoticing
  const parsed = noticing.safeParse(fromJson(value))
  return parsed.success ? parsed.data : { links: false, opens: false }
}

function readSettings(
  statements: Statements,
  holidayName: HolidayName,
  { clientLinks, markAnswers }: WithKeys,
  { canSend, isRealMail, mailAccounts }: SendingWays,
): Settings | null {
  const business = readableBusiness(statements)
  if (!business) return null
  const sequenceVersions = readSequenceVersions(statements)
  // One whose present rules cannot be read is as good as unreadable itself.
  const isWhole = ({ id, currentVersion }: Sequence) =>
    sequenceVersions.some(({ sequenceId, version }) => sequenceId === id && version === currentVersion)
  return {
    business,
    people: readPeople(statements),
    services: readServices(statements),
    ownStatuses: readOwnStatuses(statements),
    pipelines: readPipelines(statements),
    documents: readDocuments(statements),
    forms: readForms(statements),
    onePressMoves: readOnePressMoves(statements),
    letters: readLetters(statements),
    passages: readPassages(statements),
    clientLinks,
    markAnswers: statements.one('readMeta', { key: markedAnswersKey }) === undefined ? null : markAnswers,
    sequences: readSequences(statements).filter(isWhole),
    sequenceVersions,
    variations: readServiceVariations(statements),
    zones: realZones,
    isHoliday: (day) => holidayName(day) !== null,
    isSendingOn: canSend && readSendingOn(statements),
    isRealMail,
    onlyTo: readOnlyTo(statements),
    mailAccounts,
    noticing: readNoticing(statements),
    incomingMailboxes: readIncomingMailboxes(statements).map(withoutPassword),
  }
}

const nowhere = () => 'https://nowhere.invalid/'

/**
 * Links where nothing is sent, as where differences are worked out: what they lead to does not matter, but that there
 * are some does, else a message would lack them.
 */
const unsent: Settings['clientLinks'] = {
  optOut: nowhere,
  booking: nowhere,
  act: nowhere,
  all: nowhere,
  pay: nowhere,
  sign: nowhere,
  followed: nowhere,
  opened: nowhere,
}

/** Settings are read once and kept until something in them is written. */
export function createSettingsSource(
  statements: Statements,
  waysNow: () => SendingWays = () => ({ canSend: true, isRealMail: false, mailAccounts: [] }),
  withKeys: WithKeys = { clientLinks: unsent, markAnswers: (address) => address },
): SettingsSource {
  let kept: Settings | null = null
  let holidays: HolidayName | null = null
  const holidayName: HolidayName = (day) => {
    const region = kept?.business.holidayRegion ?? readBusiness(statements)?.holidayRegion
    holidays ??= region ? holidaysOf(region) : null
    return holidays?.(day) ?? null
  }
  const current = () => (kept ??= readSettings(statements, holidayName, withKeys, waysNow()))
  return {
    current,
    required() {
      const settings = current()
      if (!settings) throw new Error('The business has not been set up yet')
      return settings
    },
    holidayName,
    forget() {
      kept = null
      holidays = null
    },
  }
}
