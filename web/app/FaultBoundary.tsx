import { Button } from '@mantine/core'
import { looking } from './theme.ts'
import { Component, type ReactNode } from 'react'
import styles from '../parts/States.module.css'

interface Props {
  readonly children: ReactNode
}

/**
 * What stands where a part of the interface could not be fetched or fails while it is drawn: after an update, or while the
 * server is away. Loading the page anew fetches all of it; what was typed is kept apart from the page.
 */
export class FaultBoundary extends Component<Props, { readonly hasFailed: boolean }> {
  override state = { hasFailed: false }

  static getDerivedStateFromError() {
    return { hasFailed: true }
  }

  override render() {
    if (!this.state.hasFailed) return this.props.children
    return (
      <div className={styles.state} role="alert">
        <strong>✕ This part of the page is not there</strong>
        <p>
          Vorfreude may have been updated since the page was loaded, or it does not answer just now. Nothing
          you typed is lost.
        </p>
        <Button {...looking} variant="default" onClick={() => location.reload()}>
          Load the page anew
        </Button>
      </div>
    )
  }
}
