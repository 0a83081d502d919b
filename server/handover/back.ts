import { join } from 'node:path'
import { and, asc, eq, sql } from 'drizzle-orm'
import { dayIn } from '../../core/bench/days'
import { MAX_SAMPLES, type BackAnswer, type BackGroup } from '../../core/handover/back'
import type { Shop } from '../../core/playbook/shop'
import { requireConsent } from '../cases/consent'
import { readStored } from '../cases/rows'
import { shelfItems } from '../db/tables'
import { notFound } from '../failure'
import { pictureOfFile, thumbOfFile } from '../listings/preview'
import { shelfFolder } from '../shelf/place'

/** What was read back on the shelf of a case, by wanted set and by the day on which it was made. */
export function backOf(code: string, shop: Shop): BackAnswer {
  const { database } = useLantern()
  const stored = readStored(database, code)
  requireConsent(stored)
  const rows = database
    .select({
      id: shelfItems.id,
      name: shelfItems.name,
      type: shelfItems.type,
      wanted: shelfItems.wanted,
      whole: shelfItems.whole,
      made: sql<
        string | null
      >`coalesce(json_extract(${shelfItems.body}, '$.made'), json_extract(${shelfItems.body}, '$.changed'))`,
    })
    .from(shelfItems)
    .where(and(eq(shelfItems.caseId, stored.id), eq(shelfItems.state, 'verified')))
    .orderBy(asc(shelfItems.id))
    .all()
  const sets = new Map<string | null, Map<string | null, BackGroup>>(
    stored.case.wanted.map(({ id }) => [id, new Map()]),
  )
  for (const { id, name, type, wanted, whole, made } of rows) {
    const groups = sets.get(wanted) ?? new Map<string | null, BackGroup>()
    sets.set(wanted, groups)
    const day = made === null ? null : dayIn(shop.zone, Date.parse(made))
    const group = groups.get(day) ?? { day, count: 0, damaged: 0, unverified: 0, samples: [] }
    groups.set(day, group)
    group.count++
    if (whole === 'partial') group.damaged++
    if (whole === 'unverified') group.unverified++
    if (group.samples.length < MAX_SAMPLES) group.samples.push({ id, name, hasThumb: type === 'photos' })
  }
  return {
    shop: shop.name,
    sets: [...sets].map(([wanted, groups]) => ({ wanted, groups: [...groups.values()].sort(byDay) })),
  }
}

/** Items without a date come last. */
const byDay = (one: BackGroup, other: BackGroup) => (one.day ?? '9999').localeCompare(other.day ?? '9999')

/** A thumbnail of a picture on the shelf; throws a Failure where there is none. */
export const shelfThumb = async (code: string, id: number): Promise<Uint8Array> => {
  const { path, row } = await verifiedFile(code, id)
  const thumb = await thumbOfFile(path, row)
  if (!thumb) throw notFound('small picture of it')
  return thumb
}

/** A picture on the shelf, as large as a screen; throws a Failure where it cannot be drawn. */
export const shelfPicture = async (code: string, id: number): Promise<Uint8Array> => {
  const { path, row } = await verifiedFile(code, id)
  const picture = await pictureOfFile(path, row)
  if (!picture) throw notFound('picture of it')
  return picture
}

async function verifiedFile(code: string, id: number) {
  const { database } = useLantern()
  const stored = readStored(database, code)
  requireConsent(stored)
  const row = Number.isInteger(id)
    ? database
        .select()
        .from(shelfItems)
        .where(and(eq(shelfItems.id, id), eq(shelfItems.caseId, stored.id), eq(shelfItems.state, 'verified')))
        .get()
    : undefined
  if (!row) throw notFound('such item on the shelf')
  return { row, path: join(await shelfFolder(stored.case.code), ...row.path.split('/')) }
}
