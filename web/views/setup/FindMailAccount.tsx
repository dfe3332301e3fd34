import { Button, TextInput } from '@mantine/core'
import { useState } from 'react'
import { domainOf } from '#core/model/values.ts'
import type { MailAccount } from '#core/model/mailAccount.ts'
import { useTell } from '../../app/queries.ts'
import { fieldErrors } from '../../parts/fieldErrors.ts'
import type { MailUse } from './mailDraft.ts'
import styles from './setup.module.css'

interface FindMailAccountProps {
  readonly use?: MailUse
  readonly onFound: (found: Pick<MailAccount, 'host' | 'port' | 'security' | 'user'>) => void
}

/** The mail server as the domain of an address names it itself, where it does. */
export function FindMailAccount({ use = 'sending', onFound }: FindMailAccountProps) {
  const [email, setEmail] = useState('')
  const [said, setSaid] = useState('')
  const find = useTell('findMailAccount', ({ found: [first] }) => {
    const domain = domainOf(email)
    if (first) {
      onFound({ ...first, user: email.trim() })
      setSaid(`${domain} names ${first.host}. Type the password, then try it.`)
    } else {
      setSaid(`${domain} does not say which server that is. Ask who runs your mail, and type it below.`)
    }
  })
  const errors = find.error ? fieldErrors(find.error) : {}
  const look = () => {
    setSaid('')
    find.mutate({ body: { email: email.trim(), for: use } })
  }
  return (
    <div>
      <div className={styles.beside}>
        <TextInput
          label="Find it by your e-mail address"
          type="email"
          autoComplete="off"
          value={email}
          error={errors['email'] ?? find.error?.message}
          onChange={(event) => {
            setEmail(event.currentTarget.value)
            find.reset()
          }}
          onKeyDown={(event) => {
            if (event.key !== 'Enter') return
            event.preventDefault()
            if (email !== '') look()
          }}
        />
        <Button variant="default" disabled={email === ''} loading={find.isPending} onClick={look}>
          Find the server
        </Button>
      </div>
      <p role="status">{said}</p>
    </div>
  )
}
