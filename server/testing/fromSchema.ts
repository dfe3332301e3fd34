import type { chanceFrom } from './chance.ts'

type Chance = ReturnType<typeof chanceFrom>

/** The parts of JSON Schema that our OpenAPI document uses. */
export interface Schema {
  readonly type?: string
  readonly enum?: readonly unknown[]
  readonly const?: unknown
  readonly anyOf?: readonly Schema[]
  readonly oneOf?: readonly Schema[]
  readonly allOf?: readonly Schema[]
  readonly properties?: Readonly<Record<string, Schema>>
  readonly required?: readonly string[]
  readonly items?: Schema
  readonly minItems?: number
  readonly minimum?: number
  readonly maximum?: number
  readonly pattern?: string
  readonly format?: string
  readonly nullable?: boolean
}

/** Values that no schema here takes, or that it takes and nobody thinks of. */
export const oddities: readonly unknown[] = [
  null,
  '',
  ' ',
  -1,
  0,
  0.5,
  1e21,
  true,
  [],
  {},
  'x'.repeat(5000),
  '\u0000',
  '\ud800',
  '__proto__',
  "' OR 1=1 --",
  '../../etc/passwd',
  'Zed\r\nBcc: all@example.org',
  '0001-01-01',
  '0001-01-01T00:00',
  '9999-12-31T23:59',
  '2026-02-30',
  '2026-03-29T02:30',
  '25:00',
  '<script>1</script>',
]

export interface FromSchema {
  /** A value a schema takes, as far as its pattern can be guessed; sometimes one it does not. */
  value(schema: Schema, name?: string): unknown
}

/** `known` gives values that are there for a pattern, such as ids; `odd` how often a value is one nobody thinks of. */
export function fromSchema(
  chance: Chance,
  known: (pattern: string, name: string) => readonly string[],
  odd: number,
): FromSchema {
  const upTo = (most: number) => Math.floor(chance() * most)
  const oneOf = <Item>(items: readonly Item[]): Item | undefined => items[upTo(items.length)]
  const dates = ['2026-05-14', '2026-05-20', '2026-06-01', '2027-02-28', '2026-03-29']

  function text({ pattern = '', format }: Schema, name: string): string {
    const candidates = known(pattern, name)
    if (candidates.length > 0) return oneOf(candidates) ?? ''
    if (format === 'uuid') return '6f9619ff-8b86-4d01-b42d-00cf4fc964ff'
    if (format === 'uri') return 'https://example.org/x'
    if (pattern.includes('@')) return 'somebody@mail.example'
    if (pattern.includes('\\d{4}-\\d{2}-\\d{2}T')) return `${oneOf(dates) ?? ''}T10:30`
    if (pattern.includes('\\d{4}-\\d{2}-\\d{2}')) return oneOf(dates) ?? ''
    if (pattern.includes('[01]\\d|2[0-3]')) return '18:00'
    return oneOf(['Oona', 'a', 'two words', 'Grüße aus Überlingen', '12']) ?? ''
  }

  function object({ properties = {}, required = [] }: Schema): Record<string, unknown> {
    const kept = Object.entries(properties).filter(([key]) => required.includes(key) || chance() < 0.5)
    const entries = kept.map(([key, schema]) => [key, value(schema, key)] as const)
    return Object.fromEntries(entries.filter(() => chance() >= odd / 4))
  }

  function number({ minimum = -5, maximum = 1e9, type }: Schema): number {
    const found = oneOf([minimum, maximum, minimum + 1, minimum + upTo(10), Math.min(maximum, 1), 60]) ?? 0
    return type === 'integer' ? Math.round(found) : found
  }

  function value(schema: Schema, name = ''): unknown {
    if (chance() < odd) return oneOf(oddities)
    if (schema.nullable && chance() < 0.3) return null
    if (schema.const !== undefined) return schema.const
    if (schema.enum) return oneOf(schema.enum)
    const choices = schema.anyOf ?? schema.oneOf
    if (choices) return value(oneOf(choices) ?? {}, name)
    if (schema.allOf) return value(schema.allOf[0] ?? {}, name)
    switch (schema.type) {
      case 'object':
        return object(schema)
      case 'array':
        return Array.from({ length: (schema.minItems ?? 0) + upTo(3) }, () => value(schema.items ?? {}, name))
      case 'integer':
      case 'number':
        return number(schema)
      case 'boolean':
        return chance() < 0.5
      case 'string':
        return text(schema, name)
      default:
        return oneOf(oddities)
    }
  }
  return { value }
}
