import { createHash } from 'node:crypto'
import { opendir, realpath, stat } from 'node:fs/promises'
import { basename, join } from 'node:path'
import { DATA_TYPES } from '../../core/cases/shape/data-types'
import type { BackupManifest } from '../../core/archives/manifest'
import { dayIn } from '../../core/bench/days'
import type { ArchiveFacts } from '../../core/bench/bench'
import { linkFailure } from '../../core/bench/fault'
import type { ItemPage } from '../../core/bench/item'
import type { Link } from '../../core/bench/link'
import { stateOfReadOnly, type LinkState, type LinkSummary } from '../../core/bench/state'
import type { ArchiveOrder, DescribedArchive, OpenedArchive } from '../threads/archive-messages'
import { LimitFault, ProcessLine } from '../threads/process-line'
import { readPlaybook } from '../settings'
import { backupFolders } from './folders'
import { onlyRead, type LinkProvider } from './provider'

/** A backup that nobody has used for this long is closed, and its key forgotten. */
const FORGET_MS = 45 * 60_000
const MAX_FOUND = 300

interface Found {
  readonly summary: LinkSummary
  readonly path: string
  readonly manifest: BackupManifest | null
  readonly bytes: number
  readonly fault: string | null
}

/** An open backup: the process that reads it, and its contents. */
interface Open {
  readonly line: ProcessLine
  readonly opened: OpenedArchive
  used: number
}

/** Answers are small; a salvage or a long list takes a while, and encrypted items are decrypted in memory. */
const OPEN_LIMITS = { ms: 60_000, bytes: 3 * 1024 ** 3 }
const MAX_OPEN = 6
const DESCRIBE_LIMITS = { ms: 15_000, bytes: 1024 ** 3 }
/** The list of links waits no longer than this for a backup that is still being read; the next list has it. */
const LIST_WAIT_MS = 1500

const open = new Map<string, Open>()
const describer = new ProcessLine('read-archive', DESCRIBE_LIMITS)
/** the result for each path, also where it is no backup; read again only after a change */
const seen = new Map<string, { readonly stamp: string; readonly found: Found | null }>()
/** backups being read, each with the time at which that began */
const looking = new Map<string, Look>()

interface Look {
  readonly found: Promise<Found | null>
  readonly began: number
}

/** Every backup in the folders that the owner has named, and those that were fetched for a case. */
export const backups: LinkProvider = {
  name: 'backups',
  list: async () => (await allFound()).map((one) => one.summary),
  async byId(id) {
    if (!id.startsWith('backup-')) return null
    const found = (await allFound()).find((one) => one.summary.id === id)
    return found ? linkTo(found) : null
  },
}

async function allFound(): Promise<Found[]> {
  const paths = (await Promise.all((await backupFolders()).map(namesIn))).flat()
  const all = await Promise.all(paths.map(soon))
  return all.filter((one) => one !== null)
}

/** The backup at a path; null where there is none, and where reading it takes too long to wait for. */
async function soon(path: string): Promise<Found | null> {
  const { found, began } = await lookAt(path)
  const left = Math.max(0, began + LIST_WAIT_MS - Date.now())
  return Promise.race([found, new Promise<null>((done) => setTimeout(() => done(null), left).unref())])
}

/** The names in a folder, up to a limit. */
async function namesIn(folder: string): Promise<string[]> {
  const names: string[] = []
  try {
    for await (const one of await opendir(folder)) {
      if (names.length >= MAX_FOUND) break
      names.push(one.name)
    }
  } catch {
    return []
  }
  return names.sort().map((name) => join(folder, name))
}

const NONE: Promise<Found | null> = Promise.resolve(null)

