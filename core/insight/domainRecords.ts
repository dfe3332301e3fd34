import { domainOf } from '../model/values.ts'

/*
 * What the domain of the sender says about who may send in its name: SPF (RFC 7208), DKIM (RFC 6376), DMARC (RFC 7489),
 * each a text record. Servers that get messages look there before they believe one.
 */

export const recordKinds = ['SPF', 'DKIM', 'DMARC'] as const
export type RecordKind = (typeof recordKinds)[number]

export const recordVerdicts = ['there', 'missing', 'wrong', 'not known'] as const

/** One of the records, as it is and as it should be. */
export interface DomainRecord {
  readonly what: RecordKind
  /** The name it stands at. */
  readonly name: string
  /** What to set where there is none; null: only who runs the mail server knows it. */
  readonly toSet: string | null
  readonly found: readonly string[]
  readonly verdict: (typeof recordVerdicts)[number]
  readonly sentence: string
}

export interface DomainAsked {
  readonly senderAddress: string
  /** The server messages leave through; null: none is set up. */
  readonly host: string | null
  /** The name of the DKIM key, as who runs the mail server says it; empty: it is not known. */
  readonly selector: string
}

/** The text records at a name; null: they could not be looked up. */
export type TextsAt = (name: string) => readonly string[] | null

type Judged = Pick<DomainRecord, 'verdict' | 'sentence'>

const judged = (verdict: DomainRecord['verdict'], sentence: string): Judged => ({ verdict, sentence })

/** RFC 7208 4.5: the version is all up to the first space, or the end; with more than one record none counts. */
const isSpf = (text: string) => /^v=spf1( |$)/i.test(text)

function judgeSpf([first, second]: readonly string[]): Judged {
  if (first === undefined)
    return judged(
      'missing',
      'Nothing says yet which servers may send for this domain. Who runs your mail server may want another record than this one.',
    )
  if (second !== undefined) {
    return judged('wrong', 'There is more than one, so none of them counts (RFC 7208 4.5). Make them one.')
  }
  const terms = first.toLowerCase().split(/ +/)
  if (terms.includes('+all') || terms.includes('all')) {
    return judged('wrong', 'It ends in “+all”: everybody may send in your name. Make that “~all” or “-all”.')
  }
  const hasEnd = terms.some((term) => /^[-~?]all$/.test(term) || term.startsWith('redirect='))
  return hasEnd
    ? judged('there', 'It is there. Whether it names your mail server, who runs that can say.')
    : judged('wrong', 'It says nothing about other servers: end it with “~all” or “-all”.')
}

/** The tags of a record such as `v=DKIM1; p=…` (RFC 6376 3.2), in the order they stand; null: it is no such list. */
function tagsOf(text: string): ReadonlyMap<string, string> | null {
  const parts = text.split(';').map((part) => part.trim())
  if (parts.at(-1) === '') parts.pop()
  const pairs = parts.map((part) => /^([a-z]\w*)\s*=\s*([^]*)$/i.exec(part))
  if (pairs.some((pair) => pair === null)) return null
  return new Map(pairs.map((pair) => [(pair?.[1] ?? '').toLowerCase(), pair?.[2] ?? '']))
}

/** RFC 7489 6.3 and 6.6.3: `v=DMARC1` comes first, a policy is required, and with more than one record none counts. */
const isDmarc = (text: string) => /^v\s*=\s*DMARC1\s*(;|$)/.test(text)
const policies = ['none', 'quarantine', 'reject']

function judgeDmarc([first, second]: readonly string[]): Judged {
  if (first === undefined)
    return judged('missing', 'Nothing says yet what to do with messages that only claim to be yours.')
  if (second !== undefined) {
    return judged('wrong', 'There is more than one, so none of them counts (RFC 7489 6.6.3). Keep one.')
  }
  const policy = tagsOf(first)?.get('p')?.toLowerCase() ?? ''
  return policies.includes(policy)
    ? judged('there', `It is there; forged messages: ${policy === 'none' ? 'only told' : policy}.`)
    : judged('wrong', 'Its policy is missing or misspelt: p=none, p=quarantine or p=reject (RFC 7489 6.3).')
}

/** RFC 6376 3.6.1: a key has `p`, empty where it was taken back; `v`, where it stands, comes first. */
function judgeDkim([first, second]: readonly string[]): Judged {
  if (first === undefined)
    return judged('missing', 'There is no key at this name. Ask who runs your mail server for it.')
  if (second !== undefined)
    return judged('wrong', 'There is more than one at this name. Keep the one that is used.')
  const tags = tagsOf(first)
  const version = tags?.get('v')
  const key = tags?.get('p')
  if (!tags || key === undefined || (version !== undefined && version !== 'DKIM1')) {
    return judged('wrong', 'What stands at this name is no key (RFC 6376 3.6.1).')
  }
  return key.replace(/\s/g, '') === ''
    ? judged(
        'wrong',
        'The key at this name was taken back. Ask who runs your mail server for the present one.',
      )
    : judged('there', 'The key is there.')
}

const notLookedUp = judged(
  'not known',
  'It could not be looked up from here: there is no way to a name server, or it did not answer.',
)

/** The records of a sender's domain: what is there, and what is to be set. */
export function domainRecords(
  { senderAddress, host, selector }: DomainAsked,
  textsAt: TextsAt,
): readonly DomainRecord[] {
  const domain = domainOf(senderAddress).toLowerCase()
  const at = (
    what: RecordKind,
    name: string,
    toSet: string | null,
    isOne: (text: string) => boolean,
    judge: (found: readonly string[]) => Judged,
  ): DomainRecord => {
    const texts = textsAt(name)
    const found = texts?.filter(isOne) ?? []
    return { what, name, toSet, found, ...(texts === null ? notLookedUp : judge(found)) }
  }
  const spf = at('SPF', domain, host === null ? null : `v=spf1 a:${host} ~all`, isSpf, judgeSpf)
  const dkim =
    selector === ''
      ? {
          what: 'DKIM' as const,
          name: `…._domainkey.${domain}`,
          toSet: null,
          found: [],
          ...judged(
            'not known',
            'Type the name of the key (the selector), as who runs your mail server says it.',
          ),
        }
      : at('DKIM', `${selector}._domainkey.${domain}`, null, () => true, judgeDkim)
  const toTell = `v=DMARC1; p=none; rua=mailto:${senderAddress}`
  const dmarc = at('DMARC', `_dmarc.${domain}`, toTell, isDmarc, judgeDmarc)
  return [spf, dkim, dmarc]
}

/** The names whose text records have to be looked up for that. */
export function namesToLookUp({ senderAddress, selector }: DomainAsked): readonly string[] {
  const domain = domainOf(senderAddress).toLowerCase()
  return [domain, `_dmarc.${domain}`, ...(selector === '' ? [] : [`${selector}._domainkey.${domain}`])]
}
