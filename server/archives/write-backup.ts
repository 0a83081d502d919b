import { createWriteStream } from 'node:fs'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { Encrypter, generateIdentity, identityToRecipient } from 'age-encryption'
import { ZipFile } from 'yazl'
import { MANIFEST_NAME, type BackupIndex, type BackupItem, type BackupManifest } from '../../core/archives/manifest'
import type { LinkItem } from '../../core/bench/item'

export interface BackupSource {
  readonly device: BackupManifest['device']
  readonly account: string | null
  readonly taken: string
  readonly keepsBins: boolean
  readonly keeps: BackupIndex['keeps']
  readonly items: readonly {
    readonly keep: string
    readonly item: LinkItem
    readonly bytes: () => Promise<Uint8Array>
  }[]
}

/** A file to be written into an archive. */
export interface PackedFile {
  readonly name: string
  readonly bytes: Uint8Array
}

/** The files of a backup in the order in which they are written: first page, list, items; sealed where a password is given. */
export async function* packBackup(source: BackupSource, password: string | null): AsyncIterable<PackedFile> {
  const seal = password === null ? null : await sealFor(password)
  const suffix = seal ? '.age' : ''
  const items: BackupItem[] = source.items.map(({ keep, item }, at) => ({
    ...item,
    keep,
    entry: entryOf(item, at, suffix),
  }))
  const counts: Record<string, number> = {}
  for (const { item } of source.items) counts[item.type] = (counts[item.type] ?? 0) + 1
  const manifest: BackupManifest = {
    format: 'russet-lantern/backup',
    version: 1,
    device: source.device,
    account: source.account,
    taken: source.taken,
    keepsBins: source.keepsBins,
    counts,
    bytes: source.items.reduce((sum, { item }) => sum + item.bytes, 0),
    index: `index.json${suffix}`,
    identity: seal ? 'identity.age' : null,
  }
  const index: BackupIndex = { format: 'russet-lantern/backup-index', version: 1, keeps: source.keeps, items }
  yield { name: MANIFEST_NAME, bytes: textBytes(JSON.stringify(manifest, null, 2)) }
  if (seal) yield { name: 'identity.age', bytes: seal.identity }
  const kept = async (bytes: Uint8Array) => (seal ? seal.seal(bytes) : bytes)
  yield { name: manifest.index, bytes: await kept(textBytes(JSON.stringify(index))) }
  for (const [at, { bytes }] of source.items.entries())
    yield { name: items[at]!.entry, bytes: await kept(await bytes()) }
}

/** At most this much of an archive waits in memory to be written, beside the file being packed; in bytes. */
const MAX_WAITING_BYTES = 64 << 20

/** A zip archive of some files as it is packed, the same bytes every time; fails with what fails in the files. */
export async function* zipOf(files: AsyncIterable<PackedFile>): AsyncIterable<Uint8Array> {
  const zip = new ZipFile()
  const out = zip.outputStream as Readable
  let [added, written] = [0, 0]
  let isRoom = () => {}
  const feed = async () => {
    for await (const { name, bytes } of files) {
      zip.addBuffer(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length), name, {
        mtime: new Date(Date.UTC(2026, 0, 1)),
        // Pictures and sealed files do not get smaller.
        compress: /\.(json|sqlite|txt|md)$/.test(name),
      })
      added += bytes.length
      if (added - written > MAX_WAITING_BYTES) await new Promise<void>((done) => (isRoom = done))
    }
    zip.end()
  }
  feed().catch((error) => out.destroy(error as Error))
  for await (const part of out as AsyncIterable<Uint8Array>) {
    written += part.length
    // Compressed output is smaller than its input: when no more comes, all of it has.
    if (added - written <= MAX_WAITING_BYTES || out.readableLength === 0) isRoom()
    yield part
  }
}

/** Writes files into a zip archive. */
export async function writeZip(path: string, files: AsyncIterable<PackedFile>): Promise<void> {
  await pipeline(zipOf(files), createWriteStream(path, { mode: 0o600, flush: true }))
}

const textBytes = (text: string) => new TextEncoder().encode(text)

/** A short, safe and readable name; the item's own name is in the manifest. */
function entryOf(item: LinkItem, at: number, suffix: string): string {
  const extension = /\.[a-z0-9]{1,8}$/i.exec(item.name)?.[0]?.toLowerCase() ?? ''
  return `items/${String(at).padStart(6, '0')}${extension}${suffix}`
}

/** Enough work that guessing is slow, and not so much that a bench waits. */
const WORK_FACTOR = 14

async function sealFor(password: string) {
  const identity = await generateIdentity()
  const recipient = await identityToRecipient(identity)
  const outer = new Encrypter()
  outer.setPassphrase(password)
  outer.setScryptWorkFactor(WORK_FACTOR)
  return {
    identity: await outer.encrypt(identity),
    seal: (bytes: Uint8Array) => {
      const inner = new Encrypter()
      inner.addRecipient(recipient)
      return inner.encrypt(bytes)
    },
  }
}