/** What an archive says about itself; null where it is no archive. */
async function lookAt(path: string): Promise<Look> {
  const began = Date.now()
  const facts = await stat(path).catch(() => null)
  const isNone = !facts || path.endsWith('.part') || (!facts.isDirectory() && (!facts.isFile() || facts.size === 0))
  if (isNone) return { found: NONE, began }
  const stamp = `${facts.mtimeMs} ${facts.size}`
  const known = seen.get(path)
  if (known?.stamp === stamp) return { found: Promise.resolve(known.found), began }
  const key = `${path} ${stamp}`
  const under = looking.get(key)
  if (under) return under
  const found = (async () => {
    const one = await described(path, await archiveIdOf(path), facts.isDirectory() ? 0 : facts.size)
    seen.set(path, { stamp, found: one })
    return one
  })().finally(() => looking.delete(key))
  looking.set(key, { found, began })
  return { found, began }
}

/** The path of the archive behind a link; null where it is the link of something else. */
export async function archivePath(id: string): Promise<string | null> {
  return id.startsWith('backup-') ? ((await allFound()).find((one) => one.summary.id === id)?.path ?? null) : null
}

/** The id of the link to the archive at a path. */
export async function archiveIdOf(path: string): Promise<string> {
  return `backup-${createHash('sha256')
    .update(await realpath(path))
    .digest('hex')
    .slice(0, 12)}`
}

async function described(path: string, id: string, bytes: number): Promise<Found | null> {
  const summary = (title: string): LinkSummary => ({
    id,
    kind: 'backups',
    title: title.slice(0, 160),
    platform: 'folder',
    isStandIn: false,
  })
  const name = basename(path)
  try {
    const told = await describer.ask<DescribedArchive>({ ask: 'describe', path } satisfies ArchiveOrder)
    const { manifest } = told
    if (!manifest && told.entries === 0 && !looksLikeArchive(name)) return null
    const day = manifest && dayIn(readPlaybook(useLantern().database).shop.zone, Date.parse(manifest.taken))
    const title = manifest ? `Backup of ${manifest.device.title}, ${day}` : `Archive ${name}`
    return { summary: summary(title), path, manifest, bytes: bytes > 0 ? bytes : told.bytes, fault: null }
  } catch (error) {
    // A file that is no archive is ignored; a damaged archive is shown with what is wrong.
    const isOverLimit = error instanceof LimitFault
    return looksLikeArchive(name) || isOverLimit
      ? { summary: summary(`Archive ${name}`), path, manifest: null, bytes, fault: whyNot(error as Error) }
      : null
  }
}

const whyNot = (error: Error) =>
  error instanceof LimitFault ? `${error.message} It is left as it is.` : `It ${error.message}.`

const looksLikeArchive = (name: string) => /\.(zip|tar)$/i.test(name)

/**
 * The link to a folder or an archive on this machine, wherever it is: with the name and kind of `summary`, and the contents
 * as they are when they are listed.
 */
export async function linkToPath(path: string, summary: LinkSummary): Promise<Link> {
  const { found: looked } = await lookAt(path)
  const found = await looked
  if (!found) throw linkFailure('not-found', 'There are no files in it.')
  return linkTo({ ...found, summary })
}

function linkTo(found: Found): Link {
  const { id } = found.summary
  const opened = async (): Promise<Open> => {
    forgetOld()
    const held = open.get(id)
    if (held) {
      held.used = Date.now()
      return held
    }
    if (found.fault) throw linkFailure('damaged', found.fault)
    if (found.manifest?.identity)
      throw linkFailure('not-ready', 'This backup is encrypted: it opens with its password.')
    return openWith(found, '')
  }
  return {
    state: async () =>
      stateOf(found, open.has(id) || !found.manifest?.identity ? await opened().catch(() => null) : null),
    answer: async ({ answer, value }) => {
      if (answer === 'sign-out') close(id)
      else if (answer === 'password') await openWith(found, value)
      else throw linkFailure('bad-request', 'A backup accepts only a password.')
      return stateOf(found, open.get(id) ?? null)
    },
    list: async (keep, after) => {
      // Files are added to a folder while it is open.
      if (after === 0 && !found.manifest && (await stat(found.path)).isDirectory()) await openWith(found, '')
      return ask<ItemPage>(await opened(), { ask: 'page', keep, after })
    },
    read: async (keep, item, from = 0) => {
      const own = await opened()
      const { stream } = await ask<{ stream: number }>(own, { ask: 'read', keep, item, from })
      return partsOf(own, stream)
    },
    ...onlyRead('A backup'),
    leave: async () => close(id),
  }
}

