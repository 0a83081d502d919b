// npm run media-table: what both passes recover from the made images, counted against their truth, into docs/media.md.
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { formatOfName } from '../core/files/formats/registry'
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

const document = readFileSync(DOCUMENT, 'utf8')
const [from, to] = [document.indexOf(BEGIN), document.indexOf(END)]
if (from < 0 || to < from) throw new Error('docs/media.md has no place for the table')
const table = `${BEGIN}\n\n${rows(systems, 'file system (image)', true)}\n\n${rows(formats, 'format', false)}\n\n`
writeFileSync(DOCUMENT, document.slice(0, from) + table + document.slice(to))
