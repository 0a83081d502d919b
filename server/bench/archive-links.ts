import { createHash } from 'node:crypto'
import { readdir, realpath, stat } from 'node:fs/promises'
import { basename, join } from 'node:path'
import { DATA_TYPES } from '../../core/cases/data-types'
import type { BackupItem, BackupManifest } from '../../core/archives/manifest'
import type { ArchiveFacts } from '../../core/links/bench'
import { linkFailure } from '../../core/links/fault'
import type { LinkItem } from '../../core/links/item'
import type { Link } from '../../core/links/link'
import type { Keep } from '../../core/links/keep'
import type { LinkState, LinkSummary } from '../../core/links/state'
import { openBackup, readManifest, type Backup } from '../archives/backup'
import { openContainer } from '../archives/open'
import { backupFolders } from './folders'

const PAGE = 500
/** A backup that nobody has looked into for so long is closed, and its key forgotten. */
const FORGET_MS = 45 * 60_000
const MOST_FOUND = 300

interface Found {
  readonly summary: LinkSummary
  readonly path: string
  readonly manifest: BackupManifest | null
  readonly bytes: number
  readonly fault: string | null
}

const open = new Map<string, { backup: Backup; used: number }>()
const seen = new Map<string, { stamp: string; found: Found }>()

/** Every backup in the folders that the owner has named, and those that were fetched for a case. */
export async function archiveLinks(): Promise<LinkSummary[]> {
  return (await allFound()).map((one) => one.summary)
}

async function allFound(): Promise<Found[]> {
  const all: Found[] = []
  for (const folder of await backupFolders()) {
    const names = await readdir(folder).catch(() => [])
    for (const name of names.sort().slice(0, MOST_FOUND)) {
      const found = await lookAt(join(folder, name))
      if (found) all.push(found)
    }
  }
  return all
}

/** What an archive says of itself; null for what is none. Looked at again only when it has changed. */
async function lookAt(path: string): Promise<Found | null> {
  const facts = await stat(path).catch(() => null)
  if (!facts || path.endsWith('.part') || (!facts.isDirectory() && facts.size === 0)) return null
  const stamp = `${facts.mtimeMs} ${facts.size}`
  const known = seen.get(path)
  if (known?.stamp === stamp) return known.found
  const id = await archiveIdOf(path)
  const found = await described(path, id, facts.size)
  if (found) seen.set(path, { stamp, found })
  return found
}

/** The id under which the archive at a path is a link. */
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
    const container = await openContainer(path)
    try {
      const manifest = await readManifest(container)
      if (!manifest && container.entries.length === 0 && !looksLikeArchive(name)) return null
      const title = manifest ? `Backup of ${manifest.device.title}, ${manifest.taken.slice(0, 10)}` : `Archive ${name}`
      const size =
        bytes > 0 && container.entries.length > 0
          ? bytes
          : container.entries.reduce((sum, entry) => sum + entry.bytes, 0)
      return { summary: summary(title), path, manifest, bytes: size, fault: null }
    } finally {
      await container.close()
    }
  } catch (error) {
    // A file that is no archive at all is none of ours; a damaged one is shown with what is wrong.
    return looksLikeArchive(name)
      ? { summary: summary(`Archive ${name}`), path, manifest: null, bytes, fault: `It ${(error as Error).message}.` }
      : null
  }
}

const looksLikeArchive = (name: string) => /\.(zip|tar)$/i.test(name)

/** The backup with this id as a link; null where there is none. */
export async function archiveLink(id: string): Promise<Link | null> {
  if (!id.startsWith('backup-')) return null
  const found = (await allFound()).find((one) => one.summary.id === id)
  return found ? linkTo(found) : null
}

