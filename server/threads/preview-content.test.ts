import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { afterAll, describe, expect, it } from 'vitest'
import { manyParagraphs } from '../../tests/support/hostile'
import { contentOf } from './preview-content'

const folder = mkdtempSync(join(tmpdir(), 'lantern-preview-'))
afterAll(() => rmSync(folder, { recursive: true }))
const bytes = (text: string) => new TextEncoder().encode(text)
const tableOf = async (text: string) => {
  const preview = await contentOf(bytes(text), 'tolls.csv')
  return preview.as === 'table' ? preview.rows : preview
}

describe('what is shown of a table of text', () => {
  it.each([
    [
      'commas',
      'name,paid\nLock,3\n',
      [
        ['name', 'paid'],
        ['Lock', '3'],
      ],
    ],
    [
      'semicolons',
      'name;paid\r\nLock;3,50\r\n',
      [
        ['name', 'paid'],
        ['Lock', '3,50'],
      ],
    ],
    [
      'tabs',
      'name\tpaid\nLock\t3\n',
      [
        ['name', 'paid'],
        ['Lock', '3'],
      ],
    ],
    [
      'separators, quotes and line breaks inside of quotes',
      'a,b\n"x, ""y""","two\nlines"\n',
      [
        ['a', 'b'],
        ['x, "y"', 'two\nlines'],
      ],
    ],
    ['rows of other lengths', 'a,b,c\n1\n1,2,3,4\n', [['a', 'b', 'c'], ['1'], ['1', '2', '3', '4']]],
    [
      'a mark of its encoding',
      '\ufeffa,b\n1,2\n',
      [
        ['a', 'b'],
        ['1', '2'],
      ],
    ],
  ])('keeps %s', async (_, text, rows) => {
    expect(await tableOf(text)).toEqual(rows)
  })

  it('is cut where it is long, and no cell of it is longer than is shown', async () => {
    const preview = await contentOf(bytes(`a,b\n${'x,y\n'.repeat(5000)}`), 'long.csv')
    expect(preview).toMatchObject({ as: 'table', isCut: true })
    const wide = await contentOf(bytes(`${'x'.repeat(5000)},y\n`), 'wide.csv')
    expect(wide.as === 'table' && wide.rows[0]![0]!.length).toBe(400)
  })

  it('is something, or said to be nothing, whatever its bytes are', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.uint8Array({ maxLength: 2000 }),
        fc.constantFrom('a.csv', 'a.tsv', 'a.txt', 'a.docx', 'a.xlsx', 'a'),
        async (content, name) => {
          const preview = await contentOf(content, name)
          expect(['table', 'text', 'none']).toContain(preview.as)
        },
      ),
      { numRuns: 150 },
    )
  })
})

describe('what is shown of a document', () => {
  it('is its text, cut where it is long', async () => {
    const path = join(folder, 'a.docx')
    await manyParagraphs(path, 50_000)
    const preview = await contentOf(new Uint8Array(readFileSync(path)), 'a.docx')
    expect(preview).toMatchObject({ as: 'text', isCut: true })
    expect(preview.as === 'text' && preview.text.startsWith('weir\n')).toBe(true)
  })

  it('is its text where its encoding is another one', async () => {
    const latin = Uint8Array.from('Schleuse am M\xfchlbach, gepr\xfcft und f\xfcr gut befunden', (letter) =>
      letter.charCodeAt(0),
    )
    expect(await contentOf(latin, 'note.txt')).toMatchObject({ as: 'text', text: expect.stringContaining('Mühlbach') })
    expect(await contentOf(Uint8Array.of(0, 1, 2, 3, 0, 0), 'note.txt')).toMatchObject({ as: 'none' })
  })
})
