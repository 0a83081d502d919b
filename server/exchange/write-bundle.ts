import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Readable } from 'node:stream'
import { asc, eq } from 'drizzle-orm'
import { ZipFile } from 'yazl'
import {
  ATTACHMENT_FOLDER,
  BUNDLE_FILES,
  BUNDLE_FORMAT,
  MAX_BUNDLE_ENTRIES,
  type BundleAttachment,
  type BundleEntry,
  type BundleManifest,
  type BundleSheet,
} from '../../core/exchange/bundle'
import { writeCase } from '../../core/cases/facts/exchange'
import { ATTACHMENT_TYPES, type AttachmentType } from '../../core/handover/attachment'
import { SheetDocument } from '../../core/handover/document'
import { caseFolder } from '../links/case-folders'
import { historySince, type StoredCase } from '../cases/rows'
import { attachments, papers } from '../db/tables'

/** A zip archive that is packed while it is sent; a fault in any file ends it before its end. */
export class ZipSending {
  private readonly zip = new ZipFile()
  readonly stream = this.zip.outputStream as unknown as Readable

  constructor(private readonly now: number) {
    this.zip.on('error', (error: Error) => void this.stream.destroy(error))
  }

  addText(name: string, text: string | Buffer): void {
    this.zip.addBuffer(Buffer.from(text), name, { mtime: new Date(this.now) })
  }

  /** `size`: bytes, so that large files are announced as such (zip64) */
  addFile(name: string, path: string, size: number): void {
    this.zip.addReadStreamLazy(name, { mtime: new Date(this.now), size, compress: false }, (done) =>
      done(
        null,
        createReadStream(path).once('error', (error) => void this.stream.destroy(error)),
      ),
    )
  }

  end(): Readable {
    this.zip.end()
    return this.stream
  }
}

const jsonText = (value: unknown) => `${JSON.stringify(value, null, 2)}\n`
const sha256Of = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex')

/**
 * Adds everything that the database says of a case to an archive, below a folder: the case, its history, its sheets and its
 * attachments, with a manifest of checksums. An attachment whose file is gone is left out.
 */
export async function addBundle(
  zip: ZipSending,
  stored: StoredCase,
  folder: string,
  shop: string,
  now: number,
): Promise<void> {
  const { database } = useLantern()
  const files: Record<string, string> = {}
  const add = (name: string, text: string | Buffer) => {
    const bytes = Buffer.from(text)
    files[name] = sha256Of(bytes)
    zip.addText(`${folder}/${name}`, bytes)
  }
  const entries: BundleEntry[] = historySince(database, stored.id, 0)
    .slice(-MAX_BUNDLE_ENTRIES)
    .map(({ at, by, kind, fact, was, is }) => ({ at, by, kind, fact, was, is }))
  const sheets: BundleSheet[] = database
    .select()
    .from(papers)
    .where(eq(papers.caseId, stored.id))
    .orderBy(asc(papers.id))
    .all()
    .map(({ kind, number, head, at, by, body }) => ({
      kind,
      number,
      head,
      at,
      by,
      sheet: SheetDocument.parse(JSON.parse(body)),
    }))
  add(BUNDLE_FILES.case, writeCase(stored.case))
  add(BUNDLE_FILES.history, jsonText(entries))
  add(BUNDLE_FILES.sheets, jsonText(sheets))
  const rows = database
    .select()
    .from(attachments)
    .where(eq(attachments.caseId, stored.id))
    .orderBy(asc(attachments.id))
    .all()
  const kept: BundleAttachment[] = []
  for (const { id, kind, part, name, mime, sha256, at, by, file } of rows) {
    const bytes = await readFile(join(caseFolder('attachments', stored.case.code), file)).catch(() => null)
    if (!bytes || sha256Of(bytes) !== sha256) continue
    const own = `${id}.${ATTACHMENT_TYPES[mime as AttachmentType]}`
    kept.push({ id, kind, part, name, mime, file: own, sha256, at, by })
    add(`${ATTACHMENT_FOLDER}/${own}`, bytes)
  }
  add(BUNDLE_FILES.attachments, jsonText(kept))
  const manifest: BundleManifest = {
    format: BUNDLE_FORMAT,
    version: 1,
    code: stored.case.code,
    shop,
    made: new Date(now).toISOString(),
    files,
  }
  zip.addText(`${folder}/${BUNDLE_FILES.manifest}`, jsonText(manifest))
}