function linkTo(found: Found): Link {
  const { id } = found.summary
  const opened = async (): Promise<Backup> => {
    forgetOld()
    const held = open.get(id)
    if (held) {
      held.used = Date.now()
      return held.backup
    }
    if (found.fault) throw linkFailure('damaged', found.fault)
    if (found.manifest?.identity)
      throw linkFailure('not-ready', 'This backup is encrypted: it opens with its password.')
    return hold(id, await openBackup(found.path, ''))
  }
  const cannot = async () => {
    throw linkFailure('not-met', 'A backup is only read; nothing is done to it.')
  }
  return {
    state: async () =>
      stateOf(found, open.has(id) || !found.manifest?.identity ? await opened().catch(() => null) : null),
    answer: async ({ answer, value }) => {
      if (answer === 'sign-out') await close(id)
      else if (answer === 'password') hold(id, await openBackup(found.path, value))
      else throw linkFailure('bad-request', 'A backup asks for no such thing.')
      return stateOf(found, open.get(id)?.backup ?? null)
    },
    list: async (keep, after) => {
      const items = (await opened()).index.items.filter((one) => one.keep === keep)
      const next = after + PAGE < items.length ? after + PAGE : null
      return { items: items.slice(after, after + PAGE).map(withoutEntry), next }
    },
    read: async (keep, item, from = 0) => {
      const backup = await opened()
      const wanted = backup.index.items.find((one) => one.keep === keep && one.id === item)
      if (!wanted) throw linkFailure('not-found', 'That item is not in the backup.')
      return partsFrom(backup, wanted, from)
    },
    putBack: cannot,
    offer: cannot,
    act: cannot,
    leave: () => close(id),
  }
}

function withoutEntry({ keep: _, entry: __, ...item }: BackupItem): LinkItem {
  return item
}

async function* partsFrom(backup: Backup, item: BackupItem, from: number): AsyncIterable<Uint8Array> {
  let at = 0
  try {
    for await (const part of backup.read(item)) {
      const skip = Math.max(0, from - at)
      at += part.length
      if (skip < part.length) yield skip === 0 ? part : part.subarray(skip)
    }
  } catch (error) {
    throw linkFailure('damaged', `${(error as Error).message}.`)
  }
}

function hold(id: string, backup: Backup): Backup {
  const old = open.get(id)
  open.set(id, { backup, used: Date.now() })
  void old?.backup.close()
  return backup
}

async function close(id: string): Promise<void> {
  const held = open.get(id)
  open.delete(id)
  await held?.backup.close()
}

function forgetOld() {
  for (const [id, { used }] of open) if (used < Date.now() - FORGET_MS) void close(id)
}

function stateOf(found: Found, backup: Backup | null): LinkState {
  const { manifest, fault } = found
  const isLocked = backup === null && fault === null
  const warnings = backup?.warnings ?? []
  return {
    ...found.summary,
    state: fault !== null ? 'lost' : isLocked ? 'signed-out' : 'ready',
    says:
      fault ??
      (isLocked
        ? 'This backup is encrypted. What it holds is seen once it is open.'
        : warnings.length > 0
          ? `It is open. ${warnings.length} remarks: ${warnings[0]}.`
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
    power: null,
    room: null,
    isOnline: false,
    triesLeft: null,
    triesEnd: null,
    encryption: manifest?.identity ? 'whole-device' : 'none',
    account: null,
    sessionEnds: null,
    bytesPerSecond: 100_000_000,
    keeps: backup ? keepsOf(backup, manifest) : [],
    actions: [],
    tasks: [],
    mark: `${found.bytes}`,
    now: useLanternTime(),
  }
}

const useLanternTime = () => new Date(useLantern().clock.now()).toISOString()

function keepsOf(backup: Backup, manifest: BackupManifest | null): Keep[] {
  return backup.index.keeps.map((keep) => {
    const items = backup.index.items.filter((one) => one.keep === keep.id)
    return {
      ...keep,
      count: items.length,
      bytes: items.reduce((sum, one) => sum + one.bytes, 0),
      asOf: manifest?.taken ?? null,
      closed: null,
      backup: null,
    }
  })
}

/** What every backup in the folders says of itself, by the id of its link. */
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

/** What a backup in a folder says of itself, for choosing among backups. */
export async function manifestOf(id: string): Promise<{ manifest: BackupManifest; bytes: number } | null> {
  const found = (await allFound()).find((one) => one.summary.id === id)
  return found?.manifest ? { manifest: found.manifest, bytes: found.bytes } : null
}
