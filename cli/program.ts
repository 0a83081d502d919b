import { Command, CommanderError } from 'commander'
import { isTelling } from '../core/volumes/filesystems/volume-shape'
import type { ScanProgress } from '../core/scanning/scan'
import { openVolumes } from './passphrase'
import { planCommand } from './plan'
import { rowsCommand } from './rows'
import { scanCommand, type ScanWords } from './scan'
import { verifyCommand } from '../disk/verify-shop'

/** Exit code of `verify` for a history that does not fit. */
export const BROKEN = 1
/** Exit code for unusable input or arguments. */
export const UNUSABLE = 2

/** Where a command writes: its result, and what people read. */
export interface Output {
  out(text: string): void
  err(text: string): void
}

/** Runs the command that these arguments name; returns the exit code: 0, `BROKEN` or `UNUSABLE`. */
export async function runLantern(words: readonly string[], io: Output): Promise<number> {
  let code = 0
  const program = new Command('lantern')
    .description('Russet Lantern on the command line: works on files, without a server.')
    .showHelpAfterError()
    .exitOverride()
    .configureOutput({ writeOut: io.out, writeErr: io.err })

  program
    .command('plan')
    .description('rank the routes of a case file and print the plan as JSON')
    .argument('<case>', 'case file (JSON)')
    .option('--playbook <file>', 'playbook file to use instead of the shipped one')
    .option('--runs <file>', 'outcomes of earlier runs, from which the odds learn')
    .option('--now <iso>', 'plan as of this moment (UTC, such as 2026-11-24T10:42:00Z)')
    .action((file: string, options: { playbook?: string; runs?: string; now?: string }) => {
      const outcome = planCommand(file, options, Date.now())
      if ('plan' in outcome) io.out(`${JSON.stringify(outcome.plan, null, 2)}\n`)
      else {
        for (const line of outcome.faults) io.err(`${line}\n`)
        code = UNUSABLE
      }
    })

  program
    .command('rows')
    .description('read the live and deleted rows of a database file and write them as a report')
    .argument('<file>', 'database file; its -wal and -journal files are read too')
    .requiredOption('--report <file>', 'where the report is written (JSON)')
    .action((file: string, options: { report: string }) => {
      const outcome = rowsCommand(file, options)
      if ('faults' in outcome) {
        for (const line of outcome.faults) io.err(`${line}\n`)
        code = UNUSABLE
        return
      }
      for (const warning of outcome.report.warnings) io.err(`${warning}\n`)
      const rows = outcome.report.tables.flatMap((table) => table.rows)
      const count = (state: string) => rows.filter((row) => row.state === state).length
      io.err(
        `${outcome.report.tables.length} ${outcome.report.tables.length === 1 ? 'table' : 'tables'}: ${count('live')} live rows, ${count('deleted')} deleted, ${count('earlier')} earlier versions\n`,
      )
    })

  program
    .command('verify')
    .description('check that the history of a shop was neither changed nor cut')
    .option('--data <folder>', 'data folder of the shop', process.env.LANTERN_DATA || './data')
    .option('--head <digest>', 'head as printed on a receipt or report, which the history has to contain')
    .action(({ data, head }: { data: string; head?: string }) => {
      const outcome = verifyCommand(data, { head: head ?? null })
      if ('fits' in outcome) io.out(`${outcome.fits}\n`)
      else io.err(`${'broken' in outcome ? outcome.broken : outcome.faults}\n`)
      code = 'fits' in outcome ? 0 : 'broken' in outcome ? BROKEN : UNUSABLE
    })

  program
    .command('scan')
    .description('scan a disk image or block device by its file-system records and by content')
    .argument('<image>', 'disk image or block device; opened read only')
    .requiredOption('--report <file>', 'where the report is written (JSON)')
    .option('--pass <pass>', 'quick (records), deep (content) or both', 'both')
    .option('--types <list>', 'only these formats, such as jpeg,pdf')
    .option('--shelf <folder>', 'copy recoverable files there, with a manifest of checksums')
    .option('--only <which>', 'deleted (and files without a record) or all', 'all')
    .option('--whole', 'search by content in allocated space too')
    .option(
      '--passphrase <file>',
      'open encrypted volumes with the passphrase in this file; - reads it from standard input',
    )
    .action(async (file: string, { passphrase, ...words }: ScanWords & { passphrase?: string }) => {
      const unlocked = passphrase === undefined ? undefined : await openVolumes(file, passphrase)
      let told = 0
      const tell = ({ pass, done, of, found }: ScanProgress) => {
        if (Date.now() < told + 500) return
        told = Date.now()
        io.err(`${pass} pass: ${Math.floor((done / Math.max(1, of)) * 100)}%, ${found} found\n`)
      }
      const outcome = unlocked && 'faults' in unlocked ? unlocked : scanCommand(file, words, tell, unlocked)
      if ('faults' in outcome) {
        for (const line of outcome.faults) io.err(`${line}\n`)
        code = UNUSABLE
        return
      }
      const { items, warnings, volumes } = outcome.report
      for (const { index, says, scheme } of volumes.filter(isTelling))
        io.err(`volume ${index}${scheme === 'found' ? ' (lost, named by no table)' : ''}: ${says}\n`)
      const count = (content: string) => items.filter((item) => item.content === content).length
      io.err(
        `${items.length} items: ${count('intact')} intact, ${count('unverified')} unverified, ${count('partial')} partial, ${count('overwritten')} overwritten; ${warnings.length} warnings\n`,
      )
    })

  try {
    await program.parseAsync(words, { from: 'user' })
  } catch (error) {
    if (!(error instanceof CommanderError)) throw error
    return error.exitCode === 0 ? 0 : UNUSABLE
  }
  return code
}
