import { createHash, randomUUID } from 'node:crypto'
import { mkdir, open, readFile, rename, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { and, desc, eq } from 'drizzle-orm'
import {
  ATTACHMENT_TYPES,
  attachmentTypeOf,
  MAX_ATTACHMENT_BYTES,
  type Attachment,
  type AttachmentType,
} from '../../core/handover/attachment'
import { isSigned, signatureSvg, type Signature } from '../../core/handover/signature'
import { noteHappening, readStored, type Writer } from '../cases/rows'
import { attachments } from '../db/tables'
import { invalid, notFound, refused } from '../failure'
import { caseFolder } from '../links/case-folders'
import { asDiskFault, DiskFault } from '../links/disk-fault'
import { diskRoom } from '../shelf/room'

const folderOf = (code: string) => caseFolder('attachments', code)

interface NewAttachment {
  readonly kind: Attachment['kind']
  readonly part: string
  readonly name: string
}

/** Stores a picture or a paper of a case; throws a Failure where its bytes are of no type that is taken. */
export function attachFile(code: string, what: NewAttachment, bytes: Uint8Array, writer: Writer): Promise<Attachment> {
  const mime = attachmentTypeOf(bytes)
  if (!mime) throw invalid([{ path: 'file', message: 'is no picture (JPEG, PNG, WebP) and no PDF' }])
  return attach(code, what, mime, bytes, writer)
}

/** Stores a signature that was drawn on the screen. */
export function attachSignature(code: string, signature: Signature, name: string, writer: Writer): Promise<Attachment> {
  if (!isSigned(signature)) throw refused('That is too little to be a signature. Sign again.')
  const svg = Buffer.from(signatureSvg(signature), 'utf8')
  return attach(code, { kind: 'signature', part: '', name }, 'image/svg+xml', svg, writer)
}

async function attach(
  code: string,
  { kind, part, name }: NewAttachment,
  mime: AttachmentType,
  bytes: Uint8Array,
  writer: Writer,
): Promise<Attachment> {
  const { database } = useLantern()
  const { id: caseId } = readStored(database, code)
  if (bytes.length > MAX_ATTACHMENT_BYTES) throw refused('The file is too large. Make the picture smaller.')
  if (bytes.length > (await diskRoom())) throw refused('The shop’s disk is full. Make room on it first.')
  const file = `${randomUUID()}.${ATTACHMENT_TYPES[mime]}`
  await write(folderOf(code), file, bytes)
  const sha256 = createHash('sha256').update(bytes).digest('hex')
  const row = {
    kind,
    part,
    name,
    mime,
    bytes: bytes.length,
    sha256,
    at: new Date(writer.now).toISOString(),
    by: writer.by,
  }
  const says = `added ${KIND_WORDS[kind]}: ${name}`
  const id = database.transaction(
    () => {
      const made = database
        .insert(attachments)
        .values({ ...row, caseId, file })
        .returning({ id: attachments.id })
        .get()
      const happening = { kind: 'hand-over' as const, fact: `attachments.${made.id}`, was: null, is: { says, sha256 } }
      noteHappening(database, code, happening, writer)
      return made.id
    },
    { behavior: 'immediate' },
  )
  return { id, ...row }
}

const KIND_WORDS: Record<Attachment['kind'], string> = {
  photo: 'a photo',
  signature: 'a signature',
  paper: 'a paper',
}

/** Whole or not at all. */
async function write(folder: string, file: string, bytes: Uint8Array): Promise<void> {
  const path = join(folder, file)
  try {
    await mkdir(folder, { recursive: true, mode: 0o700 })
    const part = await open(`${path}.part`, 'wx', 0o600)
    try {
      await part.writeFile(bytes)
      await part.sync()
    } finally {
      await part.close()
    }
    await rename(`${path}.part`, path)
  } catch (error) {
    await rm(`${path}.part`, { force: true }).catch(() => {})
    const fault = asDiskFault(error)
    throw fault instanceof DiskFault ? refused(fault.message) : error
  }
}

/** The attachments of a case, the newest first. */
export function attachmentsOf(caseId: number): Attachment[] {
  return useLantern()
    .database.select()
    .from(attachments)
    .where(eq(attachments.caseId, caseId))
    .orderBy(desc(attachments.id))
    .all()
    .map(shapeOf)
}

const shapeOf = ({ caseId: _, file: __, ...row }: typeof attachments.$inferSelect): Attachment => ({
  ...row,
  mime: row.mime as AttachmentType,
})

/** An attachment of a case with its bytes; throws a Failure where there is none, or where its bytes were changed. */
export async function readAttachment(code: string, id: number): Promise<{ of: Attachment; bytes: Buffer }> {
  const { database } = useLantern()
  const { id: caseId } = readStored(database, code)
  const row = Number.isInteger(id)
    ? database
        .select()
        .from(attachments)
        .where(and(eq(attachments.id, id), eq(attachments.caseId, caseId)))
        .get()
    : undefined
  if (!row) throw notFound('such attachment')
  const bytes = await readFile(join(folderOf(code), row.file)).catch(() => null)
  if (!bytes) throw refused('The file of this attachment is no longer there.')
  if (createHash('sha256').update(bytes).digest('hex') !== row.sha256)
    throw refused('The file of this attachment was changed since it was stored.')
  return { of: shapeOf(row), bytes }
}
