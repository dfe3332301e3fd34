import { Modal } from '@mantine/core'
import { useLocation } from 'react-router'
import styles from './Frame.module.css'

interface KeyLine {
  readonly key: string
  readonly does: string
}

const everywhere: readonly KeyLine[] = [
  { key: 'Ctrl + K', does: 'find a client, booking, letter, sequence or section' },
  { key: '?', does: 'show these keys' },
]

/** The keys of single screens, by what their addresses begin with. */
const ofScreens: readonly {
  readonly at: RegExp
  readonly name: string
  readonly keys: readonly KeyLine[]
}[] = [
  {
    at: /^\/desk\/to-do/,
    name: 'To do',
    keys: [{ key: 'D', does: 'the task is done' }],
  },
  {
    at: /^\/desk/,
    name: 'Deciding',
    keys: [
      { key: 'A', does: 'approve: it goes at its time' },
      { key: 'N', does: 'send now, whatever the hours' },
      { key: 'K', does: 'skip: it counts as done and does not go' },
      { key: 'L', does: 'later: put it off' },
      { key: 'E', does: 'edit this copy' },
      { key: 'S', does: 'stop the sequence for this client' },
      { key: 'T', does: 'approve alike messages together' },
    ],
  },
  {
    at: /^\/sequence\//,
    name: 'A sequence',
    keys: [
      { key: '← →', does: 'move the pin that has the focus' },
      { key: 'Ctrl + Z', does: 'undo' },
      { key: 'Ctrl + Shift + Z', does: 'do again' },
    ],
  },
  {
    at: /^\/letter\//,
    name: 'A letter',
    keys: [
      { key: 'Ctrl + .', does: 'put a field in' },
      { key: 'Alt + ↑ ↓', does: 'move a section' },
      { key: 'Ctrl + Z', does: 'undo' },
    ],
  },
]

/** The keys of the screen one is on. */
export default function KeysDialog({ onClose }: { onClose: () => void }) {
  const { pathname } = useLocation()
  const screen = ofScreens.find(({ at }) => at.test(pathname))
  const lines = [...(screen?.keys ?? []), ...everywhere]
  return (
    // The keys it lists do nothing while they are read.
    <Modal
      opened
      onClose={onClose}
      title={screen ? `Keys: ${screen.name}` : 'Keys'}
      onKeyDown={(event) => event.stopPropagation()}
    >
      <table className={styles.keys}>
        <tbody>
          {lines.map(({ key, does }) => (
            <tr key={key}>
              <th scope="row">
                <kbd>{key}</kbd>
              </th>
              <td>{does}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Modal>
  )
}
