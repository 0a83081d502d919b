import { lstat, readdir, realpath, rm, stat } from 'node:fs/promises'
import { dirname, join, sep } from 'node:path'
import { and, count, eq, inArray, ne, sql } from 'drizzle-orm'
import type { HeldCounts } from '../../core/afterwards/record'
import type { WipedPart } from '../../core/cases/shape/wiping'
import { hasCaseKey, type Handle } from '../db/history/keys'
import {
  attachments,
  batches,
  caseLinks,
  cases,
  finds,
  handouts,
  history,
  listings,
  papers,
  secrets,
  shelfItems,
} from '../db/tables'
import { archivePath } from '../links/archive-links'
import { caseFolder } from '../links/case-folders'
import { splitParts } from '../../disk/split-parts'
import { mediumById } from '../links/register'

/** The sheets that go with the data: they say what was looked for and what came back. Receipts stay with the person. */
const SHEETS_OF_DATA = ['options', 'report', 'annex'] as const

/** The rooms whose files go with the data; attachments go one by one. */
const ROOMS_OF_DATA = ['shelf', 'by-hand', 'fetched'] as const

/** What is outside of the database: what is unlinked with the data, and what the shop cannot wipe by itself. */
export interface HeldFiles {
  readonly folders: readonly string[]
  /** images and backups in the shop's own folders that no other case reads */
  readonly own: readonly string[]
  /** named folders, media and archives elsewhere, and copies that were handed out */
  readonly outside: readonly string[]
}

export async function heldFiles(handle: Handle, caseId: number, code: string): Promise<HeldFiles> {
  const own: string[] = []
  const outside = new Set<string>()
  const links = handle.select({ link: caseLinks.link }).from(caseLinks).where(eq(caseLinks.caseId, caseId)).all()
  const folders = ROOMS_OF_DATA.map((room) => caseFolder(room, code))
  for (const link of new Set(links.map((one) => one.link))) {
    const path = await pathOf(link)
    if (path === null || folders.some((folder) => path.startsWith(folder + sep))) continue
    const isOurs = ['media', 'backups'].some((name) => path.startsWith(join(dataFolder(), name) + sep))
    if (isOurs && !isSharedWith(handle, caseId, link)) own.push(...(splitParts(path)?.paths ?? [path]))
    else outside.add(path)
  }
  const named = handle
    .select()
    .from(batches)
    .where(and(eq(batches.caseId, caseId), eq(batches.kind, 'by-hand')))
    .all()
  for (const { folder, path } of named) if (folder === null) outside.add(path)
  const out = handle
    .select()
    .from(handouts)
    .where(and(eq(handouts.caseId, caseId), eq(handouts.state, 'done')))
    .all()
  for (const { path } of out) outside.add(path)
  return { folders, own, outside: [...outside] }
}

async function pathOf(link: string): Promise<string | null> {
  const medium = await mediumById(link)
  if (medium) return medium.isStandIn ? null : medium.place.path
  return archivePath(link)
}

/** Whether another case, whose data was not wiped, reads the same. */
const isSharedWith = (handle: Handle, caseId: number, link: string): boolean =>
  handle
    .select({ id: cases.id })
    .from(caseLinks)
    .innerJoin(cases, eq(cases.id, caseLinks.caseId))
    .where(and(eq(caseLinks.link, link), ne(cases.id, caseId), eq(cases.isDataWiped, false)))
    .get() !== undefined

/** How much of a part is in the database. */
export function heldRows(handle: Handle, caseId: number, part: WipedPart): Omit<HeldCounts, 'files' | 'bytes'> {
  const number = (query: { count: number } | undefined) => query?.count ?? 0
  const isData = part === 'data'
  const items = isData
    ? number(
        handle
          .select({ count: count() })
          .from(finds)
          .innerJoin(listings, eq(listings.id, finds.listingId))
          .where(eq(listings.caseId, caseId))
          .get(),
      ) + number(handle.select({ count: count() }).from(shelfItems).where(eq(shelfItems.caseId, caseId)).get())
    : 0
  return {
    items,
    sheets: number(handle.select({ count: count() }).from(papers).where(sheetsOf(caseId, part)).get()),
    pictures: number(handle.select({ count: count() }).from(attachments).where(picturesOf(caseId, part)).get()),
    secrets: number(handle.select({ count: count() }).from(secrets).where(eq(secrets.caseId, caseId)).get()),
    entries: hasCaseKey(handle, caseId)
      ? number(handle.select({ count: count() }).from(history).where(eq(history.caseId, caseId)).get())
      : 0,
  }
}

/** The sheets that go with a part; with the person, all that are left. */
export const sheetsOf = (caseId: number, part: WipedPart) =>
  and(eq(papers.caseId, caseId), part === 'data' ? inArray(papers.kind, [...SHEETS_OF_DATA]) : sql`true`)

/** The pictures that go with a part: photos with the data; signatures and signed papers with the person. */
export const picturesOf = (caseId: number, part: WipedPart) =>
  and(eq(attachments.caseId, caseId), part === 'data' ? eq(attachments.kind, 'photo') : sql`true`)

/** How many files there are below some paths, and their bytes. */
export async function sizeOfAll(paths: readonly string[]): Promise<{ files: number; bytes: number }> {
  const sum = { files: 0, bytes: 0 }
  for (const path of paths) {
    const facts = await stat(path).catch(() => null)
    if (facts?.isFile()) {
      sum.files++
      sum.bytes += facts.size
    } else if (facts?.isDirectory()) {
      const names = await readdir(path).catch(() => [])
      const inner = await sizeOfAll(names.map((name) => join(path, name)))
      sum.files += inner.files
      sum.bytes += inner.bytes
    }
  }
  return sum
}

/** Unlinks files and folders; what is gone already is no fault. */
export async function unlinkAll(paths: readonly string[]): Promise<void> {
  for (const path of paths) {
    // A shelf on another disk is a link: what it leads to goes first. While that disk is not connected, this has not been done.
    const isShelf = dirname(path) === join(dataFolder(), 'shelf')
    if (isShelf && (await lstat(path).catch(() => null))?.isSymbolicLink())
      await rm(await realpath(path), { recursive: true, force: true })
    await rm(path, { recursive: true, force: true })
  }
}
