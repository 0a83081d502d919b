import type { z } from 'zod'
import { AGREED_TO, agreementTo, type AgreedTo } from '../cases/shape/agreement'
import type { Case } from '../cases/shape/case'
import { nextId } from '../cases/shape/next-id'
import { CustodyStep, heldFor, lentTo, type Thing } from '../cases/shape/custody'
import { known } from '../cases/shape/fact'
import { frozenBy } from '../cases/shape/freeze'
import { accountOf } from '../cases/shape/money'
import { openRunsOf } from '../cases/shape/open-runs'
import { setWords } from '../cases/telling/words'
import type { Shop } from '../playbook/shop'
import { agreementWords } from './agreement-words'
import { sameCode } from './code'
import { priceWords } from './sheet-parts'
import {
  AGREED_HOW_WORDS,
  AGREED_WORDS,
  CHECK_WORDS,
  CONTACT_WORDS,
  ENDING_WORDS,
  FREEZE_WORDS,
  PAYMENT_WAY_WORDS,
} from './words'
import type { HandoverWrite } from './writes'

/** Who writes, when, and what the shop knows besides the case. */
export interface HandoverContext {
  readonly by: string
  /** ISO */
  readonly at: string
  readonly shop: Shop
  /** the codes of the receipts that this case has */
  readonly codes: readonly string[]
  /** the number that a receipt for money would get */
  readonly receipt: string
}

/** The case afterwards and what was done, in a sentence; or why it is refused. */
export type Applied =
  { readonly ok: true; readonly after: Case; readonly says: string } | { readonly ok: false; readonly why: string }

const done = (after: Case, says: string): Applied => ({ ok: true, after, says })
const no = (why: string): Applied => ({ ok: false, why })

type Write<Do extends HandoverWrite['do']> = Extract<HandoverWrite, { do: Do }>
type Rules = {
  readonly [Do in HandoverWrite['do']]: (ofCase: Case, write: Write<Do>, context: HandoverContext) => Applied
}

/**
 * A case after something was done between shop and client. While a case is stopped, nothing is done but noting a contact and
 * lifting the stop.
 */
export function applied(ofCase: Case, write: HandoverWrite, context: HandoverContext): Applied {
  const isStopped = frozenBy(ofCase.freezes) !== null
  if (isStopped && write.do !== 'lift' && write.do !== 'contact')
    return no('This case is stopped: device and data stay as they are until an owner lifts the stop.')
  const rule = RULES[write.do] as (ofCase: Case, write: HandoverWrite, context: HandoverContext) => Applied
  return rule(ofCase, write, context)
}

