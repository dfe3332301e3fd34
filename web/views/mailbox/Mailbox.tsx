import { Button, NativeSelect, Tabs, Textarea } from '@mantine/core'
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { clientReactions, type ClientReaction } from '#core/model/clientReaction.ts'
import { Problem } from '../../parts/Problem.tsx'
import type { MailView } from '#core/api/mailboxViews.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { EmptyState, ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { When } from '../../parts/When.tsx'
import styles from './Mailbox.module.css'

function Attachments({ mail }: { mail: MailView }) {
  if (mail.attachments.length === 0) return <p className={table.quiet}>No attachments.</p>
  return (
    <ul>
      {mail.attachments.map(({ name, type, size }) => (
        <li key={name}>
          {name} ({type}, {Math.ceil(size / 1024)} kB)
        </li>
      ))}
    </ul>
  )
}

function Message({ id }: { id: string }) {
  const mail = useAsk('mail', { parameters: { id } })
  if (mail.error) return <ErrorState problem={mail.error} onAgain={() => void mail.refetch()} />
  if (!mail.data) return <Waiting />
  const { subject, from, to, receivedAt, text, source, hasHtml } = mail.data
  return (
    <article className={styles.message} aria-label={subject}>
      <h2>{subject}</h2>
      <p className={styles.meta}>
        from {from}
        <br />
        to {to} · <When at={receivedAt} />
      </p>
      <Tabs defaultValue={hasHtml ? 'html' : 'text'} keepMounted={false}>
        <Tabs.List>
          {hasHtml && <Tabs.Tab value="html">As it looks</Tabs.Tab>}
          <Tabs.Tab value="text">Plain text</Tabs.Tab>
          <Tabs.Tab value="source">Source</Tabs.Tab>
          <Tabs.Tab value="attachments">Attachments</Tabs.Tab>
        </Tabs.List>
        <Tabs.Panel value="html">
          <iframe
            className={styles.frame}
            title={`The message: ${subject}`}
            sandbox=""
            src={`/api/mail/${id}/html`}
          />
        </Tabs.Panel>
        <Tabs.Panel value="text">
          <pre className={styles.plain}>{text}</pre>
        </Tabs.Panel>
        <Tabs.Panel value="source">
          <pre className={styles.source}>{source}</pre>
        </Tabs.Panel>
        <Tabs.Panel value="attachments">
          <Attachments mail={mail.data} />
        </Tabs.Panel>
      </Tabs>
    </article>
  )
}

const reactionWords: Readonly<Record<ClientReaction, string>> = {
  answer: 'Answers',
  'automatic reply': 'Answers by itself: away',
  'no such mailbox': 'Comes back: no such mailbox',
  'mailbox full': 'Comes back: mailbox full',
  complaint: 'Complains about it',
  decline: 'Declines the invitation',
}
const withWords: readonly ClientReaction[] = ['answer', 'automatic reply']

/** What the made-up client does with a message: it comes in as a real mail would. */
function React({ id }: { id: string }) {
  const [reaction, setReaction] = useState<ClientReaction>('answer')
  const [text, setText] = useState('')
  const [done, setDone] = useState<ClientReaction | null>(null)
  const tell = useTell('reactAsClient', () => {
    setText('')
    setDone(reaction)
  })
  const needsWords = withWords.includes(reaction)
  return (
    <form
      className={styles.react}
      aria-label="Be this client"
      onSubmit={(event) => {
        event.preventDefault()
        setDone(null)
        tell.mutate({ parameters: { id }, body: { reaction, text } })
      }}
    >
      <NativeSelect
        label="What they do with it"
        data={clientReactions.map((value) => ({ value, label: reactionWords[value] }))}
        value={reaction}
        onChange={({ currentTarget }) => setReaction(currentTarget.value as ClientReaction)}
      />
      {needsWords && (
        <Textarea
          label="What they write"
          autosize
          minRows={2}
          maxLength={10_000}
          value={text}
          onChange={(event) => setText(event.currentTarget.value)}
        />
      )}
      <Problem of={tell.error} />
      <div className={table.acts}>
        <Button type="submit" loading={tell.isPending} disabled={needsWords && text.trim() === ''}>
          Send
        </Button>
      </div>
      <p role="status">{done !== null && '✓ It came in: the Desk has it, where somebody has to look.'}</p>
    </form>
  )
}

