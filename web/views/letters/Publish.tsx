import { Button, Group } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import type { LetterEffect, LetterView } from '#core/api/letterEndpoints.ts'
import { contentOf } from '#core/letters/content.ts'
import type { LetterContent } from '#core/model/letter.ts'
import { toWhom } from '#core/planning/toWhom.ts'
import { call, type ApiProblem } from '../../app/api.ts'
import { useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import { When } from '../../parts/When.tsx'
import { StateMark } from '../../parts/StateMark.tsx'
import { Difference } from './Versions.tsx'
import styles from './letters.module.css'

const messages = (count: number) => (count === 1 ? '1 message' : `${count} messages`)

/** How many messages take the new text, in a sentence. */
export function effectWords(
  { planned, waiting, kept, looked, same, problems }: LetterEffect,
  where = 'this letter',
): readonly string[] {
  const reach =
    planned === 0
      ? `No message that takes it is planned with ${where}.`
      : `${messages(planned)} planned with ${where} ${planned === 1 ? 'takes' : 'take'} the new text${
          waiting === 0 ? '.' : `; ${waiting} of them ${waiting === 1 ? 'waits' : 'wait'} for approval.`
        }`
  const approved =
    kept === 0
      ? []
      : [`${messages(kept)} already approved ${kept === 1 ? 'keeps its' : 'keep their'} approved words.`]
  const unchanged =
    same === 0
      ? []
      : [
          `${same === looked ? 'All' : same} of the next ${looked} stay the same: they were approved, or have words of their own.`,
        ]
  const unseen =
    problems === 0 ? [] : [`${problems === 1 ? '1 problem is' : `${problems} problems are`} left in it.`]
  return [reach, ...approved, ...unchanged, ...unseen]
}

/** The next ones are enough to see what it is about. */
const mostShown = 10

export function Readers({ lines }: Pick<LetterEffect, 'lines'>) {
  if (lines.length === 0) return null
  return (
    <>
      <h3>Who reads it differently</h3>
      <ul className={styles.readers}>
        {lines.slice(0, mostShown).map((line) => (
          <li key={line.sendId}>
            <b>{toWhom(line)}</b> · {line.at === null ? 'no time yet' : <When at={line.at} />} ·{' '}
            <StateMark state={line.state} />
          </li>
        ))}
        {lines.length > mostShown && <li>and {lines.length - mostShown} more</li>}
      </ul>
    </>
  )
}

interface PublishProps {
  readonly view: LetterView
  readonly content: LetterContent
  readonly onClose: () => void
}

/** What publishing does, before it is done: the messages that take the text, who reads it differently, what changes. */
export function Publish({ view, content, onClose }: PublishProps) {
  const { letter, draft } = view
  const parameters = { id: letter.id }
  const effect = useQuery<LetterEffect, ApiProblem>({
    queryKey: ['letter effect', letter.id, letter.version, JSON.stringify(content)],
    queryFn: () => call('letterEffect', { parameters, body: { content } }),
    gcTime: 0,
    staleTime: 0,
    retry: false,
  })
  const publish = useTell('publishLetter', onClose)
  const body = { version: letter.version, revision: draft?.revision ?? 0, content }
  return (
    <section className={styles.publish} aria-label="Publish this text">
      <h2>What publishing does</h2>
      <div aria-live="polite">
        {effect.isPending && <p>Working it out …</p>}
        {effect.data && effectWords(effect.data).map((sentence) => <p key={sentence}>{sentence}</p>)}
      </div>
      {effect.data && <Readers lines={effect.data.lines} />}
      {!letter.isStarter && (
        <>
          <h3>What changes in the text</h3>
          <Difference before={contentOf(letter)} after={content} />
        </>
      )}
      <Problem of={publish.error ?? effect.error} />
      <Group gap="xs">
        <Button
          size="compact-md"
          disabled={!effect.data}
          loading={publish.isPending}
          onClick={() => publish.mutate({ parameters, body })}
        >
          Publish
        </Button>
        <Button size="compact-md" variant="default" onClick={onClose}>
          Cancel
        </Button>
      </Group>
    </section>
  )
}
