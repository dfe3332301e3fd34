import { closeSync, fsyncSync, openSync, renameSync, rmSync } from 'node:fs'
import { dirname } from 'node:path'

function toDisk(path: string) {
  const descriptor = openSync(path, 'r')
  try {
    fsyncSync(descriptor)
  } finally {
    closeSync(descriptor)
  }
}

/**
 * Writes a file aside by what makes and checks it, and gives it its name only once it is on the disk; nothing is left
 * where that fails. `nameOf`: where its name is known only then.
 */
export function writeAside(stem: string, write: (aside: string) => void, nameOf: () => string = () => stem) {
  const aside = `${stem}.unfinished`
  // Left by an attempt that was ended in the middle.
  rmSync(aside, { force: true })
  try {
    write(aside)
    toDisk(aside)
    renameSync(aside, nameOf())
    toDisk(dirname(aside))
  } catch (fault) {
    rmSync(aside, { force: true })
    throw fault
  }
}
