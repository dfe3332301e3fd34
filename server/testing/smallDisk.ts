import { execFileSync } from 'node:child_process'

export interface SmallDisk {
  /** It may only be read from now on. */
  makeReadOnly(): void
  unmount(): void
}

/** Makes a folder a small disk of its own; null where this machine gives nobody one. */
export function smallDisk(folder: string, size: string): SmallDisk | null {
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${size}`, 'tmpfs', folder], { stdio: 'ignore' })
  } catch {
    return null
  }
  return {
    makeReadOnly: () => void execFileSync('mount', ['-o', 'remount,ro', folder]),
    unmount: () => void execFileSync('umount', [folder]),
  }
}
