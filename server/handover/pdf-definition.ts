import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces'
import type { SheetSize } from '../../core/playbook/printing'
import type { SheetBlock, SheetDocument } from '../../core/handover/document'

const INK = '#2a1f1a'
const SOFT = '#6b5c51'
const LINE = '#d9cbb7'

/** Hair lines between rows, none around. */
const LAYOUT = {
  hLineWidth: (at: number, node: { table: { body: unknown[] } }) =>
    at === 0 || at === node.table.body.length ? 0 : 0.5,
  vLineWidth: () => 0,
  hLineColor: () => LINE,
  paddingLeft: (at: number) => (at === 0 ? 0 : 6),
  paddingRight: () => 6,
  paddingTop: () => 3,
  paddingBottom: () => 3,
}

/**
 * A sheet as a definition for the PDF package: the same content and order as on the screen. `signatures`: the drawings of the
 * signatures by the number of their attachment, as SVG.
 */
export function pdfDefinition(
  sheet: SheetDocument,
  size: SheetSize,
  signatures: ReadonlyMap<number, string>,
): TDocumentDefinitions {
  return {
    pageSize: size === 'letter' ? 'LETTER' : size,
    pageMargins: [48, 46, 48, 56],
    info: { title: `${sheet.title} ${sheet.number}`, author: sheet.shop.name },
    defaultStyle: { font: 'Roboto', fontSize: 10, color: INK, lineHeight: 1.15 },
    content: [head(sheet), ...sheet.blocks.map((block) => contentOf(block, signatures))],
    footer: (page, pages) => ({
      margin: [48, 14, 48, 0],
      fontSize: 8,
      color: SOFT,
      columns: [
        { text: `${sheet.number} · ${sheet.when} · head of the history ${sheet.head}`, width: '*' },
        { text: `${page} / ${pages}`, alignment: 'right', width: 'auto' },
      ],
    }),
  }
}

const head = ({ shop, client, title, number, code, when }: SheetDocument): Content => ({
  stack: [
    {
      columns: [
        { stack: [{ text: shop.name, bold: true, fontSize: 13 }, ...shop.lines], width: '*', color: INK },
        { stack: client, alignment: 'right', width: 'auto' },
      ],
    },
    { text: title, fontSize: 19, bold: true, margin: [0, 22, 0, 2] },
    { text: `${number} · case ${code} · ${when}`, color: SOFT, margin: [0, 0, 0, 8] },
  ],
})

function contentOf(block: SheetBlock, signatures: ReadonlyMap<number, string>): Content {
  switch (block.kind) {
    case 'heading':
      return { text: block.text, bold: true, fontSize: 12.5, margin: [0, 12, 0, 4], headlineLevel: 1 }
    case 'text':
      return { text: block.text, bold: block.isStrong, margin: [0, 2, 0, 4] }
    case 'list':
      return { ul: block.items, margin: [0, 0, 0, 4] }
    case 'facts':
      return {
        table: { widths: [130, '*'], body: block.rows.map(([name, value]) => [{ text: name, color: SOFT }, value]) },
        layout: LAYOUT,
        margin: [0, 0, 0, 8],
      }
    case 'table':
      return tableOf(block)
    case 'code':
      return {
        columns: [
          { qr: block.text, fit: 76, width: 90 },
          { text: block.words, fontSize: 20, bold: true, margin: [0, 22, 0, 0], width: '*' },
        ],
        margin: [0, 6, 0, 6],
      }
    case 'sign':
      return signOf(block, signatures)
  }
}

function tableOf({ head, rows, figuresFrom }: Extract<SheetBlock, { kind: 'table' }>): Content {
  const isLong = rows.some((row) => row.some((text) => text.length > 60))
  const cell = (text: string, at: number) => ({
    text: breakable(text),
    alignment: at >= figuresFrom ? ('right' as const) : ('left' as const),
    fontSize: head.length > 3 || isLong ? 8.5 : 9.5,
  })
  // The columns of figures take what they need; those of words share the rest.
  const widths = head.map((_, at) => (at >= figuresFrom ? 'auto' : at === 0 ? '*' : head.length > 3 ? '*' : 'auto'))
  return {
    table: {
      headerRows: 1,
      dontBreakRows: true,
      widths: widths.every((width) => width === 'auto') ? ['*', ...widths.slice(1)] : widths,
      body: [head.map((text, at) => ({ ...cell(text, at), color: SOFT })), ...rows.map((row) => row.map(cell))],
    },
    layout: LAYOUT,
    margin: [0, 2, 0, 8],
  }
}

/** A long word, such as a checksum or a path, may be broken anywhere; nothing is added to it that a copy would carry along. */
const breakable = (text: string) =>
  text.split(/(\S{17,})/).map((part, at) => (at % 2 === 1 ? { text: part, wordBreak: 'break-all' as const } : part))

function signOf(
  { words, name, signature }: Extract<SheetBlock, { kind: 'sign' }>,
  signatures: ReadonlyMap<number, string>,
): Content {
  const drawn = signature === null ? undefined : signatures.get(signature)
  return {
    unbreakable: true,
    margin: [0, 16, 0, 0],
    stack: [
      drawn ? { svg: drawn, fit: [220, 64] } : { text: ' ', margin: [0, 0, 0, 44] },
      { canvas: [{ type: 'line', x1: 0, y1: 0, x2: 280, y2: 0, lineWidth: 0.7, lineColor: INK }] },
      { text: name === '' ? words : `${words}: ${name}`, fontSize: 9, color: SOFT, margin: [0, 3, 0, 0] },
    ],
  }
}
