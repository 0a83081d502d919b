import { lstat, readdir, realpath } from 'node:fs/promises'
import { join, relative, sep } from 'node:path'
import { asc, eq } from 'drizzle-orm'
import { stringify } from 'csv-stringify/sync'
import { erasingOf, type Erasing } from '../../core/afterwards/erasing'
import type { ClientAnswer } from '../../core/exchange/client-answer'
import { frozenBy } from '../../core/cases/shape/freeze'
import { deviceWords, STATE_WORDS } from '../../core/cases/telling/words'
import type { Role } from '../../core/people/person'
import type { Playbook } from '../../core/playbook/playbook'
import { afterwardsOf } from '../afterwards/answer'
import { heldFiles } from '../afterwards/held'
import { requireShelf } from '../shelf/place'
import { wipeCase } from '../afterwards/wipe'
import { readStored, type StoredCase, type Writer } from '../cases/rows'
import { wantedWords } from '../cases/summary'
import { seesStopped } from '../cases/visible'
import { cases, clients, finds, listings } from '../db/tables'
import { invalid, notFound } from '../failure'
import { paperOf, papersOf } from '../handover/papers'
import { pdfOf } from '../handover/pdf'
import { addBundle, type ZipSending } from './write-bundle'

function cardOf(id: string) {
  const card = useLantern().database.select().from(clients).where(eq(clients.id, id)).get()
  if (!card) throw notFound('such client')
  return card
}

/** The cases of a client that this role sees, the oldest first. */
function casesOf(id: string, role: Role): StoredCase[] {
  const { database } = useLantern()
  return database
    .select({ code: cases.code })
    .from(cases)
    .where(eq(cases.clientId, id))
    .orderBy(asc(cases.id))
    .all()
    .map(({ code }) => readStored(database, code))
    .filter((stored) => seesStopped(role) || !isStopped(stored))
}
const isStopped = ({ case: ofCase }: StoredCase) => frozenBy(ofCase.freezes) !== null

const shapeOf = ({ until, ...one }: Erasing) => ({
  ...one,
  until: until === null ? null : new Date(until).toISOString(),
})

/** All about one client, over all their cases. */
export async function clientOf(id: string, role: Role, playbook: Playbook, now: number): Promise<ClientAnswer> {
  const { name, phone, mail } = cardOf(id)
  const all = casesOf(id, role)
  const lines: ClientAnswer['cases'] = []
  for (const stored of all) {
    const { case: ofCase } = stored
    const { held } = await afterwardsOf(ofCase.code, playbook, now)
    lines.push({
      code: ofCase.code,
      what: [wantedWords(ofCase), ...ofCase.devices.slice(0, 1).map(deviceWords)].join(' · '),
      state: STATE_WORDS[ofCase.state.name],
      logged: ofCase.logged,
      isStopped: isStopped(stored),
      held,
      erasing: erasingOf(ofCase, playbook.shop, now).map(shapeOf),
    })
  }
  return { client: { id, name, phone, mail, cases: all.length }, cases: lines }
}

/**
 * Adds everything that the shop holds about a client to an archive, for the client: each case with its history, sheets and
 * attachments, the sheets as PDF, lists of the items that were found, and every file that is kept. Stopped cases are left out.
 * Returns the codes of the cases that are in it.
 */
