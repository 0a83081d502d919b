// Reads one backup or archive that a client brought, in a process of its own: what it says about itself, its items,
// their bytes.
import { createHash } from 'node:crypto'
import type { BackupItem } from '../../core/archives/manifest'
import { linkFailure } from '../../core/bench/fault'
import type { ItemPage, LinkItem } from '../../core/bench/item'
import { openBackup, readManifest, type Backup } from '../archives/backup'
import { openContainer } from '../archives/open'
import { answerInProcess } from './answer-in-process'
import type { ArchiveOrder, ArchiveTold, DescribedArchive, OpenedArchive } from './archive-messages'

const PAGE = 500
const NEXT_BYTES = 1 << 20

let open: Backup | null = null
const streams = new Map<number, AsyncIterator<Uint8Array>>()
let nextStream = 0

answerInProcess<ArchiveOrder>(async (order): Promise<ArchiveTold> => {
  switch (order.ask) {
    case 'describe':
      return describe(order.path)
    case 'open':
      return opened(order.path, order.password)
    case 'page':
      return pageOf(order.keep, order.after)
    case 'read':
      return begin(order)
    case 'next':
      return nextOf(order.stream)
    case 'leave':
      return leave(order.stream)
    case 'verify':
      return verify(order)
  }
})

/**
 * What an archive says about itself; entries missing from its directory are not searched for. Throws where it is no
 * archive.
 */
async function describe(path: string): Promise<DescribedArchive> {
  const container = await openContainer(path, { isSalvaged: false })
  try {
    const manifest = await readManifest(container)
    const bytes = container.entries.reduce((sum, entry) => sum + entry.bytes, 0)
    return { manifest, entries: container.entries.length, bytes }
  } finally {
    await container.close()
  }
}

async function opened(path: string, password: string): Promise<OpenedArchive> {
  const backup = await openBackup(path, password)
  await open?.close()
  streams.clear()
  open = backup
  const sums = new Map<string, { count: number; bytes: number }>()
  for (const { keep, bytes } of backup.index.items) {
    const sum = sums.get(keep) ?? { count: 0, bytes: 0 }
    sums.set(keep, { count: sum.count + 1, bytes: sum.bytes + bytes })
  }
  return {
    keeps: backup.index.keeps.map((keep) => ({ ...keep, ...(sums.get(keep.id) ?? { count: 0, bytes: 0 }) })),
    warnings: { count: backup.warnings.length, first: backup.warnings[0] ?? null },
  }
}

function current(): Backup {
  if (!open) throw linkFailure('session-ended', 'The backup was closed in the meantime. Open it again.')
  return open
}

function pageOf(keep: string, after: number): ItemPage {
  const items = current().index.items.filter((one) => one.keep === keep)
  const next = after + PAGE < items.length ? after + PAGE : null
  return { items: items.slice(after, after + PAGE).map(withoutEntry), next }
}

function withoutEntry({ keep: _, entry: __, ...item }: BackupItem): LinkItem {
  return item
}

function begin({ keep, item, from }: Extract<ArchiveOrder, { ask: 'read' }>): { stream: number } {
  const backup = current()
  const wanted = backup.index.items.find((one) => one.keep === keep && one.id === item)
  if (!wanted) throw linkFailure('not-found', 'That item is not in the backup.')
  const stream = nextStream++
  streams.set(stream, partsFrom(backup.read(wanted), from)[Symbol.asyncIterator]())
  return { stream }
}

async function* partsFrom(parts: AsyncIterable<Uint8Array>, from: number): AsyncIterable<Uint8Array> {
  let at = 0
  try {
    for await (const part of parts) {
      const skip = Math.max(0, from - at)
      at += part.length
      for (let done = skip; done < part.length; done += NEXT_BYTES) yield part.subarray(done, done + NEXT_BYTES)
    }
  } catch (error) {
    throw linkFailure('damaged', `${(error as Error).message}.`)
  }
}

async function nextOf(stream: number): Promise<{ part: Uint8Array | null }> {
  const step = await streams.get(stream)?.next()
  if (step && !step.done) return { part: step.value }
  streams.delete(stream)
  return { part: null }
}

async function leave(stream: number): Promise<null> {
  const one = streams.get(stream)
  streams.delete(stream)
  await one?.return?.()
  return null
}

/**
 * Opens an archive like any backup and reads every item; throws a LinkFailure where one differs from what was copied.
 */
async function verify({ path, items: count, password }: Extract<ArchiveOrder, { ask: 'verify' }>): Promise<null> {
  const backup = await openBackup(path, password)
  try {
    if (backup.index.items.length !== count || backup.warnings.length > 0)
      throw linkFailure('damaged', 'The safety copy does not match the source. Make it again.')
    for (const item of backup.index.items) {
      const hash = createHash('sha256')
      let bytes = 0
      for await (const part of backup.read(item)) {
        hash.update(part)
        bytes += part.length
      }
      const isOther = item.record === null && bytes !== item.bytes
      if (isOther || (item.sha256 !== null && hash.digest('hex') !== item.sha256))
        throw linkFailure('damaged', `“${item.name}” is damaged in the safety copy. Make it again.`)
    }
    return null
  } finally {
    await backup.close()
  }
}
