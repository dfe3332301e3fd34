import { Button, Menu } from '@mantine/core'
import { useNavigate } from 'react-router'
import type { SequenceView } from '#core/api/sequenceEndpoints.ts'
import { asSequenceFile } from '#core/sequences/sequenceFile.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { ConsideredAct } from '../../parts/ConsideredAct.tsx'
import { Problem } from '../../parts/Problem.tsx'
import { SendRows } from '../../parts/SendRows.tsx'
import { download } from '../../parts/download.ts'
import styles from './sequences.module.css'
import type { Designing } from './useDesign.ts'

/** Holding a live sequence back, with what that means; letting a paused one go on, with what it missed. */
export function SwitchQuestion({ view, onClose }: { view: SequenceView; onClose: () => void }) {
  const { id, state } = view.sequence
  const isLive = state === 'live'
  const held = useAsk('heldBackBySequence', { parameters: { id } }, { enabled: !isLive })
  const sends = held.data?.sends ?? []
  const ahead = Object.values(view.counts).reduce((sum, one) => sum + one.ahead, 0)
  return (
    <section className={styles.flip} aria-label={isLive ? 'Pause it' : 'Let it go on'}>
      {isLive ? (
        <p>
          <b>Pause it?</b> {view.running} running, {ahead} messages and steps ahead: nothing of this sequence
          goes until it goes on. Planning goes on, new ones start, and what falls due meanwhile is listed
          then, never sent in a burst.
        </p>
      ) : (
        <p>
          <b>Let it go on?</b>{' '}
          {sends.length === 0
            ? 'Nothing fell due meanwhile.'
            : `${sends.length} fell due meanwhile and will not go by themselves; they stand in Trouble then:`}
        </p>
      )}
      {sends.length > 0 && <SendRows sends={sends} />}
      <ConsideredAct
        name="switchSequence"
        asked={{ parameters: { id }, body: { isOn: !isLive } }}
        word={isLive ? 'Pause it' : 'Let it go on'}
        onClose={onClose}
      />
    </section>
  )
}

/** What can be done with a whole sequence, beside changing it. */
export function SequenceActs(props: {
  readonly view: SequenceView
  readonly designing: Designing
  readonly onSwitch: () => void
}) {
  const { view, designing, onSwitch } = props
  const navigate = useNavigate()
  const { isOwner } = useBusiness()
  const settings = useAsk('settings')
  const copy = useTell('addSequence', ({ id }) => void navigate(`/sequence/${id}`))
  const drop = useTell('dropDesign', () => window.location.reload())
  const remove = useTell('removeSequence', () => void navigate('/sequences'))
  const { design } = designing
  const { sequence } = view
  const save = () => {
    if (!settings.data) return
    const file = asSequenceFile(design, settings.data)
    download(`${design.name}.json`, 'application/json', JSON.stringify(file, null, 2))
  }
  return (
    <>
      {sequence.state !== 'draft' && isOwner && (
        <Button variant="default" onClick={onSwitch}>
          {sequence.state === 'live' ? 'Pause…' : 'Let it go on…'}
        </Button>
      )}
      <Menu position="bottom-end">
        <Menu.Target>
          <Button variant="default">More ▾</Button>
        </Menu.Target>
        <Menu.Dropdown>
          <Menu.Item
            onClick={() => copy.mutate({ body: { design: { ...design, name: `${design.name}, a copy` } } })}
          >
            Copy it
          </Menu.Item>
          <Menu.Item onClick={save}>Save it as a file</Menu.Item>
          {view.design && (
            <Menu.Item onClick={() => drop.mutate({ parameters: { id: sequence.id }, body: {} })}>
              Let the changes go
            </Menu.Item>
          )}
          {sequence.state === 'draft' && view.runs === 0 && isOwner && (
            <Menu.Item onClick={() => remove.mutate({ parameters: { id: sequence.id }, body: {} })}>
              Delete this draft
            </Menu.Item>
          )}
        </Menu.Dropdown>
      </Menu>
      <Problem of={copy.error ?? drop.error ?? remove.error} />
    </>
  )
}
