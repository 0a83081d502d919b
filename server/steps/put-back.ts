import { sayBytes } from '../../core/cases/telling/saying/amounts'
import { readStoredFind } from '../db/stored-find'
import { readFile } from 'node:fs/promises'
import { createHash } from 'node:crypto'
import { join } from 'node:path'
import { readStored, type Writer } from '../cases/rows'
import { Failure, invalid, refused } from '../failure'
import { requireConsent } from '../cases/consent'
import { requireAttached } from '../links/case-links'
import { linkById } from '../links/links'
import { noteAtBench } from '../links/notes'
import { shelfFolder } from '../shelf/place'
import { verifiedItems } from '../shelf/shelf'

/**
 * Restores items of the shelf to a device or an account. Only verified items are restored, each file is checked once
 * more before, and the free space before the first.
 */
export async function putBackFromShelf(
  code: string,
  linkId: string,
  { keep, items }: { readonly keep: string; readonly items: readonly number[] },
  writer: Writer,
): Promise<{ count: number }> {
  const stored = readStored(useLantern().database, code)
  requireAttached(stored, linkId)
  requireConsent(stored)
  const shelf = new Map(verifiedItems(stored.id).map((row) => [row.id, row]))
  const strange = items.find((id) => !shelf.has(id))
  if (strange !== undefined)
    throw invalid([{ path: 'items', message: `contains an item that has not been copied and read back (${strange})` }])
  const rows = items.map((id) => shelf.get(id)!)
  const link = await linkById(linkId)
  const state = await link.state()
  const home = state.keeps.find((one) => one.id === keep)
  if (!home) throw invalid([{ path: 'keep', message: 'is not on it' }])
  const bytes = rows.reduce((sum, row) => sum + row.bytes, 0)
  if (state.room && bytes > state.room.free) throw noRoom(rows, state.room.free, bytes)
  const folder = await shelfFolder(code)
  for (const [at, row] of rows.entries()) {
    const content = new Uint8Array(await readFile(join(folder, ...row.path.split('/'))))
    if (createHash('sha256').update(content).digest('hex') !== row.sha256)
      throw refused(`“${row.name}” on the shelf has changed since it was copied. ${at} were put back before it.`)
    const body = readStoredFind(row.body)
    await link.putBack(keep, {
      item: {
        id: `back-${row.id}`,
        name: body.name,
        place: body.place,
        type: body.type,
        mime: body.mime,
        made: body.made,
        record: body.record,
      },
      bytes: content,
    })
  }
  noteAtBench(code, linkId, `put ${rows.length} items back on “${state.title}”, into “${home.title}”`, writer)
  return { count: rows.length }
}

/** Says what to do where space is short: how many items would fit, or another medium. */
function noRoom(rows: readonly { bytes: number }[], free: number, bytes: number): Failure {
  let left = free
  const fitting = [...rows]
    .sort((one, other) => one.bytes - other.bytes)
    .filter((row) => (left -= row.bytes) >= 0).length
  return new Failure('refused', `It has room for ${sayBytes(free)} and this takes ${sayBytes(bytes)}.`, {
    safe: `Nothing was put back. ${fitting} of the ${rows.length} would fit; or hand over all of them on another medium.`,
    fields: [
      { path: 'room.free', message: String(free) },
      { path: 'room.needed', message: String(bytes) },
      { path: 'room.fitting', message: String(fitting) },
    ],
  })
}
