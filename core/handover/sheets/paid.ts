import type { Case } from '../../cases/shape/case'
import { accountOf } from '../../cases/shape/money'
import type { SheetBlock, SheetDocument } from '../document'
import { PAYMENT_WAY_WORDS } from '../words'
import { dateWords, priceWords, sheetAround, type SheetContext } from '../sheet-parts'
import { DAY_MS } from '../../cases/shape/moment'

const KINDS = { deposit: 'Deposit', payment: 'Payment', refund: 'Refund' }

/** The receipt for the last money that changed hands, with everything that is due and was paid so far. */
export function paidSheet(ofCase: Case, context: SheetContext, { number }: { readonly number: string }): SheetDocument {
  const { shop, now } = context
  const price = (amount: number) => priceWords(amount, shop.currency)
  const { payments, charges, taxPercent } = ofCase.money
  const last = payments.at(-1)!
  const account = accountOf(ofCase.money)
  const due = charges.filter(({ cancelled }) => cancelled === null)
  const tax: SheetBlock[] =
    (taxPercent ?? 0) > 0
      ? [
          {
            kind: 'text',
            text: `The total holds ${price(account.tax)} ${shop.papers.taxName || 'tax'} (${taxPercent}%).`,
            isStrong: false,
          },
        ]
      : []
  return sheetAround(ofCase, context, {
    title: 'Receipt',
    number,
    blocks: [
      {
        kind: 'text',
        text: `${KINDS[last.kind]} of ${price(last.amount)} by ${PAYMENT_WAY_WORDS[last.way]}, ${dateWords(last.at, shop.zone)}.`,
        isStrong: true,
      },
      { kind: 'heading', text: 'What is due' },
      {
        kind: 'table',
        head: ['For', 'Price'],
        rows: [...due.map(({ words, amount }) => [words, price(amount)]), ['Total', price(account.total)]],
        figuresFrom: 1,
      },
      ...tax,
      { kind: 'heading', text: 'What was paid' },
      {
        kind: 'table',
        head: ['What', 'Receipt', 'Amount'],
        rows: payments.map(({ kind, receipt, amount }) => [
          KINDS[kind],
          receipt,
          price(kind === 'refund' ? -amount : amount),
        ]),
        figuresFrom: 2,
      },
      {
        kind: 'text',
        text:
          account.open > 0
            ? `Still open: ${price(account.open)}.`
            : account.open < 0
              ? `Paid in advance: ${price(-account.open)}.`
              : 'Paid in full.',
        isStrong: true,
      },
      ...(shop.papers.promiseDays > 0 && due.length > 0
        ? [
            {
              kind: 'text' as const,
              text: `If the same fault comes back before ${dateWords(now + shop.papers.promiseDays * DAY_MS, shop.zone)}, we look again without charge.`,
              isStrong: false,
            },
          ]
        : []),
    ],
  })
}
