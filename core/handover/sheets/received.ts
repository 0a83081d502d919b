import { heldFor, placeOf, type Thing } from '../../cases/shape/custody'
import type { Case } from '../../cases/shape/case'
import type { SheetBlock, SheetDocument } from '../document'
import { sheetAround, termsWords, whenWords, type SheetContext } from '../sheet-parts'

/** The receipt for what a client handed in: the things with their state, the code to collect them, and the terms. */
export function receivedSheet(
  ofCase: Case,
  context: SheetContext,
  { number, code }: { readonly number: string; readonly code: string },
): SheetDocument {
  const things = heldFor(ofCase.things)
  return sheetAround(ofCase, context, {
    title: 'Receipt for what was handed in',
    number,
    blocks: [
      { kind: 'heading', text: 'Handed in' },
      ...things.flatMap((thing) => thingBlocks(thing, context)),
      { kind: 'heading', text: 'To collect it' },
      {
        kind: 'text',
        text: 'We give it back to whoever brings this code, or to you with a document that shows who you are. Keep it apart from the device.',
        isStrong: false,
      },
      { kind: 'code', text: code, words: code },
      { kind: 'heading', text: 'Terms' },
      { kind: 'list', items: termsWords(context.shop) },
      { kind: 'sign', words: 'Received for the shop', name: context.by, signature: null },
    ],
  })
}

function thingBlocks(thing: Thing, { shop }: SheetContext): SheetBlock[] {
  const taken = thing.steps.findLast(({ step }) => step === 'received')!
  const rows: [string, string][] = [
    ['What', thing.words],
    ['Serial number', thing.serial],
    ['Condition', taken.condition],
    ['Accessories', taken.accessories],
    ['Brought by', taken.person],
    ['Taken in', `${whenWords(taken.at, shop.zone)}, ${taken.by}`],
    ['Place', placeOf(thing)],
  ]
  return [{ kind: 'facts', rows: rows.filter(([, value]) => value !== '') }]
}
