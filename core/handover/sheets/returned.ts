import type { Case } from '../../cases/shape/case'
import { heldFor, type Thing } from '../../cases/shape/custody'
import type { SheetDocument } from '../document'
import { dateWords, sheetAround, whenWords, type SheetContext } from '../sheet-parts'
import { DAY_MS } from '../../cases/shape/moment'

const AGAINST = { receipt: 'the receipt', identity: 'a document that shows who they are', 'known-here': 'known here' }

/** The receipt for what was given back: the things, to whom and against what, and what is still in the shop. */
export function returnedSheet(
  ofCase: Case,
  context: SheetContext,
  { number, things }: { readonly number: string; readonly things: readonly Thing[] },
): SheetDocument {
  const { shop, now } = context
  const last = things[0]!.steps.at(-1)!
  const left = heldFor(ofCase.things)
  return sheetAround(ofCase, context, {
    title: 'Receipt for what was given back',
    number,
    blocks: [
      { kind: 'heading', text: 'Given back' },
      {
        kind: 'list',
        items: things.map(({ words, serial }) => (serial === '' ? words : `${words}, serial number ${serial}`)),
      },
      {
        kind: 'facts',
        rows: [
          ['To', last.person],
          ['Shown', AGAINST[last.against ?? 'known-here']],
          ['When', `${whenWords(last.at, shop.zone)}, ${last.by}`],
          ...(last.condition === '' ? [] : [['Condition', last.condition] as [string, string]]),
          ...(last.note === '' ? [] : [['Note', last.note] as [string, string]]),
        ],
      },
      ...(left.length === 0
        ? []
        : [
            {
              kind: 'text' as const,
              text: `Still with us: ${left.map(({ words }) => words).join(', ')}.`,
              isStrong: true,
            },
          ]),
      {
        kind: 'text',
        text: `We keep what we recovered until ${dateWords(now + shop.papers.wipeDays * DAY_MS, shop.zone)}. Check your copy before then.`,
        isStrong: false,
      },
      { kind: 'sign', words: 'Received', name: last.person, signature: last.signature },
    ],
  })
}