export async function addClient(
  zip: ZipSending,
  id: string,
  role: Role,
  playbook: Playbook,
  now: number,
): Promise<string[]> {
  const card = cardOf(id)
  const all = casesOf(id, role).filter((stored) => !isStopped(stored))
  zip.addText('client.json', `${JSON.stringify({ ...card, phoneDigits: undefined }, null, 2)}\n`)
  zip.addText(
    'read-me.txt',
    readMe(
      card.name,
      playbook.shop.name,
      all.map((one) => one.case.code),
      now,
    ),
  )
  for (const stored of all) {
    const { code } = stored.case
    await addBundle(zip, stored, `cases/${code}`, playbook.shop.name, now)
    for (const { id: paper, number } of papersOf(stored.id)) {
      const { sheet, size } = paperOf(code, paper, role)
      zip.addText(`cases/${code}/sheets/${number.replace(/[^\w.-]+/g, '-')}.pdf`, await pdfOf(code, sheet, size))
    }
    const found = foundOf(stored.id)
    if (found !== null) zip.addText(`cases/${code}/found.csv`, found)
    // A shelf on another disk is a link.
    await requireShelf(code)
    const { folders, own } = await heldFiles(useLantern().database, stored.id, code)
    for (const path of [...folders, ...own])
      await addTree(zip, `cases/${code}/files/${keptName(path)}`, await realpath(path).catch(() => path))
  }
  return all.map((one) => one.case.code)
}

/** Where a kept file or folder lies in the archive: the folders of a case by what they are, images and backups by their name. */
const keptName = (path: string): string => {
  const [room, ...rest] = relative(dataFolder(), path).split(sep)
  return room === 'media' || room === 'backups' ? [room, ...rest].join('/') : room!
}

/** Adds a file, or everything below a folder; nothing outside of it is followed. */
async function addTree(zip: ZipSending, name: string, path: string): Promise<void> {
  const facts = await lstat(path).catch(() => null)
  if (facts?.isFile()) zip.addFile(name, path, facts.size)
  if (!facts?.isDirectory()) return
  for (const one of (await readdir(path)).sort()) await addTree(zip, `${name}/${one}`, join(path, one))
}

const readMe = (name: string, shop: string, codes: readonly string[], now: number): string =>
  [
    `Everything that ${shop} holds about ${name}, as of ${new Date(now).toISOString().slice(0, 10)}.`,
    '',
    `Cases: ${codes.join(', ') || 'none'}. Of each, in its folder below cases/:`,
    '  case.json         what was told and recorded, with times in UTC',
    '  history.json      every change to it: who made it, and when',
    '  sheets/           receipts and reports as PDF; sheets.json has their words',
    '  attachments/      photos, signatures and signed papers; attachments.json lists them',
    '  found.csv         items that were found on devices and copies, where there are any',
    '  files/            what is still kept: the shelf with safety copies, backups that were fetched, files brought by hand, images',
    '',
    'Passcodes and passwords that were left with us are encrypted and deleted with the work that needed them; they are not in here.',
    'Backups of our database that were made earlier hold the same for a limited time.',
    '',
  ].join('\n')

/** The items that were found for a case, as CSV; null where none were. */
function foundOf(caseId: number): string | null {
  const rows = useLantern()
    .database.select({
      list: listings.title,
      name: finds.name,
      place: finds.place,
      type: finds.type,
      bytes: finds.bytes,
      made: finds.made,
      state: finds.presence,
    })
    .from(finds)
    .innerJoin(listings, eq(listings.id, finds.listingId))
    .where(eq(listings.caseId, caseId))
    .all()
  return rows.length === 0 ? null : stringify(rows, { header: true, escape_formulas: true })
}

/** Erases what can be erased of a client; returns how many parts were wiped. */
export async function eraseClient(
  id: string,
  name: string,
  { role, playbook, writer }: { readonly role: Role; readonly playbook: Playbook; readonly writer: Writer },
): Promise<number> {
  const card = cardOf(id)
  if (name.toLowerCase() !== card.name.toLowerCase())
    throw invalid([{ path: 'name', message: 'is not the name of this client' }])
  let count = 0
  for (const { case: ofCase } of casesOf(id, role))
    for (const { part, does } of erasingOf(ofCase, playbook.shop, writer.now))
      if (does === 'wipe') {
        await wipeCase(ofCase.code, { part, by: writer.by, why: 'wish', now: writer.now })
        count++
      }
  return count
}

/** Whether anything of the shop still names a client. */
export const isKnownClient = (id: string): boolean =>
  useLantern().database.select({ id: clients.id }).from(clients).where(eq(clients.id, id)).get() !== undefined
