import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { join } from 'node:path'
import { Transform, type Readable } from 'node:stream'
import { ZipFile } from 'yazl'
import { bagTags, PAYLOAD } from '../../core/handover/bag'
import { readMe } from '../../core/handover/read-me'
import { printedHead } from '../../core/history/chain'
import type { StoredCase } from '../cases/rows'
import { historyHead } from '../db/history/entries'
import { refused } from '../failure'
import { shelfFolder } from './place'
import { verifiedItems } from './shelf'

export interface PackedBag {
  readonly stream: Readable
  /** bytes of the whole archive */
  readonly size: number
  readonly count: number
}

/**
 * Everything that was read back on a case's shelf as a bag (RFC 8493) in one zip archive, packed while it is sent. Every
 * file is checked against its recorded checksum on its way; one that no longer matches ends the archive before its end, so
 * that nobody takes it for a whole one.
 */
export async function packBag(stored: StoredCase, shop: string, now: number): Promise<PackedBag> {
  const rows = verifiedItems(stored.id).flatMap((row) => (row.sha256 === null ? [] : [{ ...row, sha256: row.sha256 }]))
  if (rows.length === 0) throw refused('Nothing is on the shelf yet that was copied and read back.')
  const folder = await shelfFolder(stored.case.code)
  const { code } = stored.case
  const mtime = new Date(now)
  const tags = bagTags(
    rows,
    {
      source: shop,
      identifier: code,
      date: mtime.toISOString().slice(0, 10),
      head: printedHead(historyHead(useLantern().database)),
    },
    [{ name: 'read-me.txt', text: readMe(code, shop, rows) }],
  )
  const zip = new ZipFile()
  for (const { name, text } of tags)
    zip.addBuffer(Buffer.from(text, 'utf8'), `${code}/${name}`, { mtime, compress: false })
  const stream = zip.outputStream as unknown as Readable
  // An error of one file ends the whole archive.
  const fail = (error: Error) => void stream.destroy(error)
  for (const { path, bytes, sha256 } of rows)
    zip.addReadStreamLazy(`${code}/${PAYLOAD}/${path}`, { mtime, size: bytes, compress: false }, (done) => {
      const file = createReadStream(join(folder, path)).once('error', fail)
      done(null, file.pipe(checking(path, sha256)).once('error', fail))
    })
  zip.on('error', fail)
  const size = await new Promise<number>((done) => end.call(zip, undefined, done))
  return { stream, size, count: rows.length }
}

/** The size of the whole archive is known before it is written; the types of the package leave it out. */
const end = ZipFile.prototype.end as (this: ZipFile, options: undefined, sized: (bytes: number) => void) => void

/** Passes bytes through, and fails at their end where they are not those of the checksum. */
function checking(path: string, sha256: string): Transform {
  const hash = createHash('sha256')
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      hash.update(chunk)
      done(null, chunk)
    },
    flush(done) {
      done(hash.digest('hex') === sha256 ? null : new Error(`“${path}” on the shelf no longer matches its checksum.`))
    },
  })
}
