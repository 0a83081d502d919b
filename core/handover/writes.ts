import { z } from 'zod'
import { Agreement, AGREED_TO } from '../cases/shape/agreement'
import { Contact } from '../cases/shape/contact'
import { CustodyStep, Thing } from '../cases/shape/custody'
import { ClientCheck, Outcome } from '../cases/shape/delivery'
import { partId, name, text } from '../cases/shape/fact'
import { Freeze } from '../cases/shape/freeze'
import { Charge, Payment, Quote } from '../cases/shape/money'
import type { Deed } from '../people/person'

const step = CustodyStep.shape
const agreed = Agreement.shape

/** The most characters of a receipt's code as somebody types it. */
const typedCode = z.string().trim().max(40).default('')

/** One thing that is done between shop and client; the server adds who wrote it, and when. */
export const HandoverWrite = z.discriminatedUnion('do', [
  z.object({
    do: z.literal('agree'),
    what: z.array(z.enum(AGREED_TO)).min(1, 'is empty').max(AGREED_TO.length),
    person: agreed.person,
    behalf: agreed.behalf,
    how: agreed.how,
    signature: agreed.signature,
    limit: agreed.limit,
    /** the words that were shown: refused where they are no longer what is agreed to */
    text: agreed.text,
  }),
  z.object({ do: z.literal('take-back'), agreement: partId, reason: text(400).default('') }),
  z.object({
    do: z.literal('receive'),
    things: z
      .array(
        z.object({
          part: Thing.shape.part,
          words: Thing.shape.words,
          serial: Thing.shape.serial,
          condition: step.condition,
          accessories: step.accessories,
        }),
      )
      .min(1, 'names nothing')
      .max(20),
    place: step.place,
    person: step.person,
  }),
  z.object({ do: z.literal('move'), thing: partId, place: name(120), note: step.note }),
  z.object({
    do: z.literal('give-back'),
    things: z.array(partId).min(1, 'names nothing').max(100),
    person: name(120),
    against: z.enum(['receipt', 'identity', 'known-here'], 'has to be said: the receipt, a document, or known here'),
    code: typedCode,
    condition: step.condition,
    signature: step.signature,
    note: step.note,
  }),
  z.object({
    do: z.literal('lend'),
    words: Thing.shape.words,
    serial: Thing.shape.serial,
    condition: step.condition,
    person: name(120),
  }),
  z.object({
    do: z.literal('take-loan-back'),
    thing: partId,
    condition: step.condition,
    isWiped: z.boolean('has to be said'),
  }),
  z.object({ do: z.literal('dispose'), thing: partId, isWiped: z.boolean('has to be said'), note: name(600) }),
  z.object({ do: z.literal('contact'), way: Contact.shape.way, says: Contact.shape.says }),
  z.object({
    do: z.literal('quote'),
    low: Quote.shape.low,
    high: Quote.shape.high,
    nothingBack: Quote.shape.nothingBack,
    note: Quote.shape.note,
  }),
  z.object({
    do: z.literal('charge'),
    run: Charge.shape.run,
    words: Charge.shape.words,
    amount: Charge.shape.amount.gt(0, 'is nothing'),
  }),
  z.object({ do: z.literal('cancel-charge'), charge: partId, reason: name(400) }),
  z.object({
    do: z.literal('pay'),
    kind: Payment.shape.kind,
    amount: Payment.shape.amount,
    way: Payment.shape.way,
  }),
  z.object({
    do: z.literal('check'),
    wanted: partId,
    group: ClientCheck.shape.group,
    mark: ClientCheck.shape.mark,
    note: ClientCheck.shape.note,
  }),
  z.object({
    do: z.literal('outcome'),
    ending: Outcome.shape.ending,
    reasons: Outcome.shape.reasons,
    delivered: Outcome.shape.delivered,
  }),
  z.object({
    do: z.literal('freeze'),
    cause: Freeze.shape.cause,
    says: Freeze.shape.says,
    told: Freeze.shape.told,
    paper: Freeze.shape.paper,
  }),
  z.object({ do: z.literal('lift'), reason: name(600) }),
  z.object({ do: z.literal('return-of'), code: z.string().trim().max(20).nullable() }),
])
export type HandoverWrite = z.output<typeof HandoverWrite>
export type HandoverInput = z.input<typeof HandoverWrite>

/** What somebody has to be allowed to do for each of them: counter staff take in and give back, owners lift a stop. */
export const DEED_FOR: Record<HandoverWrite['do'], Deed> = {
  agree: 'log',
  'take-back': 'log',
  receive: 'log',
  move: 'log',
  'give-back': 'log',
  lend: 'log',
  'take-loan-back': 'log',
  dispose: 'close',
  contact: 'log',
  quote: 'log',
  charge: 'log',
  'cancel-charge': 'work',
  pay: 'log',
  check: 'log',
  outcome: 'close',
  freeze: 'log',
  lift: 'people',
  'return-of': 'log',
}
