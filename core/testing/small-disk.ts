import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

export interface SmallDisk {
  readonly folder: string
  remove(): void
}

/** A disk of so many bytes in memory, or one that is mounted read only; null where this machine lets nobody mount one. */
export function smallDisk(bytes: number, options = ''): SmallDisk | null {
  const folder = mkdtempSync(join(tmpdir(), 'lantern-small-'))
  const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${bytes}${options}`, 'tmpfs', folder])
  if (mounted.status !== 0) {
    rmSync(folder, { recursive: true })
    return null
  }
  return {
    folder,
    remove: () => {
      spawnSync('umount', ['-l', folder])
      rmSync(folder, { recursive: true, force: true })
    },
  }
}

/** Mounts a folder's disk again, read only or not. */
export const remount = ({ folder }: SmallDisk, as: 'ro' | 'rw') =>
  spawnSync('mount', ['-o', `remount,${as}`, folder]).status === 0

/** Why a test of a full or read-only disk did not run. */
export const NO_MOUNT = 'skipped: this machine lets nobody mount a small disk'
