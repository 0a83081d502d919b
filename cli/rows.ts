import { existsSync, readFileSync, realpathSync, statSync, writeFileSync } from 'node:fs'
import { basename, resolve } from 'node:path'
import { rowsOf } from '../core/sqlite/rows'
import type { RowsReport } from '../core/sqlite/rows-report'
import { openFile, type OpenFile } from '../disk/file-source'

export type RowsOutcome = { readonly report: RowsReport } | { readonly faults: readonly string[] }

/**
 * The files beside a database are read whole; without them the live rows would be wrong, so a larger one is refused.
 */
const MAX_BESIDE_BYTES = 2 ** 30

/** Reads the rows of a database file and the files beside it and writes the report, or one clear line per fault. */
export function rowsCommand(file: string, options: { readonly report: string }): RowsOutcome {
  const name = basename(file)
  if (!existsSync(file)) return { faults: [`${name}: is not there`] }
  if (!statSync(file).isFile()) return { faults: [`${name}: is not a file`] }
  if (isOneOf(options.report, [file, `${file}-wal`, `${file}-journal`]))
    return { faults: ['--report: would overwrite the source'] }
  for (const other of [`${file}-wal`, `${file}-journal`])
    if (isFile(other) && statSync(other).size > MAX_BESIDE_BYTES)
      return { faults: [`${basename(other)}: is larger than ${MAX_BESIDE_BYTES} bytes; nothing was written`] }
  const opened = openReadOnly(file)
  if ('faults' in opened) return opened
  let report
  try {
    report = rowsOf(opened, { wal: beside(`${file}-wal`), journal: beside(`${file}-journal`) })
  } finally {
    opened.close()
  }
  if ('fault' in report) return { faults: [`${name}: ${report.fault}`] }
  try {
    writeFileSync(options.report, `${JSON.stringify(report, null, 2)}\n`)
  } catch (error) {
    return { faults: [`${basename(options.report)}: cannot be written (${(error as NodeJS.ErrnoException).code})`] }
  }
  return { report }
}

function openReadOnly(file: string): OpenFile | { faults: string[] } {
  try {
    return openFile(file)
  } catch {
    return { faults: [`${basename(file)}: cannot be read`] }
  }
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
