import { linkItem } from '../../core/bench/item'
import { isoOrNull } from '../../core/cases/shape/moment'
import { createHash } from 'node:crypto'
import { Decrypter } from 'age-encryption'
import { BackupIndex, BackupManifest, MANIFEST_NAME, type BackupItem } from '../../core/archives/manifest'
import type { Container } from '../../core/archives/container'
import { entryParts } from '../../core/archives/entry-name'
import { kindOfName } from '../../core/files/kinds'
import { linkFailure } from '../../core/bench/fault'
import { readWhole } from '../../core/bench/link'
import { openContainer } from './open'

const MAX_MANIFEST_BYTES = 1 << 20
const MAX_INDEX_BYTES = 256 << 20
/** The largest encrypted item; it is decrypted in memory. */
const MAX_SEALED_BYTES = 1 << 30

/** An open backup: what it says about itself, its items, and the bytes of each. */
export interface Backup {
  /** null where the archive has none and is read as the files in it */
  readonly manifest: BackupManifest | null
  readonly index: BackupIndex
  readonly warnings: readonly string[]
  read(item: BackupItem): AsyncIterable<Uint8Array>
  close(): Promise<void>
}

/** What a backup says about itself without a password; null for a plain archive without a manifest. */
export async function readManifest(container: Container): Promise<BackupManifest | null> {
  if (!container.entries.some((entry) => entry.name === MANIFEST_NAME)) return null
  const text = new TextDecoder().decode(await readWhole(container.read(MANIFEST_NAME), MAX_MANIFEST_BYTES))
  return BackupManifest.parse(JSON.parse(text))
}

/**
 * Opens a backup: a folder, a zip or a tar, with a manifest or without. A wrong password is a LinkFailure
 * before anything else is read; items whose entry is missing are listed as overwritten.
 */
export async function openBackup(path: string, password: string): Promise<Backup> {
  let container: Container
  try {
    container = await openContainer(path)
  } catch (error) {
    throw linkFailure('damaged', `This ${(error as Error).message}.`)
  }
  try {
    return await openedBackup(container, password)
  } catch (error) {
    await container.close()
    throw error
  }
}

async function openedBackup(container: Container, password: string): Promise<Backup> {
  const manifest = await readManifest(container).catch(() => {
    throw linkFailure('damaged', 'The manifest of this backup cannot be read. Nothing was taken from it.')
  })
  const sealed = manifest?.identity ? await identityOf(container, manifest.identity, password) : null
  const read = (name: string) => (sealed ? unsealed(container, name, sealed) : container.read(name))
  const close = () => container.close()
  if (!manifest)
    return {
      manifest,
      index: indexOfEntries(container),
      warnings: container.warnings,
      read: (item) => read(item.entry),
      close,
    }
  const index = await readIndex(read(manifest.index))
  const there = new Set(container.entries.map((entry) => entry.name))
  const warnings = [...container.warnings]
  const missing = index.items.filter((item) => item.record === null && !there.has(item.entry))
  if (missing.length > 0)
    warnings.push(`${missing.length} of ${index.items.length} listed items are missing from the archive`)
  const gone = new Set(missing)
  const items = index.items.map((item) => (gone.has(item) ? { ...item, whole: 'overwritten' as const } : item))
  return { manifest, index: { ...index, items }, warnings, read: (item) => read(item.entry), close }
}

async function readIndex(parts: AsyncIterable<Uint8Array>): Promise<BackupIndex> {
  try {
    return BackupIndex.parse(JSON.parse(new TextDecoder().decode(await readWhole(parts, MAX_INDEX_BYTES))))
  } catch {
    throw linkFailure('damaged', 'The item list of this backup cannot be read.')
  }
}

/** The key, itself sealed with the password; a wrong password fails here, before anything else is read. */
async function identityOf(container: Container, name: string, password: string): Promise<string> {
  if (password === '') throw linkFailure('not-ready', 'This backup is encrypted: it opens with its password.')
  const decrypter = new Decrypter()
  decrypter.addPassphrase(password)
  const sealed = await readWhole(container.read(name), MAX_MANIFEST_BYTES)
  try {
    return (await decrypter.decrypt(sealed, 'text')).trim()
  } catch {
    throw linkFailure('wrong-password', 'The password is wrong. Nothing was changed. Note what was tried.')
  }
}

async function* unsealed(container: Container, name: string, identity: string): AsyncIterable<Uint8Array> {
  const decrypter = new Decrypter()
  decrypter.addIdentity(identity)
  yield await decrypter.decrypt(await readWhole(container.read(name), MAX_SEALED_BYTES))
}

/** An archive without a manifest is the files in it, by name. */
function indexOfEntries(container: Container): BackupIndex {
  const items = container.entries.map((entry): BackupItem => {
    const parts = entryParts(entry.name) ?? [entry.name]
    const { type, mime } = kindOfName(parts.at(-1)!)
    return {
      ...linkItem({
        // By name and not by place: files may be added before it is listed again.
        id: createHash('sha256').update(entry.name).digest('hex').slice(0, 24),
        name: parts.at(-1)!,
        place: parts.slice(0, -1),
        type,
        mime,
        bytes: entry.bytes,
        changed: isoOrNull(entry.changed),
        opensAs: mime === 'application/vnd.sqlite3' ? 'rows' : 'file',
      }),
      keep: 'files',
      entry: entry.name,
    }
  })
  const types = [...new Set(items.map((item) => item.type))]
  return {
    format: 'russet-lantern/backup-index',
    version: 1,
    keeps: [
      {
        id: 'files',
        kind: 'files',
        title: 'Files',
        types: types.length > 0 ? types : ['files'],
        periodDays: null,
        isOn: true,
      },
    ],
    items,
  }
}