async function* partsOf(own: Open, stream: number): AsyncIterable<Uint8Array> {
  let isOver = false
  try {
    for (;;) {
      own.used = Date.now()
      const { part } = await ask<{ part: Uint8Array | null }>(own, { ask: 'next', stream })
      isOver = part === null
      if (part === null) return
      yield part
    }
  } finally {
    if (!isOver) void ask(own, { ask: 'leave', stream }).catch(() => {})
  }
}

/** Asks the process of an archive; exceeding its limits is a fault of the archive. */
async function ask<Result>({ line }: Pick<Open, 'line'>, order: ArchiveOrder): Promise<Result> {
  try {
    return await line.ask<Result>(order)
  } catch (error) {
    throw error instanceof LimitFault ? linkFailure('damaged', `${error.message} Nothing was changed.`) : error
  }
}

async function openWith({ summary: { id }, path }: Found, password: string): Promise<Open> {
  const line = new ProcessLine('read-archive', OPEN_LIMITS, () => {
    if (open.get(id)?.line === line) open.delete(id)
  })
  try {
    const opened = await ask<OpenedArchive>({ line }, { ask: 'open', path, password })
    open.get(id)?.line.end()
    const own = { line, opened, used: Date.now() }
    open.set(id, own)
    const oldest = [...open].filter(([other]) => other !== id).sort(([, one], [, other]) => one.used - other.used)
    for (const [other] of oldest.slice(MAX_OPEN - 1)) close(other)
    return own
  } catch (error) {
    line.end()
    throw error
  }
}

function close(id: string): void {
  const held = open.get(id)
  open.delete(id)
  held?.line.end()
}

function forgetOld() {
  for (const [id, { used }] of open) if (used < Date.now() - FORGET_MS) close(id)
}

function stateOf(found: Found, own: Open | null): LinkState {
  const { manifest, fault } = found
  const isLocked = own === null && fault === null
  const warnings = own?.opened.warnings ?? { count: 0, first: null }
  return stateOfReadOnly(found.summary, {
    state: fault !== null ? 'lost' : isLocked ? 'signed-out' : 'ready',
    says:
      fault ??
      (isLocked
        ? 'This backup is encrypted. Open it to see its contents.'
        : warnings.count > 0
          ? `It is open. ${warnings.count} warnings: ${warnings.first}.`
          : 'It is open and can be read.'),
    needs: isLocked
      ? [
          {
            answer: 'password',
            says: 'Open it with the password that was set when it was made.',
            byHand: false,
            choices: [],
          },
        ]
      : [],
    encryption: manifest?.identity ? 'whole-device' : 'none',
    bytesPerSecond: 100_000_000,
    keeps: (own?.opened.keeps ?? []).map((keep) => ({
      ...keep,
      asOf: manifest?.taken ?? null,
      closed: null,
      backup: null,
      until: null,
    })),
    mark: `${found.bytes}`,
    now: new Date(useLantern().clock.now()).toISOString(),
  })
}

/** What every backup in the folders says about itself, by the id of its link. */
export async function archiveFacts(): Promise<Map<string, ArchiveFacts>> {
  return new Map(
    (await allFound()).map(({ summary, manifest, bytes }) => [
      summary.id,
      {
        bytes,
        taken: manifest?.taken ?? null,
        types: DATA_TYPES.filter((type) => (manifest?.counts[type] ?? 0) > 0),
        isEncrypted: Boolean(manifest?.identity),
      },
    ]),
  )
}

/** What a backup in a folder says about itself, for choosing among backups. */
export async function manifestOf(id: string): Promise<{ manifest: BackupManifest; bytes: number } | null> {
  const found = (await allFound()).find((one) => one.summary.id === id)
  return found?.manifest ? { manifest: found.manifest, bytes: found.bytes } : null
}
