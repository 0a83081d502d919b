// npm run media-table: what both passes recover from the made images, counted against their truth, into docs/media.md.
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { formatOfName } from '../core/files/formats/registry'
import { bytesSource } from '../core/sources/source'
import { LOCKED_NAMES, lockedImage, PASSPHRASE } from '../core/testing/locked-images'
import { openedSource, type OpenedVolume } from '../core/volumes/luks/opened'
import { findVolumes } from '../core/volumes/volumes'
import { unlockVolumes } from '../core/volumes/unlock-volumes'
import { contentBytes, imageBytes, IMAGES, scanned, sha256, truthOf } from '../core/testing/media-images'

const DOCUMENT = join(import.meta.dirname, '../docs/media.md')
const [BEGIN, END] = ['<!-- table: npm run media-table -->', '<!-- end of table -->']

interface Count {
  there: number
  whole: number
  byRecord: number
  byContent: number
  pieces: number
  piecesFound: number
  intact: number
  wrong: number
}
const none = (): Count => ({
  there: 0,
  whole: 0,
  byRecord: 0,
  byContent: 0,
  pieces: 0,
  piecesFound: 0,
  intact: 0,
  wrong: 0,
})
const systems = new Map<string, Count>()
const formats = new Map<string, Count>()
const countOf = (map: Map<string, Count>, key: string) => map.get(key) ?? map.set(key, none()).get(key)!

for (const name of IMAGES) {
  const bytes = imageBytes(name)
  const truth = truthOf(name)
  const passes = [scanned(bytes, { pass: 'quick' }), scanned(bytes, { pass: 'deep' })]
  const given = passes.map(
    ({ items }) =>
      new Map(
        items
          .filter(({ content }) => content !== 'overwritten')
          .map((item) => [sha256(contentBytes(bytes, item)), item]),
      ),
  )
  const system = passes[0]!.volumes.map(({ shape }) => shape.fileSystem).join(', ')
  const written = new Set([...truth.ballast, ...truth.files.map((file) => file.sha256)])
  const own = countOf(systems, `${system} (${name})`)
  own.wrong = given
    .flatMap((map) => [...map])
    .filter(([sum, item]) => item.content === 'intact' && item.bytes > 0 && !written.has(sum)).length
  for (const file of truth.files.filter(({ state }) => state === 'deleted'))
    for (const count of [own, countOf(formats, formatOfName(file.path)?.id ?? 'other')]) {
      count.there++
      const found = given.map((map) => map.get(file.sha256))
      if (found.some((item) => item?.content === 'intact')) count.intact++
      if (file.held === 'whole') {
        count.whole++
        if (found[0]) count.byRecord++
        if (found[1]) count.byContent++
      } else if (file.held === 'pieces') {
        count.pieces++
        if (found.some((item) => item)) count.piecesFound++
      }
    }
}

const of = (part: number, all: number) => (all === 0 ? '–' : `${part} of ${all}`)
const rows = (map: Map<string, Count>, first: string, hasWrong: boolean) =>
  [
    `| ${first} | deleted | in one piece | by record | by content | in pieces, recovered | called intact |${hasWrong ? ' wrongly intact |' : ''}`,
    `| --- | --- | --- | --- | --- | --- | --- |${hasWrong ? ' --- |' : ''}`,
    ...[...map]
      .sort(([a], [b]) => a.localeCompare(b))
      .map(
        ([key, one]) =>
          `| ${key} | ${one.there} | ${one.whole} | ${of(one.byRecord, one.whole)} | ${of(one.byContent, one.whole)} | ${of(one.piecesFound, one.pieces)} | ${one.intact} |${hasWrong ? ` ${one.wrong} |` : ''}`,
      ),
  ].join('\n')

/** The names that the quick pass finds, each with its length, and what is said of the volumes. */
function namesIn(bytes: Uint8Array, opened: readonly OpenedVolume[] = []): { names: Set<string>; verdicts: string } {
  const found = findVolumes(bytesSource(bytes), opened)
  const { volumes, items } = scanned(bytes, { pass: 'quick', volumes: found })
  const names = items.flatMap(({ path, bytes: size }) => (path === null ? [] : [`${path} ${size}`]))
  const verdicts = volumes.map(
    ({ shape }) =>
      `${shape.scheme === 'found' ? 'lost volume, ' : ''}${shape.verdict} (${shape.fileSystem ?? 'no file system'})`,
  )
  return { names: new Set(names), verdicts: verdicts.join('; ') }
}