const RULES: Rules = {
  agree: (ofCase, write, { by, at, shop }) => {
    const what = AGREED_TO.filter((one) => write.what.includes(one))
    if (what.includes('price') && write.limit === null) return no('Say up to which price the client agrees.')
    if (write.how !== 'in-words' && write.signature === null)
      return no(write.how === 'on-paper' ? 'Add a picture of the signed paper.' : 'The client has not signed yet.')
    const limit = what.includes('price') ? write.limit : null
    if (write.text !== agreementWords(what, ofCase, shop, limit))
      return no('The words have changed since they were shown. Read them again with the client.')
    const { person, behalf, how, signature, text } = write
    const id = nextId('g', ofCase.agreements)
    const agreement = { id, what, text, person, behalf, how, signature, limit, at, by, takenBack: null }
    const after = { ...ofCase, agreements: [...ofCase.agreements, agreement] }
    return done(
      withConsent(withLimit(after, limit), what, 'given', person, at),
      `${person} agreed to ${what.map((one) => AGREED_WORDS[one]).join(', ')}${limit === null ? '' : ` up to ${priceWords(limit, shop.currency)}`} (${AGREED_HOW_WORDS[how]})`,
    )
  },
  'take-back': (ofCase, write, { by, at }) => {
    const own = ofCase.agreements.find(({ id }) => id === write.agreement)
    if (!own || own.takenBack) return no('That agreement was already taken back, or is not there.')
    const agreements = ofCase.agreements.map((one) =>
      one === own ? { ...one, takenBack: { at, by, reason: write.reason } } : one,
    )
    const gone = own.what.filter((one) => agreementTo(agreements, one) === null)
    return done(
      withConsent({ ...ofCase, agreements }, gone, 'refused', own.person, at),
      `${own.person} took back the agreement to ${own.what.map((one) => AGREED_WORDS[one]).join(', ')}`,
    )
  },
  receive: (ofCase, write, { by, at }) => {
    let after = ofCase
    for (const thing of write.things) {
      const step = { at, by, place: write.place, person: write.person }
      const received = withReceived(after, thing, step)
      if (typeof received === 'string') return no(received)
      after = received
    }
    const words = write.things.map((thing) => thing.words).join(', ')
    return done(after, `took in: ${words}${write.place ? `, now at ${write.place}` : ''}`)
  },
  move: (ofCase, write, { by, at }) => {
    const thing = heldFor(ofCase.things).find(({ id }) => id === write.thing)
    if (!thing) return no('That is not in the shop.')
    const step = stepOf({ step: 'moved', at, by, place: write.place, note: write.note })
    return done(withStep(ofCase, [thing.id], step), `moved ${thing.words} to ${write.place}`)
  },
  'give-back': (ofCase, write, { by, at, codes }) => {
    const things = heldFor(ofCase.things).filter(({ id }) => write.things.includes(id))
    if (things.length !== write.things.length) return no('Not all of that is in the shop.')
    if (openRunsOf(ofCase).length > 0) return no('A run is still open. Record its result first.')
    if (write.against === 'receipt' && !codes.some((code) => sameCode(code, write.code)))
      return no('That is not the code of a receipt of this case.')
    const { person, against, condition, signature, note } = write
    const step = stepOf({ step: 'returned', at, by, person, against, condition, signature, note })
    const against_ = { receipt: 'against the receipt', identity: 'against a document', 'known-here': 'known here' }
    return done(
      withStep(ofCase, write.things, step),
      `gave ${things.map(({ words }) => words).join(', ')} to ${person}, ${against_[against]}`,
    )
  },
  lend: (ofCase, write, { by, at }) => {
    const { words, serial, condition, person } = write
    const step = stepOf({ step: 'lent', at, by, condition, person })
    const thing = { id: nextId('t', ofCase.things), part: null, words, serial, isLoan: true, steps: [step] }
    return done({ ...ofCase, things: [...ofCase.things, thing] }, `lent ${words} to ${person}`)
  },
  'take-loan-back': (ofCase, write, { by, at }) => {
    const thing = lentTo(ofCase.things).find(({ id }) => id === write.thing)
    if (!thing) return no('That loan device is not out.')
    const { condition, isWiped } = write
    const step = stepOf({ step: 'back', at, by, condition, isWiped })
    return done(
      withStep(ofCase, [thing.id], step),
      `took ${thing.words} back from loan, ${isWiped ? 'wiped' : 'not wiped yet'}`,
    )
  },
  dispose: (ofCase, write, { by, at }) => {
    const thing = heldFor(ofCase.things).find(({ id }) => id === write.thing)
    if (!thing) return no('That is not in the shop.')
    if (ofCase.state.name !== 'uncollected')
      return no('Only what was not collected is disposed of. Set the case to uncollected first.')
    const step = stepOf({ step: 'disposed', at, by, isWiped: write.isWiped, note: write.note })
    return done(
      withStep(ofCase, [thing.id], step),
      `disposed of ${thing.words}, ${write.isWiped ? 'wiped' : 'not wiped'}: ${write.note}`,
    )
  },
  contact: (ofCase, { way, says }, { by, at }) =>
    done({ ...ofCase, contacts: [...ofCase.contacts, { at, by, way, says }] }, `${CONTACT_WORDS[way]}: ${says}`),
  quote: (ofCase, { low, high, nothingBack, note }, { by, at, shop }) => {
    if (low > high) return no('The lower figure is above the higher one.')
    const price = (amount: number) => priceWords(amount, shop.currency)
    return done(
      { ...ofCase, money: { ...ofCase.money, quote: { low, high, nothingBack, note, at, by } } },
      `quoted ${price(low)} to ${price(high)}; ${price(nothingBack)} where nothing comes back`,
    )
  },
  charge: (ofCase, { run, words, amount }, { by, at, shop }) => {
    if (run !== null && !ofCase.runs.some(({ id }) => id === run)) return no('There is no such run.')
    const { money } = ofCase
    const { total } = accountOf(money)
    const limit = priceLimit(ofCase)
    if (limit !== null && total + amount > limit)
      return no(
        `That would come to ${priceWords(total + amount, shop.currency)}, above the ${priceWords(limit, shop.currency)} that the client agreed to. Ask first, and record the new price.`,
      )
    const id = nextId('p', money.charges)
    const charges = [...money.charges, { id, run, words, amount, at, by, cancelled: null }]
    const taxPercent = money.taxPercent ?? shop.papers.taxPercent
    return done(
      { ...ofCase, money: { ...money, charges, taxPercent } },
      `charged ${priceWords(amount, shop.currency)}: ${words}`,
    )
  },
  'cancel-charge': (ofCase, { charge, reason }, { by, at, shop }) => {
    const own = ofCase.money.charges.find(({ id }) => id === charge)
    if (!own || own.cancelled) return no('That charge was already cancelled, or is not there.')
    const charges = ofCase.money.charges.map((one) => (one === own ? { ...one, cancelled: { reason, at, by } } : one))
    return done(
      { ...ofCase, money: { ...ofCase.money, charges } },
      `cancelled ${priceWords(own.amount, shop.currency)}, ${own.words}: ${reason}`,
    )
  },
  pay: (ofCase, { kind, amount, way }, { by, at, shop, receipt }) => {
    const { money } = ofCase
    const { paid } = accountOf(money)
    if (kind === 'refund' && amount > paid) return no('That is more than was paid.')
    const payments = [...money.payments, { kind, amount, way, receipt, at, by }]
    return done(
      { ...ofCase, money: { ...money, payments } },
      `${kind} of ${priceWords(amount, shop.currency)} by ${PAYMENT_WAY_WORDS[way]}, receipt ${receipt}`,
    )
  },
  check: (ofCase, { wanted, group, mark, note }, { by, at }) => {
    const set = ofCase.wanted.find(({ id }) => id === wanted)
    if (!set) return no('That wanted set is no longer in the case.')
    const others = ofCase.checks.filter((one) => one.wanted !== wanted || one.group !== group)
    const checks = [...others, { wanted, group, mark, note, at, by }]
    return done(
      { ...ofCase, checks },
      `client looked at ${setWords(set)}, ${group}: ${CHECK_WORDS[mark]}${note ? `, ${note}` : ''}`,
    )
  },
  outcome: (ofCase, { ending, reasons, delivered }, { by, at }) => {
    if (openRunsOf(ofCase).length > 0) return no('A run is still open. Record its result first.')
    const outcome = { ending, reasons, delivered, at, by }
    return done({ ...ofCase, outcome }, `recorded the outcome: ${ENDING_WORDS[ending]}`)
  },
  freeze: (ofCase, { cause, says, told, paper }, { by, at }) =>
    done(
      { ...ofCase, freezes: [...ofCase.freezes, { cause, says, told, paper, at, by, lifted: null }] },
      `stopped the case (${FREEZE_WORDS[cause]}): ${says}`,
    ),
  lift: (ofCase, { reason }, { by, at }) => {
    const own = frozenBy(ofCase.freezes)
    if (!own) return no('This case is not stopped.')
    const freezes = ofCase.freezes.map((one) => (one === own ? { ...one, lifted: { at, by, reason } } : one))
    return done({ ...ofCase, freezes }, `lifted the stop: ${reason}`)
  },
  'return-of': (ofCase, { code }) => {
    if (code === ofCase.code) return no('A case is no return of itself.')
    return done(
      { ...ofCase, returnOf: code },
      code === null ? 'no longer linked to an earlier case' : `linked as a return of ${code}`,
    )
  },
}

