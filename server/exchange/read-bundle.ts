// Reads the bundle of a case in a process beside the server: its archive is whatever somebody brought.
import { createHash } from 'node:crypto'
import type { z } from 'zod'
import {
  ATTACHMENT_FOLDER,
  BUNDLE_FILES,
  BundleAttachments,
  BundleHistory,
  BundleManifest,
  BundleSheets,
} from '../../core/exchange/bundle'
import { readCase } from '../../core/cases/facts/exchange'
import { faultsOf, type Fault } from '../../core/cases/shape/faults'
import { attachmentTypeOf, MAX_ATTACHMENT_BYTES } from '../../core/handover/attachment'
import { isSignatureSvg } from '../../core/handover/signature'
import type { Container } from '../../core/archives/container'
import { openZip } from '../archives/zip'
import { answerInProcess } from '../threads/answer-in-process'
import type { BundleOrder, ReadBundle } from './bundle-messages'

/** The most bytes of a text in a bundle. */
const MAX_TEXT_BYTES = 40_000_000

class BundleFault extends Error {
  constructor(readonly faults: Fault[]) {
    super('')
  }
}
const fault = (path: string, message: string) => new BundleFault([{ path, message }])

answerInProcess<BundleOrder>(async ({ path, file }): Promise<ReadBundle | Uint8Array> => {
  const zip = await openZip(path, false)
  try {
    return await (file === null ? read(zip) : attachment(zip, file))
  } catch (error) {
    if (error instanceof BundleFault) return { ok: false, faults: error.faults }
    return { ok: false, faults: [{ path: '', message: 'cannot be read as the bundle of a case' }] }
  } finally {
    await zip.close()
  }
})

async function bytesOf(zip: Container, name: string, most: number): Promise<Buffer> {
  const entry = zip.entries.find((one) => one.name === name)
  if (!entry) throw fault(name, 'is missing from the bundle')
  if (entry.bytes > most) throw fault(name, 'is too large')
  const parts: Uint8Array[] = []
  for await (const part of zip.read(name)) parts.push(part)
  return Buffer.concat(parts)
}

/** The folder of the one bundle in an archive: its files may lie at the top or in one folder. */
function folderOf(zip: Container): string {
  const manifests = zip.entries.filter(
    ({ name }) => name === BUNDLE_FILES.manifest || name.endsWith(`/${BUNDLE_FILES.manifest}`),
  )
  if (manifests.length === 0) throw fault('', `holds no ${BUNDLE_FILES.manifest}, and so is no bundle of a case`)
  if (manifests.length > 1) throw fault('', 'holds several cases: import them one by one')
  return manifests[0]!.name.slice(0, -BUNDLE_FILES.manifest.length)
}

async function read(zip: Container): Promise<ReadBundle> {
  const folder = folderOf(zip)
  const manifest = parsed(
    BundleManifest,
    BUNDLE_FILES.manifest,
    await bytesOf(zip, folder + BUNDLE_FILES.manifest, MAX_TEXT_BYTES),
  )
  const text = async (name: string) => {
    const bytes = await bytesOf(zip, folder + name, MAX_TEXT_BYTES)
    requireSum(name, bytes, manifest.files[name])
    return bytes
  }
  const file = readCase((await text(BUNDLE_FILES.case)).toString('utf8'))
  if (!file.ok) throw new BundleFault(file.faults)
  return {
    ok: true,
    manifest,
    case: file.read,
    history: parsed(BundleHistory, BUNDLE_FILES.history, await text(BUNDLE_FILES.history)),
    sheets: parsed(BundleSheets, BUNDLE_FILES.sheets, await text(BUNDLE_FILES.sheets)),
    attachments: parsed(BundleAttachments, BUNDLE_FILES.attachments, await text(BUNDLE_FILES.attachments)),
  }
}

/** The bytes of one attachment; refused where they are not what the list says, or no picture and no PDF. */
async function attachment(
  zip: Container,
  { name, sha256, mime }: NonNullable<BundleOrder['file']>,
): Promise<Uint8Array> {
  const bytes = await bytesOf(zip, `${folderOf(zip)}${ATTACHMENT_FOLDER}/${name}`, MAX_ATTACHMENT_BYTES)
  requireSum(name, bytes, sha256)
  // A signature is a drawing of our own making: any other drawing could hold a program.
  const isSignature = mime === 'image/svg+xml' && isSignatureSvg(bytes.toString('utf8'))
  if (!isSignature && attachmentTypeOf(bytes) !== mime) throw fault(name, 'is not of the type that the bundle says')
  return bytes
}

function requireSum(name: string, bytes: Buffer, sha256: string | undefined): void {
  if (createHash('sha256').update(bytes).digest('hex') !== sha256) throw fault(name, 'does not match its checksum')
}

function parsed<Schema extends z.ZodType>(schema: Schema, name: string, bytes: Buffer): z.output<Schema> {
  let value: unknown
  try {
    value = JSON.parse(bytes.toString('utf8'))
  } catch {
    throw fault(name, 'is not JSON')
  }
  const result = schema.safeParse(value)
  if (!result.success)
    throw new BundleFault(faultsOf(result.error).map((one) => ({ ...one, path: `${name}: ${one.path}` })))
  return result.data
}
