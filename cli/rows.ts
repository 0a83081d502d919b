import {
  closeSync,
  existsSync,
  fstatSync,
  openSync,
  readFileSync,
  readSync,
  realpathSync,
  statSync,
  writeFileSync,
} from 'node:fs'
import { basename, resolve } from 'node:path'
import type { ByteSource } from '../core/media/source'
import { rowsOf } from '../core/media/sqlite/rows'
import type { RowsReport } from '../core/media/sqlite/rows-report'

export type RowsOutcome = { readonly report: RowsReport } | { readonly faults: readonly string[] }

/** What lies beside a database is read whole; without it the live rows would be wrong, so more than this is refused. */
const MOST_BESIDE_BYTES = 2 ** 30

/** Reads the rows of a database file and what lies beside it, and writes the report; or one clear line per fault. */
export function rowsCommand(file: string, options: { readonly report: string }): RowsOutcome {
  const name = basename(file)
  if (!existsSync(file)) return { faults: [`${name}: is not there`] }
  if (!statSync(file).isFile()) return { faults: [`${name}: is not a file`] }
  if (isOneOf(options.report, [file, `${file}-wal`, `${file}-journal`]))
    return { faults: ['--report: would be written over what is read'] }
  for (const other of [`${file}-wal`, `${file}-journal`])
    if (isFile(other) && statSync(other).size > MOST_BESIDE_BYTES)
      return { faults: [`${basename(other)}: is larger than ${MOST_BESIDE_BYTES} bytes; nothing was written`] }
  const opened = openReadOnly(file)
  if ('faults' in opened) return opened
  let report
  try {
    report = rowsOf(opened.source, { wal: beside(`${file}-wal`), journal: beside(`${file}-journal`) })
  } finally {
    opened.close()
  }
  if ('fault' in report) return { faults: [`${name}: ${report.fault}`] }
  try {
    writeFileSync(options.report, `${JSON.stringify(report, null, 2)}\n`)
  } catch (error) {
    return { faults: [`${basename(options.report)}: can not be written (${(error as NodeJS.ErrnoException).code})`] }
  }
  return { report }
}

function openReadOnly(file: string): { source: ByteSource; close: () => void } | { faults: string[] } {
  let descriptor: number
  try {
    descriptor = openSync(file, 'r')
  } catch {
    return { faults: [`${basename(file)}: can not be read`] }
  }
  const { size } = fstatSync(descriptor)
  const source: ByteSource = {
    size,
    read: (offset, length) => {
      const bytes = new Uint8Array(Math.max(0, Math.min(length, size - offset)))
      let have = 0
      while (have < bytes.length) {
        const more = readSync(descriptor, bytes, have, bytes.length - have, offset + have)
        if (more === 0) break
        have += more
      }
      return bytes.subarray(0, have)
    },
  }
  return { source, close: () => closeSync(descriptor) }
}

function beside(file: string): Uint8Array | null {
  return isFile(file) ? new Uint8Array(readFileSync(file)) : null
}

const isFile = (path: string) => existsSync(path) && statSync(path).isFile()

/** Whether a path is one of these files, by whatever name. */
function isOneOf(path: string, files: readonly string[]): boolean {
  const real = (one: string) => (existsSync(one) ? realpathSync(one) : resolve(one))
  return files.some((file) => real(file) === real(path))
}
