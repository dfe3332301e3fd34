import { writeBundle } from '../bundle/writeBundle.ts'
import type { Application } from '../engine/application.ts'
import { watched } from './watched.ts'

/** Everything that is kept, as text: two of the same are the same business. */
const everything = ({ store: { file } }: Application) => [...writeBundle(file, new Date(0))].join('')

/**
 * Does something with a fault at its first statement, then at its second, and so on until it goes through. What each
 * fault left behind is compared with everything that was there before.
 *
 * @returns the number of places there were, and at which of them something was left behind
 */
export function faultAtEachStatement(
  application: Application,
  act: () => boolean,
): { readonly places: number; readonly leftAt: readonly number[] } {
  const before = everything(application)
  const leftAt: number[] = []
  for (let at = 0; ; at += 1) {
    let count = 0
    let isWritten = false
    const end = watched(application, (name) => {
      if (isWritten) return
      count += 1
      if (count > at) throw new Error('This disk is full.')
      // The last one of the transaction; what is looked at afterwards is not of the command.
      isWritten = name === 'insertCommand'
    })
    let isDone = false
    try {
      isDone = act()
    } catch {
      // What was thrown goes on to who asked; what counts is what is left behind.
    } finally {
      end()
    }
    if (isDone) return { places: at, leftAt }
    if (everything(application) !== before) leftAt.push(at)
  }
}
