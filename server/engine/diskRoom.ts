import { statfsSync } from 'node:fs'

/** With less room than this, in bytes, the next backup or a busy day may not fit. */
const fewestBytes = 500_000_000

/** How much room is left on the disk of a folder, in bytes; null: this machine does not say. */
export function roomOn(folder: string): number | null {
  try {
    const { bavail, bsize } = statfsSync(folder)
    return bavail * bsize
  } catch {
    return null
  }
}

const megabytes = (bytes: number) => `${Math.floor(bytes / 1_000_000)} MB`

/** That a disk is nearly full, before it is; null: there is room. */
export function diskTrouble(folder: string, room = roomOn(folder)): string | null {
  return room === null || room >= fewestBytes
    ? null
    : `The disk of ${folder} is nearly full: ${megabytes(room)} are left. When it is full nothing can be written down, so nothing is sent. Make room.`
}