/** The made-up client opens a message, or follows one of its links. */
function Follow({ id }: { id: string }) {
  const mail = useAsk('mail', { parameters: { id } })
  const [chosen, setChosen] = useState('')
  const tell = useTell('followAsClient')
  const { links, tellsOpening } = mail.data ?? { links: [], tellsOpening: false }
  const url = links.some((one) => one.url === chosen) ? chosen : (links[0]?.url ?? '')
  if (links.length === 0 && !tellsOpening) return null
  const go = (wanted: string | null) => tell.mutate({ parameters: { id }, body: { url: wanted } })
  return (
    <form
      className={styles.react}
      aria-label="Read it as this client"
      onSubmit={(event) => {
        event.preventDefault()
        go(url)
      }}
    >
      {links.length > 0 && (
        <NativeSelect
          label="A link in it"
          data={links.map((one) => ({ value: one.url, label: one.words || one.url }))}
          value={url}
          onChange={({ currentTarget }) => setChosen(currentTarget.value)}
        />
      )}
      <Problem of={tell.error} />
      <div className={table.acts}>
        {links.length > 0 && (
          <Button type="submit" variant="default" loading={tell.isPending}>
            Follow this link
          </Button>
        )}
        {tellsOpening && (
          <Button variant="default" loading={tell.isPending} onClick={() => go(null)}>
            Open it with its pictures
          </Button>
        )}
      </div>
      <p role="status">{tell.isSuccess && '✓ Done: the message’s own page tells it.'}</p>
    </form>
  )
}

/** A made-up mailbox of the built-in post office, as its owner would see it. */
export default function Mailbox() {
  const { address = '', mailId } = useParams()
  const mailbox = useAsk('mailbox', { parameters: { address } })
  if (mailbox.error) return <ErrorState problem={mailbox.error} onAgain={() => void mailbox.refetch()} />
  if (!mailbox.data) return <Waiting />
  const { messages } = mailbox.data
  const chosen = mailId ?? (messages[0] && String(messages[0].id))
  return (
    <div className={table.page}>
      <div className={table.head}>
        <h1>
          {address}{' '}
          <span className={styles.standIn}>
            a made-up mailbox: a stand-in of this installation, not a real one
          </span>
        </h1>
      </div>
      {messages.length === 0 ? (
        <div className={table.sheet}>
          <EmptyState title="This mailbox is empty." />
        </div>
      ) : (
        <div className={styles.split}>
          <ul className={`${table.sheet ?? ''} ${table.list ?? ''}`}>
            {messages.map((mail) => (
              <li key={mail.id}>
                <Link
                  className={`${table.row ?? ''} ${styles.entry ?? ''}`}
                  to={`/mailbox/${encodeURIComponent(address)}/${mail.id}`}
                  aria-current={String(mail.id) === chosen}
                >
                  <b>{mail.subject}</b>
                  <span className={table.quiet}>
                    <When at={mail.receivedAt} />
                  </span>
                  <span className={styles.beginning}>{mail.beginning}</span>
                </Link>
              </li>
            ))}
          </ul>
          <section className={table.sheet} aria-label="The message">
            {chosen && (
              <details className={styles.be}>
                <summary>Be this client: answer it, follow a link, or let it come back</summary>
                <React key={chosen} id={chosen} />
                <Follow key={`follow ${chosen}`} id={chosen} />
              </details>
            )}
            {chosen && <Message key={chosen} id={chosen} />}
          </section>
        </div>
      )}
    </div>
  )
}
