import Sqlite from 'better-sqlite3'
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { bytesSource } from '../sources/source'
import { rowsOf, type Beside } from '../sqlite/rows'
import { RowsReport } from '../sqlite/rows-report'

export interface DatabaseFiles extends Beside {
  readonly bytes: Uint8Array
}

const beside = (path: string) => (existsSync(path) ? new Uint8Array(readFileSync(path)) : null)

/** A database made by the ordinary library, as its files are while it is open and its last transaction may be too. */
export function madeDatabase(
  work: (database: Sqlite.Database) => void,
  pragmas: readonly string[] = [],
): DatabaseFiles {
  const folder = mkdtempSync(join(tmpdir(), 'lantern-made-'))
  const file = join(folder, 'made.sqlite')
  const database = new Sqlite(file)
  try {
    for (const pragma of ['secure_delete = 0', ...pragmas]) database.pragma(pragma)
    work(database)
    return { bytes: new Uint8Array(readFileSync(file)), wal: beside(`${file}-wal`), journal: beside(`${file}-journal`) }
  } finally {
    if (database.inTransaction) database.exec('rollback')
    database.close()
    rmSync(folder, { recursive: true })
  }
}

/** What the library itself reads from these files, opened as after a crash. */
export function readByLibrary(files: DatabaseFiles, query: string): unknown[][] {
  const folder = mkdtempSync(join(tmpdir(), 'lantern-crashed-'))
  const file = join(folder, 'crashed.sqlite')
  try {
    for (const [end, bytes] of [
      ['', files.bytes],
      ['-wal', files.wal],
      ['-journal', files.journal],
    ] as const)
      if (bytes) writeFileSync(file + end, bytes)
    const database = new Sqlite(file)
    try {
      return database.prepare(query).raw().all() as unknown[][]
    } finally {
      database.close()
    }
  } finally {
    rmSync(folder, { recursive: true })
  }
}

export function readRows({ bytes, wal, journal }: DatabaseFiles): RowsReport {
  const report = rowsOf(bytesSource(bytes), { wal: wal ?? null, journal: journal ?? null })
  if ('fault' in report) throw new Error(report.fault)
  return RowsReport.parse(report)
}

export const tableOf = (report: RowsReport, name: string | null) => report.tables.find((one) => one.name === name)!
export const goneRows = (report: RowsReport, name: string) =>
  tableOf(report, name).rows.filter((row) => row.state !== 'live')
