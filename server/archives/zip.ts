import { createInflateRaw } from 'node:zlib'
import { open, type FileHandle } from 'node:fs/promises'
import { Readable } from 'node:stream'
import yauzl from 'yauzl'
import { crc32 } from '../../core/sources/checksums'
import { cleanName, entryParts } from '../../core/archives/entry-name'
import { MAX_ENTRIES, type Container, type Entry } from '../../core/archives/container'
import { partsOf } from './parts'
import { salvageZip } from './zip-salvage'

/** Opens a zip archive read only; one that has lost its directory gives its whole entries. */
export async function openZip(path: string, isSalvaged = true): Promise<Container> {
  const zip = await opened(path)
  if (zip instanceof Error) return isSalvaged ? salvaged(path, zip) : withoutDirectory(zip)
  const entries = new Map<string, yauzl.Entry>()
  const warnings: string[] = []
  try {
    for await (const entry of eachEntry(zip)) {
      if (entries.size >= MAX_ENTRIES) {
        warnings.push(`names more than ${MAX_ENTRIES} files; the rest is left out`)
        break
      }
      const why = refusal(entry)
      if (why !== null) warnings.push(why)
      else if (!entry.fileName.endsWith('/')) entries.set(cleanName(entry.fileName)!, entry)
    }
  } catch (error) {
    zip.close()
    return isSalvaged ? salvaged(path, error as Error) : withoutDirectory(error as Error)
  }
  const list: Entry[] = [...entries].map(([name, entry]) => ({
    name,
    bytes: entry.uncompressedSize,
    changed: entry.getLastModDate().getTime(),
  }))
  return {
    entries: list,
    warnings,
    read: (name) => checked(zip, entries.get(name), name),
    close: async () => zip.close(),
  }
}

/** What is known of an archive without a directory before it is searched. */
const withoutDirectory = (why: Error): Container => ({
  entries: [],
  warnings: [`the archive’s directory is lost (${why.message})`],
  // eslint-disable-next-line require-yield
  async *read(name) {
    throw new Error(`${name} is not in the archive`)
  },
  close: async () => {},
})

function opened(path: string): Promise<yauzl.ZipFile | Error> {
  return new Promise((done) =>
    yauzl.open(
      path,
      { lazyEntries: true, autoClose: false, strictFileNames: false, decodeStrings: true, validateEntrySizes: true },
      (error, zip) => done(error ?? zip!),
    ),
  )
}

async function* eachEntry(zip: yauzl.ZipFile): AsyncIterable<yauzl.Entry> {
  for (;;) {
    const entry = await new Promise<yauzl.Entry | null>((done, failed) => {
      const clear = () => zip.removeAllListeners()
      zip.once('entry', (one: yauzl.Entry) => (clear(), done(one)))
      zip.once('end', () => (clear(), done(null)))
      zip.once('error', (error: Error) => (clear(), failed(error)))
      zip.readEntry()
    })
    if (!entry) return
    yield entry
  }
}

const UNIX_LINK = 0o120000
const UNIX_KIND = 0o170000

function refusal(entry: yauzl.Entry): string | null {
  const shown = JSON.stringify(entry.fileName.slice(0, 80))
  if (entryParts(entry.fileName) === null) return `${shown} is left out: its name leads outside the archive`
  if (((entry.externalFileAttributes >>> 16) & UNIX_KIND) === UNIX_LINK) return `${shown} is left out: it is a link`
  if (entry.isEncrypted()) return `${shown} is left out: it uses the legacy zip encryption, which is not supported`
  return null
}

async function* checked(zip: yauzl.ZipFile, entry: yauzl.Entry | undefined, name: string): AsyncIterable<Uint8Array> {
  if (!entry) throw new Error(`${name} is not in the archive`)
  const stream = await new Promise<NodeJS.ReadableStream>((done, failed) =>
    zip.openReadStream(entry, (error, opened) => (error ? failed(error) : done(opened!))),
  )
  let sum = 0
  for await (const chunk of stream as AsyncIterable<Buffer>) {
    sum = crc32(chunk, sum)
    yield chunk
  }
  if (sum !== entry.crc32) throw new Error(`${name} is damaged: its checksum does not match`)
}

async function salvaged(path: string, why: Error): Promise<Container> {
  const file: FileHandle = await open(path, 'r')
  const found = await salvageZip(file)
  if (found.length === 0) {
    await file.close()
    throw new Error(`is not a readable zip archive (${why.message})`)
  }
  const byName = new Map(found.map((one) => [one.name, one]))
  return {
    entries: [...byName.values()],
    warnings: [`the archive’s directory is lost (${why.message}); ${byName.size} files were salvaged intact`],
    async *read(name) {
      const one = byName.get(name)
      if (!one) throw new Error(`${name} is not in the archive`)
      const raw = partsOf(file, one.at, one.stored)
      yield* one.isDeflated ? (Readable.from(raw).pipe(createInflateRaw()) as AsyncIterable<Uint8Array>) : raw
    },
    close: () => file.close(),
  }
}
