import { Modal } from '@mantine/core'
import { useLocation } from 'react-router'
import { ribbonMarks } from '../parts/ribbonMarks.ts'
import styles from './Frame.module.css'
import { keysAt, keysEverywhere } from './keys.ts'

/** The keys of the screen one is on. */
export default function KeysDialog({ onClose }: { onClose: () => void }) {
  const { pathname } = useLocation()
  // A screen that shows something else than its address says names it.
  const shown = document.querySelector<HTMLElement>('[data-screen]')?.dataset['screen']
  const screen = keysAt(shown ?? pathname)
  const lines = [...(screen?.keys ?? []), ...keysEverywhere]
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
      <table className={styles.keys}>
        <caption>Marks on the time ribbon, one for each message of a day</caption>
        <tbody>
          {ribbonMarks.map(({ kind, glyph, words }) => (
            <tr key={kind}>
              <th scope="row">{glyph}</th>
              <td>{words}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Modal>
  )
}