const stepOf = (step: z.input<typeof CustodyStep>): CustodyStep => CustodyStep.parse(step)

/** The case with one more thing taken in, or why that is refused. */
function withReceived(
  ofCase: Case,
  { part, words, serial, condition, accessories }: Write<'receive'>['things'][number],
  more: Pick<CustodyStep, 'at' | 'by' | 'place' | 'person'>,
): Case | string {
  const isPart = [...ofCase.devices, ...ofCase.copies].some(({ id }) => id === part)
  if (part !== null && !isPart) return 'That device or medium is no longer in the case.'
  const again = ofCase.things.find((thing) => part !== null && thing.part === part)
  if (again && heldFor([again]).length > 0) return `${words} is already in the shop.`
  const step = stepOf({ step: 'received', condition, accessories, ...more })
  if (again) return withStep({ ...ofCase, things: withWords(ofCase.things, again, words, serial) }, [again.id], step)
  const thing = { id: nextId('t', ofCase.things), part, words, serial, isLoan: false, steps: [step] }
  return { ...ofCase, things: [...ofCase.things, thing] }
}

/** What comes in again may be described anew. */
const withWords = (things: readonly Thing[], one: Thing, words: string, serial: string): Thing[] =>
  things.map((thing) => (thing === one ? { ...thing, words, serial: serial || thing.serial } : thing))

const withStep = (ofCase: Case, things: readonly string[], step: CustodyStep): Case => ({
  ...ofCase,
  things: ofCase.things.map((one) => (things.includes(one.id) ? { ...one, steps: [...one.steps, step] } : one)),
})

/** The consent facts that agreements to these bring about; repair and price have none. */
function withConsent(
  ofCase: Case,
  what: readonly AgreedTo[],
  answer: 'given' | 'refused',
  by: string,
  at: string,
): Case {
  const fact = { answer, by, at }
  return {
    ...ofCase,
    consent: {
      lookThrough: what.includes('look-through') ? fact : ofCase.consent.lookThrough,
      erase: what.includes('erase') ? fact : ofCase.consent.erase,
      laboratory: what.includes('laboratory') ? fact : ofCase.consent.laboratory,
    },
  }
}

const withLimit = (ofCase: Case, limit: number | null): Case =>
  limit === null ? ofCase : { ...ofCase, limits: { ...ofCase.limits, money: limit } }

/** The most that the client agreed to pay: signed or said, else the limit of the case; null where neither is known. */
export function priceLimit(ofCase: Pick<Case, 'agreements' | 'limits'>): number | null {
  const agreed = agreementTo(ofCase.agreements, 'price')?.limit ?? null
  return agreed ?? (known(ofCase.limits.money) ? ofCase.limits.money : null)
}
