import { Button, TextInput } from '@mantine/core'
import { looking } from '../../app/theme.ts'
import { useState } from 'react'
import { renderSVG } from 'uqr'
import type { Answer, Of } from '../../app/api.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { fieldErrors } from '../../parts/fieldErrors.ts'
import { PresentPassword } from '../../parts/PresentPassword.tsx'
import { Problem } from '../../parts/Problem.tsx'
import { SheetForm } from '../../parts/SheetForm.tsx'
import table from '../../parts/timetable.module.css'
import { Copied } from '../../parts/Copied.tsx'
import styles from './SigningIn.module.css'

type Begun = Answer<Of<'beginSecondFactor'>>

interface ConfirmProps {
  readonly begun: Begun
  readonly onWords: (words: readonly string[]) => void
  readonly onBack: () => void
}

/** The secret, as a picture and as letters, until a code of it has been typed. */
function Confirm({ begun, onWords, onBack }: ConfirmProps) {
  const [code, setCode] = useState('')
  const confirm = useTell('confirmSecondFactor', ({ recoveryWords }) => onWords(recoveryWords))
  const picture = `data:image/svg+xml;utf8,${encodeURIComponent(renderSVG(begun.uri))}`
  return (
    <SheetForm style={{ maxWidth: '36rem' }} onSubmit={() => confirm.mutate({ body: { code } })}>
      <p>Read this picture with your authenticator, or type the letters, then type the code it shows.</p>
      <img
        className={styles.picture}
        src={picture}
        width={180}
        height={180}
        alt="The secret for an authenticator"
      />
      <Copied label="The same as letters" text={begun.secret} />
      <TextInput
        label="Code it shows now"
        autoComplete="one-time-code"
        inputMode="numeric"
        value={code}
        error={confirm.error ? fieldErrors(confirm.error)['code'] : undefined}
        onChange={(event) => setCode(event.currentTarget.value)}
      />
      <Problem of={confirm.error} />
      <div className={table.acts}>
        <Button {...looking} type="submit" disabled={code === ''} loading={confirm.isPending}>
          Ask for a code from now on
        </Button>
        <Button {...looking} variant="default" onClick={onBack}>
          Not now
        </Button>
      </div>
    </SheetForm>
  )
}

/** The words that stand in for codes: shown this once. */
function RecoveryWords({ words, onDone }: { words: readonly string[]; onDone: () => void }) {
  return (
    <div className={table.form} style={{ maxWidth: '36rem' }}>
      <p role="status">
        A code is asked for from now on. Keep these words where you find them without your telephone: each
        lets you in once in place of a code. They are shown this once.
      </p>
      <Copied label="Recovery words" text={words.join('  ')}>
        <Button {...looking} size="compact-sm" onClick={onDone}>
          I have kept them
        </Button>
      </Copied>
    </div>
  )
}

interface ProveProps {
  readonly isOn: boolean
  readonly wordsLeft: number
  readonly onBegun: (begun: Begun) => void
}

/** Switched on or off by who knows the password. */
function Prove({ isOn, wordsLeft, onBegun }: ProveProps) {
  const [present, setPresent] = useState('')
  const begin = useTell('beginSecondFactor', onBegun)
  const end = useTell('endSecondFactor', () => setPresent(''))
  const act = isOn ? end : begin
  return (
    <SheetForm style={{ maxWidth: '36rem' }} onSubmit={() => act.mutate({ body: { present } })}>
      <p>
        {isOn
          ? `Besides the password a code of your authenticator is asked for. ${wordsLeft} recovery words are left.`
          : 'Besides the password a code can be asked for that an authenticator on your telephone shows: who has guessed the password does not get in.'}
      </p>
      <PresentPassword value={present} problem={act.error} onChange={setPresent} />
      <Problem of={act.error} />
      <div className={table.acts}>
        <Button
          {...looking}
          type="submit"
          variant="default"
          disabled={present === ''}
          loading={act.isPending}
        >
          {isOn ? 'Ask for no code any more' : 'Set a code up…'}
        </Button>
      </div>
    </SheetForm>
  )
}

/** A code of an authenticator besides the password, for the person who is signed in. */
export function SecondFactor() {
  const { data } = useAsk('secondFactor')
  const [begun, setBegun] = useState<Begun | null>(null)
  const [words, setWords] = useState<readonly string[] | null>(null)
  if (!data) return null
  return (
    <section aria-label="A code besides the password">
      <h3 className={table.group}>A code besides the password</h3>
      {words && <RecoveryWords words={words} onDone={() => setWords(null)} />}
      {!words && begun && (
        <Confirm
          begun={begun}
          onBack={() => setBegun(null)}
          onWords={(made) => {
            setBegun(null)
            setWords(made)
          }}
        />
      )}
      {!words && !begun && <Prove isOn={data.isOn} wordsLeft={data.recoveryWordsLeft} onBegun={setBegun} />}
    </section>
  )
}
