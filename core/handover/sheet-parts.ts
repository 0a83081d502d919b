import { timeWords } from '../local/dates'
import type { Case } from '../cases/shape/case'
import { known } from '../cases/shape/fact'
import type { Shop } from '../playbook/shop'
import type { SheetBlock, SheetDocument } from './document'

/** What a sheet is made with: the shop, who makes it, the moment in ms, and the head of the history as printed. */
export interface SheetContext {
  readonly shop: Shop
  readonly by: string
  readonly now: number
  readonly head: string
}

export { priceWords } from '../local/numbers'

/** A moment in the shop's zone: "Tue 24 Nov 2026, 10:42". */
export const whenWords = (iso: string | number, zone: string): string => timeWords(iso, zone, 'EEE d MMM yyyy, HH:mm')

/** A day in the shop's zone: "24 Nov 2026". */
export const dateWords = (iso: string | number, zone: string): string => timeWords(iso, zone, 'd MMM yyyy')

/** Name and contact of the client, as far as they are known. */
export const clientLines = ({ client }: Pick<Case, 'client'>): string[] =>
  [client.name, client.phone, client.mail].filter((fact) => known(fact))

/** Name and address of the shop below each other. */
export function shopLines({ papers }: Pick<Shop, 'papers'>): string[] {
  const tax = papers.taxNumber === '' ? '' : `${papers.taxName || 'Tax'} number ${papers.taxNumber}`
  return [...papers.address.split('\n'), papers.phone, papers.mail, tax].map((line) => line.trim()).filter(Boolean)
}

/** A sheet of a case around its blocks. */
export function sheetAround(
  ofCase: Case,
  { shop, now, head }: SheetContext,
  sheet: { readonly title: string; readonly number: string; readonly blocks: readonly SheetBlock[] },
): SheetDocument {
  return {
    title: sheet.title,
    number: sheet.number,
    code: ofCase.code,
    at: new Date(now).toISOString(),
    when: whenWords(now, shop.zone),
    shop: { name: shop.name, lines: shopLines(shop) },
    client: clientLines(ofCase),
    blocks: [...sheet.blocks],
    head,
  }
}

/** What the shop's periods promise, in sentences, and then its own terms. */
export function termsWords({ papers }: Pick<Shop, 'papers'>): string[] {
  const { promiseDays, uncollectedDays, reminderDays, wipeDays } = papers
  return [
    'We look at your data only as far as the recovery needs it, and only with your consent.',
    'Nothing is written to what you brought. A step that erases something needs a safety copy and your consent of its own.',
    'No recovery can be promised. We tell you the chances before we begin.',
    `We keep what came back for ${daysWords(wipeDays)} after the return. Check your copy before then.`,
    ...(promiseDays > 0
      ? [`If the same fault comes back within ${daysWords(promiseDays)}, we look again without charge.`]
      : []),
    `We tell you when it is ready${remindWords(reminderDays.length)}.`,
    ...(uncollectedDays > 0
      ? [
          `What is not collected after ${daysWords(uncollectedDays)} we ask you about in writing. Nothing is sold or thrown away before that.`,
        ]
      : []),
    ...papers.terms
      .split('\n')
      .map((line) => line.trim())
      .filter(Boolean),
  ]
}

const remindWords = (times: number) =>
  times === 0 ? '' : times === 1 ? ', and remind you once' : `, and remind you ${times} times`

const daysWords = (days: number) => (days === 1 ? 'one day' : `${days} days`)
