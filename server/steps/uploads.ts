import { sayBytes } from '../../core/cases/telling/saying/amounts'
import { randomUUID } from 'node:crypto'
import { link, mkdir, open, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Readable } from 'node:stream'
import { z } from 'zod'
import { safeName } from '../../core/bench/safe-path'
import type { UploadShape } from '../../core/bench/medium'
import { Failure, invalid, notFound, refused } from '../failure'
import { LinkFailure } from '../../core/bench/fault'
import { asDiskFault, DiskFault } from '../links/disk-fault'
import { diskRoom } from '../shelf/room'
import { append as appendTo, sizeOf } from '../shelf/transfer'
import { mediaFolder } from '../links/register'

const MAX_UPLOADS = 20
const ID = /^[0-9a-f-]{36}$/

export const UploadStart = z.object({
  name: z.string().trim().min(1).max(200),
  /** the file's time of change, ms: another image of the same name and size is not mistaken for it */
  changed: z.int().default(0),
  bytes: z
    .int()
    .min(1)
    .max(2 ** 46),
})

const Kept = UploadStart.extend({ id: z.string() })
type Kept = z.infer<typeof Kept>

/** Only one part of an upload is written at a time. */
const writing = new Set<string>()

async function uploadsFolder(): Promise<string> {
  const folder = join(await mediaFolder(), '.uploads')
  await mkdir(folder, { recursive: true, mode: 0o700 })
  return folder
}

const partOf = async (id: string) => join(await uploadsFolder(), `${id}.part`)

/** Uploads that are under way or can be resumed. */
export async function uploads(): Promise<UploadShape[]> {
  const folder = await uploadsFolder()
  const found: UploadShape[] = []
  for (const name of (await readdir(folder)).filter((one) => one.endsWith('.json')).sort()) {
    const read = Kept.safeParse(
      await readFile(join(folder, name), 'utf8')
        .then(JSON.parse)
        .catch(() => null),
    )
    if (read.success) found.push({ ...read.data, have: await sizeOf(join(folder, `${read.data.id}.part`)) })
  }
  return found
}

/** Starts an upload, where there is space for all of it; the same file resumes the upload that exists. */
export async function startUpload(start: z.infer<typeof UploadStart>): Promise<UploadShape> {
  const { name, bytes, changed } = start
  const all = await uploads()
  const same = all.find((one) => one.name === name && one.bytes === bytes && one.changed === changed)
  if (same) return same
  if (all.length >= MAX_UPLOADS)
    throw refused(`${MAX_UPLOADS} uploads are already waiting. Finish or discard some of them first.`)
  const folder = await uploadsFolder()
  const promised = all.reduce((sum, one) => sum + one.bytes - one.have, 0)
  const room = Math.max(0, (await diskRoom()) - promised)
  if (bytes > room) throw refused(`The image has ${sayBytes(bytes)}, and there is room for ${sayBytes(room)}.`)
  const kept: Kept = { id: randomUUID(), ...start }
  await writeFile(join(folder, `${kept.id}.json`), JSON.stringify(kept), { mode: 0o600, flush: true })
  return { ...kept, have: 0 }
}

/**
 * Appends a part of an image as it arrives; throws a Failure where it does not begin at the end of what is there. What
 * arrived stays, also where the connection drops. The last part moves the image into the media folder.
 */
export async function appendUpload(
  id: string,
  from: number,
  body: Readable,
): Promise<UploadShape & { isWhole: boolean }> {
  if (writing.has(id)) throw refused('This upload is already in progress.')
  writing.add(id)
  try {
    const upload = await uploadOf(id)
    if (from !== upload.have)
      throw new Failure('clash', `It resumes at byte ${upload.have}.`, {
        fields: [{ path: 'have', message: `${upload.have}` }],
      })
    const part = await partOf(id)
    await append(part, body, from, upload.bytes)
    const have = await sizeOf(part)
    if (have === upload.bytes) await putInPlace(upload, part)
    return { ...upload, have, isWhole: have === upload.bytes }
  } finally {
    writing.delete(id)
  }
}

async function append(part: string, body: Readable, from: number, bytes: number): Promise<void> {
  try {
    await appendTo(part, body as AsyncIterable<Uint8Array>, { from, most: bytes - from })
  } catch (error) {
    const fault = asDiskFault(error)
    if (fault instanceof DiskFault) throw refused(`${fault.message} What arrived is kept.`)
    if (!(fault instanceof LinkFailure))
      throw refused('The connection dropped. What arrived is kept; the upload resumes from there.')
    const file = await open(part, 'r+')
    await file.truncate(from)
    await file.close()
    throw invalid([{ path: 'bytes', message: 'exceed the announced size of the image' }])
  }
}

/** Error codes of file systems without hard links. */
const NO_LINKS = new Set(['EPERM', 'ENOTSUP', 'EOPNOTSUPP', 'ENOSYS'])

/** False where the name is taken. */
async function takesName(part: string, path: string): Promise<boolean> {
  try {
    await link(part, path)
    return true
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code ?? ''
    if (code === 'EEXIST') return false
    if (!NO_LINKS.has(code)) throw error
    if (await stat(path).catch(() => null)) return false
    await rename(part, path)
    return true
  }
}

/** Never overwrites an image. */
async function putInPlace({ id, name }: UploadShape, part: string): Promise<void> {
  const folder = await mediaFolder()
  const safe = safeName(name).replace(/^\.+/, '_')
  const dot = safe.lastIndexOf('.') > 0 ? safe.lastIndexOf('.') : safe.length
  let isThere = await takesName(part, join(folder, safe))
  for (let number = 2; !isThere; number++)
    isThere = await takesName(part, join(folder, `${safe.slice(0, dot)} (${number})${safe.slice(dot)}`))
  await rm(part, { force: true })
  await rm(join(await uploadsFolder(), `${id}.json`))
}

/** Deletes a partial upload. */
export async function dropUpload(id: string): Promise<void> {
  await uploadOf(id)
  await rm(join(await uploadsFolder(), `${id}.json`))
  await rm(await partOf(id), { force: true })
}

async function uploadOf(id: string): Promise<UploadShape> {
  const found = ID.test(id) ? (await uploads()).find((one) => one.id === id) : undefined
  if (!found) throw notFound('such upload')
  return found
}
