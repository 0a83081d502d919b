import { randomUUID } from 'node:crypto'
import { existsSync, mkdirSync, renameSync, statSync } from 'node:fs'
import { mkdir, rm, writeFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import type { Readable } from 'node:stream'
import type { BundleAttachment } from '../../core/exchange/bundle'
import { renumberedCase, renumberedSheet } from '../../core/exchange/renumbered'
import type { Playbook } from '../../core/playbook/playbook'
import { caseFolder } from '../links/case-folders'
import { updateCase, type Handle, type Writer } from '../cases/rows'
import { importInto } from '../cases/writing/log'
import { type Written, written, writing } from '../cases/writing/writing'
import { attachments, papers } from '../db/tables'
import { Failure, invalid, refused } from '../failure'
import { asDiskFault, DiskFault } from '../links/disk-fault'
import { LimitFault, ProcessLine } from '../threads/process-line'
import { append } from '../shelf/transfer'
import type { BundleOrder, ReadBundle } from './bundle-messages'

/** The largest bundle, in bytes. */
const MAX_BYTES = 500_000_000
const LIMITS = { ms: 120_000, bytes: 1024 ** 3 }

const incoming = () => join(dataFolder(), 'incoming')

/** Bundles that were arriving when the server ended are not resumed. */
export const dropIncoming = (): Promise<void> => rm(incoming(), { recursive: true, force: true })

/**
 * Imports the bundle of a case, with its identity, history, sheets and attachments, under the next code of this shop. Throws a
 * Failure with every fault where it cannot be read, and where the case is here already; nothing is left of it then.
 */
export async function importBundle(body: Readable, playbook: Playbook, writer: Writer): Promise<Written> {
  const folder = join(incoming(), randomUUID())
  const line = new ProcessLine('read-bundle', LIMITS)
  try {
    await mkdir(folder, { recursive: true, mode: 0o700 })
    const path = join(folder, 'bundle.zip')
    await append(path, body as AsyncIterable<Uint8Array>, { from: 0, most: MAX_BYTES })
    const read = await line.ask<ReadBundle>({ path, file: null } satisfies BundleOrder)
    if (!read.ok) throw invalid([...read.faults], 'The bundle')
    const staged = join(folder, 'attachments')
    await mkdir(staged, { mode: 0o700 })
    for (const one of read.attachments) await stage(line, path, staged, one)
    return place(read, staged, playbook, writer)
  } catch (error) {
    throw asRefusal(error)
  } finally {
    line.end()
    await rm(folder, { recursive: true, force: true })
  }
}

function asRefusal(error: unknown): unknown {
  if (error instanceof Failure) return error
  if (error instanceof LimitFault) return refused(`The bundle could not be read. ${error.message}`)
  const fault = asDiskFault(error)
  return fault instanceof DiskFault ? refused(fault.message) : fault
}

async function stage(line: ProcessLine, path: string, folder: string, one: BundleAttachment): Promise<void> {
  const { file: name, sha256, mime } = one
  const bytes = await line.ask<Uint8Array | ReadBundle>({ path, file: { name, sha256, mime } } satisfies BundleOrder)
  if ('ok' in bytes) throw invalid(bytes.ok ? [] : [...bytes.faults], 'The bundle')
  await writeFile(join(folder, name), bytes, { mode: 0o600, flush: true })
}

/** All of it in one transaction; the attachments get their place in the data folder last. */
function place(read: Extract<ReadBundle, { ok: true }>, staged: string, playbook: Playbook, writer: Writer): Written {
  return writing(useLantern().database, (handle) => {
    const before = importInto(handle, read.case, { playbook, writer, history: read.history })
    const numbers = new Map(read.attachments.map((one) => [one.id, keepAttachment(handle, before.id, staged, one)]))
    for (const { kind, number, head, at, by, sheet } of read.sheets)
      handle
        .insert(papers)
        .values({
          caseId: before.id,
          kind,
          // Numbers are each shop’s own: receipts of this one stay without gaps.
          number: `${before.case.identity!.slice(0, 8)}:${number}`,
          head,
          at,
          by,
          body: JSON.stringify(renumberedSheet(sheet, numbers)),
        })
        .run()
    const { agreements, things, freezes } = read.case
    const after = renumberedCase({ ...before.case, agreements, things, freezes }, numbers)
    const stored = updateCase(handle, before, after, [], writer)
    const folder = caseFolder('attachments', after.code)
    if (read.attachments.length > 0) {
      if (existsSync(folder)) throw refused(`There are files of another case in ${after.code}’s folder.`)
      mkdirSync(dirname(folder), { recursive: true, mode: 0o700 })
      renameSync(staged, folder)
    }
    return written(stored)
  })
}

function keepAttachment(handle: Handle, caseId: number, staged: string, one: BundleAttachment): number {
  const { kind, part, name, mime, sha256, file, at, by } = one
  return handle
    .insert(attachments)
    .values({ caseId, kind, part, name, mime, sha256, file, at, by, bytes: statSync(join(staged, file)).size })
    .returning({ id: attachments.id })
    .get().id
}
