/** A fault of the shop's own disk, in words for people; earlier data are unchanged. */
export class DiskFault extends Error {
  constructor(
    readonly code: string,
    says: string,
  ) {
    super(says)
    this.name = 'DiskFault'
  }

  /** whether freeing space would help */
  get isFull(): boolean {
    return FULL.has(this.code)
  }
}

const FULL = new Set(['ENOSPC', 'EDQUOT', 'EFBIG', 'SQLITE_FULL'])
const WORDS: Readonly<Record<string, string>> = {
  EROFS: 'The shop’s disk is mounted read only; nothing can be written to it.',
  EACCES: 'This machine does not let the server write to its data folder.',
  EPERM: 'This machine does not let the server write to its data folder.',
  EIO: 'The shop’s disk reports an error (EIO). Check the disk before anything else is copied to it.',
  ENOENT: 'A folder of the shop’s data has disappeared while it was written to.',
}

/** Turns an error of the disk or the database into a DiskFault; returns any other error unchanged. */
export function asDiskFault(error: unknown): unknown {
  const code = (error as NodeJS.ErrnoException | null)?.code
  if (typeof code !== 'string' || error instanceof DiskFault) return error
  if (FULL.has(code)) return new DiskFault(code, 'The shop’s disk is full. Make room on it, then resume.')
  if (code.startsWith('SQLITE_IOERR') || code === 'SQLITE_READONLY')
    return new DiskFault(code, `The shop’s database could not be written (${code}). Check the disk.`)
  const isOfSystem = /^E[A-Z0-9]+$/.test(code) && (error as NodeJS.ErrnoException).syscall !== undefined
  return isOfSystem ? new DiskFault(code, WORDS[code] ?? `The shop’s disk could not be written (${code}).`) : error
}

/** Runs a step that writes to the disk; its errors become DiskFaults. */
export async function onDisk<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work()
  } catch (error) {
    throw asDiskFault(error)
  }
}