const changed = (name: (typeof IMAGES)[number], change: (bytes: Uint8Array) => Uint8Array) =>
  change(imageBytes(name).slice())
const withNewTable = (bytes: Uint8Array) => {
  bytes.fill(0, 0, 512)
  const view = new DataView(bytes.buffer)
  bytes[450] = 0x0c
  view.setUint32(454, 2048, true)
  view.setUint32(458, bytes.length / 512 - 2048, true)
  view.setUint16(510, 0xaa55, true)
  return bytes
}
/** The first volume of an image in the middle of a larger one, without its beginning. */
const moved = (image: Uint8Array, gone: number) => {
  const { offset, bytes: length } = findVolumes(bytesSource(image)).volumes[0]!.shape
  const bytes = image.subarray(offset, offset + length)
  const at = 3 * 1024 * 1024 + 512 * 7
  const other = new Uint8Array(bytes.length + at + 1024 * 1024)
  other.set(bytes, at)
  other.fill(0, at, at + gone)
  return other
}
const locked = lockedImage('version-2')
const { opened } = await unlockVolumes(bytesSource(locked), [Buffer.from(PASSPHRASE)])
const decrypted = new Uint8Array(openedSource(bytesSource(locked), opened).read(0, locked.length))
const before = (name: (typeof IMAGES)[number]) => [...namesIn(imageBytes(name)).names]

const VOLUMES: readonly (readonly [says: string, names: readonly string[], told: ReturnType<typeof namesIn>])[] = [
  [
    'two volumes, their table zeroed',
    before('two-volumes'),
    namesIn(changed('two-volumes', (all) => all.fill(0, 0, 512))),
  ],
  ['two volumes, under a new table of one', before('two-volumes'), namesIn(changed('two-volumes', withNewTable))],
  [
    'NTFS behind a GPT, both copies of it zeroed',
    before('laptop'),
    namesIn(
      changed('laptop', (all) => {
        all.fill(0, 0, 34 * 512)
        return all.fill(0, all.length - 34 * 512)
      }),
    ),
  ],
  [
    'FAT32 in the middle of a disk, without its first sector',
    before('camera-card'),
    namesIn(changed('camera-card', (all) => moved(all, 512))),
  ],
  [
    'exFAT in the middle of a disk, without its first sector',
    before('stick'),
    namesIn(changed('stick', (all) => moved(all, 512))),
  ],
  [
    'ext3 in the middle of a disk, without its superblock',
    before('ext3'),
    namesIn(changed('ext3', (all) => moved(all, 2048))),
  ],
  [
    'FAT32, of which a third was imaged',
    before('recorder'),
    namesIn(changed('recorder', (all) => all.slice(0, all.length / 3))),
  ],
  ['LUKS 2 with FAT12 in it, closed', LOCKED_NAMES, namesIn(locked)],
  ['LUKS 2 with FAT12 in it, opened with its passphrase', LOCKED_NAMES, namesIn(decrypted, opened)],
]
const volumeRows = VOLUMES.map(
  ([says, names, told]) =>
    `| ${says} | ${told.verdicts} | ${of(names.filter((name) => told.names.has(name)).length, names.length)} |`,
)
const volumeTable = ['| medium | verdicts | names that come back |', '| --- | --- | --- |', ...volumeRows].join('\n')

const document = readFileSync(DOCUMENT, 'utf8')
const [from, to] = [document.indexOf(BEGIN), document.indexOf(END)]
if (from < 0 || to < from) throw new Error('docs/media.md has no place for the table')
const table = `${BEGIN}\n\n${rows(systems, 'file system (image)', true)}\n\n${rows(formats, 'format', false)}\n\n${volumeTable}\n\n`
writeFileSync(DOCUMENT, document.slice(0, from) + table + document.slice(to))
