import { NumberInput, PasswordInput, Select, TextInput } from '@mantine/core'
import { mailSecurities } from '#core/model/mailAccount.ts'
import {
  keepsPassword,
  securityWords,
  usualPort,
  type KeptAccount,
  type MailDraft,
  type MailUse,
} from './mailDraft.ts'
import styles from './setup.module.css'

interface FieldsProps {
  readonly use?: MailUse
  readonly kept: KeptAccount
  readonly draft: MailDraft
  readonly errors: Readonly<Record<string, string>>
  readonly set: (part: Partial<MailDraft>) => void
}

/** How an account is reached and who we are there. */
export function MailAccountFields({ use = 'sending', kept, draft, errors, set }: FieldsProps) {
  return (
    <>
      <div className={styles.several}>
        <TextInput
          label="Server"
          placeholder={use === 'sending' ? 'smtp.place.example' : 'imap.place.example'}
          autoComplete="off"
          value={draft.host}
          error={errors['host']}
          onChange={(event) => set({ host: event.currentTarget.value })}
        />
        <NumberInput
          label="Port"
          min={1}
          max={65_535}
          allowDecimal={false}
          clampBehavior="none"
          hideControls
          value={draft.port}
          error={errors['port']}
          onChange={(port) => set({ port })}
        />
      </div>
      <Select
        label="How the line is kept safe"
        allowDeselect={false}
        data={mailSecurities.map((value) => ({ value, label: securityWords(use)[value] }))}
        value={draft.security}
        error={errors['security']}
        onChange={(value) => {
          if (value === null) return
          const isUsual = draft.port === usualPort[use][draft.security]
          set({ security: value, ...(isUsual ? { port: usualPort[use][value] } : {}) })
        }}
      />
      <div className={styles.several}>
        <TextInput
          label="User"
          description="often the whole e-mail address"
          autoComplete="off"
          value={draft.user}
          error={errors['user']}
          onChange={(event) => set({ user: event.currentTarget.value })}
        />
        <PasswordInput
          label="Password"
          description="many servers want one made for programs"
          placeholder={keepsPassword(draft, kept) ? 'as it is kept' : ''}
          autoComplete="new-password"
          value={draft.password}
          error={errors['password']}
          onChange={(event) => set({ password: event.currentTarget.value })}
        />
      </div>
    </>
  )
}
