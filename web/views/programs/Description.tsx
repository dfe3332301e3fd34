import { TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { z } from 'zod'
import { ErrorState, EmptyState, Waiting } from '../../parts/States.tsx'
import { ApiProblem } from '../../app/api.ts'
import { SetUpPage } from '../../parts/SetUpPage.tsx'
import table from '../../parts/timetable.module.css'
import styles from './Programs.module.css'

const content = z.record(z.string(), z.object({ schema: z.unknown() }))
const operation = z.object({
  summary: z.string(),
  parameters: z
    .array(
      z.object({
        name: z.string(),
        in: z.string(),
        required: z.boolean().default(false),
        schema: z.unknown(),
      }),
    )
    .default([]),
  requestBody: z.object({ content }).optional(),
  responses: z.record(z.string(), z.object({ content: content.optional() })),
  security: z.array(z.unknown()).optional(),
})
const document = z.object({ paths: z.record(z.string(), z.record(z.string(), operation)) })
type Operation = z.infer<typeof operation>

async function readDescription(): Promise<z.infer<typeof document>> {
  const response = await fetch('/api/openapi.json')
  const body: unknown = await response.json()
  if (!response.ok) throw new ApiProblem(body as ConstructorParameters<typeof ApiProblem>[0])
  return document.parse(body)
}

const schemaText = (of: z.infer<typeof content> | undefined) => {
  const [first] = Object.entries(of ?? {})
  return first ? `${first[0]}\n${JSON.stringify(first[1].schema, null, 2)}` : null
}

function Part({ name, text }: { name: string; text: string | null }) {
  if (text === null) return null
  return (
    <>
      <h2>{name}</h2>
      <pre className={styles.schema} tabIndex={0} aria-label={name}>
        {text}
      </pre>
    </>
  )
}

function Details({ of }: { of: Operation }) {
  const given = of.parameters.map(
    (one) =>
      `${one.name} (${one.in}${one.required ? '' : ', may be left out'}): ${JSON.stringify(one.schema)}`,
  )
  return (
    <div className={styles.details}>
      <p>
        {of.security ? 'A key can ask this, as far as it reaches.' : 'No key is needed, or none is enough.'}
      </p>
      <Part name="Parameters" text={given.length === 0 ? null : given.join('\n')} />
      <Part name="What is sent" text={schemaText(of.requestBody?.content)} />
      <Part name="What is answered" text={schemaText(of.responses['200']?.content)} />
    </div>
  )
}

function OperationLine({ path, method, of }: { path: string; method: string; of: Operation }) {
  const [isOpen, setOpen] = useState(false)
  return (
    <li>
      <details onToggle={(event) => setOpen(event.currentTarget.open)}>
        <summary className={styles.operation}>
          <code>
            {method.toUpperCase()} {path}
          </code>
          <span>{of.summary}</span>
        </summary>
        {isOpen && <Details of={of} />}
      </details>
    </li>
  )
}

function Operations({ words }: { words: string }) {
  const { data, error, refetch } = useQuery<z.infer<typeof document>, ApiProblem>({
    queryKey: ['description'],
    queryFn: readDescription,
    staleTime: Infinity,
    retry: false,
  })
  if (error) return <ErrorState problem={error} onAgain={() => void refetch()} />
  if (!data) return <Waiting />
  const all = Object.entries(data.paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, of]) => ({ path, method, of })),
  )
  const found = all.filter(({ path, method, of }) =>
    `${method} ${path} ${of.summary}`.toLowerCase().includes(words.toLowerCase()),
  )
  if (found.length === 0) return <EmptyState title="Nothing like this can be asked." />
  return (
    <ul className={styles.operations} aria-label="What can be asked">
      {found.map(({ path, method, of }) => (
        <OperationLine key={`${method} ${path}`} path={path} method={method} of={of} />
      ))}
    </ul>
  )
}

/** Everything another program can ask, from the same document as programs read; it needs no network. */
export default function Description() {
  const [words, setWords] = useState('')
  return (
    <SetUpPage
      title={
        <>
          <Link to="/set-up/programs">Other programs</Link> · What they can ask
        </>
      }
      beside={
        <>
          <TextInput
            aria-label="Find in the description"
            placeholder="address or words"
            value={words}
            onChange={(event) => setWords(event.currentTarget.value)}
          />
          <a href="/api/openapi.json" download="vorfreude-openapi.json">
            As a file (OpenAPI)
          </a>
        </>
      }
    >
      <div className={table.sheet}>
        <div className={styles.body}>
          <p>
            What changes something carries a <code>commandId</code> of its own: sent again with the same, it
            is done once. Lists come in parts: <code>after</code> is the last id of the part before. More than
            300 requests a minute are refused with 429 and <code>Retry-After</code>. Every refusal says why
            (RFC 9457).
          </p>
        </div>
        <Operations words={words.trim()} />
      </div>
    </SetUpPage>
  )
}
