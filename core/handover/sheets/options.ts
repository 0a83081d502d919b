import type { Case } from '../../cases/shape/case'
import { known } from '../../cases/shape/fact'
import { minutesWords, percent } from '../../cases/telling/saying/figures'
import { countWords, TYPE_WORDS } from '../../cases/telling/words'
import { opensNothing, type RouteKind } from '../../playbook/kinds/route-kind'
import type { Playbook } from '../../playbook/playbook'
import { GATE_WORDS } from '../../ranking/explain/sheet'
import { firstRouteOf, isRoute, type Plan, type PlanOption } from '../../ranking/situation/plan-shape'
import type { SheetBlock, SheetDocument } from '../document'
import { priceWords, sheetAround, type SheetContext } from '../sheet-parts'

/** The most routes that are laid before a client; more would not be read. */
const MAX_ROUTES = 8

/**
 * What can be tried, side by side in plain words, for the client to decide before work starts: chances as ranges, what each
 * way would bring, needs, costs and risks, and what the shop advises.
 */
export function optionsSheet(
  ofCase: Case,
  context: SheetContext,
  { plan, playbook, number }: { readonly plan: Plan; readonly playbook: Playbook; readonly number: string },
): SheetDocument {
  const ways = openWays(plan)
  const first = firstRouteOf(plan)
  const closed = plan.options.filter((option) => isRoute(option) && option.standing === 'closed')
  return sheetAround(ofCase, context, {
    title: 'What can be tried',
    number,
    blocks: [
      { kind: 'heading', text: 'What we advise' },
      { kind: 'text', text: adviceOf(first), isStrong: true },
      ...(ways.length === 0 ? [] : sideBySide(ofCase, ways, playbook, context)),
      ...notAdvised(plan, ways),
      ...(closed.length === 0
        ? []
        : ([
            { kind: 'heading', text: 'What is no longer open' },
            { kind: 'list', items: closed.map(({ title, says }) => `${title}: ${says}`) },
          ] satisfies SheetBlock[])),
      ...priceBlocks(ofCase, context),
      {
        kind: 'text',
        text: 'The chances are estimates from what is known today and from earlier cases. Nothing is promised.',
        isStrong: false,
      },
      { kind: 'sign', words: 'Decided, with the numbers of the ways to try', name: '', signature: null },
    ],
  })
}

/** The ways that are open: those of the plan in its order, then those that it leaves out. */
export function openWays(plan: Plan): PlanOption[] {
  const inOrder = plan.order.flatMap((id) => plan.options.find((option) => option.id === id) ?? [])
  const others = plan.options.filter((option) => option.standing !== 'closed' && !inOrder.includes(option))
  return [...inOrder, ...others].filter(isRoute).slice(0, MAX_ROUTES)
}

/** Ways that are open and that the plan leaves out, each with its reason. */
function notAdvised(plan: Plan, ways: readonly PlanOption[]): SheetBlock[] {
  const items = ways.flatMap(({ id, title, says }, at) =>
    plan.order.includes(id) ? [] : [`${at + 1}. ${title}: ${says}`],
  )
  return items.length === 0
    ? []
    : [
        { kind: 'heading', text: 'Open, but not advised now' },
        { kind: 'list', items },
      ]
}

const adviceOf = (first: PlanOption | null) =>
  first
    ? `To begin with: ${first.title}. ${first.says}`
    : 'With what is known now, nothing that we could try is worth its cost to you. Ask us what would change that.'

function sideBySide(
  ofCase: Case,
  ways: readonly PlanOption[],
  playbook: Playbook,
  context: SheetContext,
): SheetBlock[] {
  const kindOf = (way: PlanOption) => playbook.kinds.find(({ id }) => id === way.kind) ?? null
  const numbered = ways.map((way, at) => ({ way, kind: kindOf(way), name: `${at + 1}. ${way.title}` }))
  return [
    { kind: 'heading', text: 'The ways side by side' },
    {
      kind: 'table',
      head: ['Way', 'Chance that it works', 'It would then bring', 'Time', 'Price'],
      rows: numbered.map(({ way, name }) => [
        name,
        rangeWords(way.chance),
        bringsWords(ofCase, way),
        timeWords(way),
        moneyWords(way, context.shop.currency),
      ]),
      figuresFrom: 5,
    },
    {
      kind: 'table',
      head: ['Way', 'It needs', 'It risks', 'Who sees the data'],
      rows: numbered.map(({ way, kind, name }) => [name, needsWords(way, kind), risksWords(way, kind), seenWords(way)]),
      figuresFrom: 4,
    },
  ]
}

/** "60% to 80%", and one figure where both are the same. */
export function rangeWords([low, , high]: readonly [number, number, number]): string {
  return percent(low) === percent(high) ? percent(high) : `${percent(low)} to ${percent(high)}`
}

function bringsWords(ofCase: Case, { share }: PlanOption): string {
  const [set, ...others] = ofCase.wanted
  if (!set || others.length > 0 || !known(set.count) || set.count < 2) return `${rangeWords(share)} of what is wanted`
  const [low, high] = [Math.round(share[0] * set.count), Math.round(share[2] * set.count)]
  const what = known(set.type) ? TYPE_WORDS[set.type] : 'items'
  return low === high ? `about ${countWords(high, what)}` : `${low} to ${countWords(high, what)}`
}

function timeWords({ minutes: { handsOn, waiting } }: PlanOption): string {
  const work = `${minutesWords(Math.max(1, handsOn))} of work`
  return waiting >= 1 ? `${work}, ${minutesWords(waiting)} of waiting` : work
}

function moneyWords({ money: { look, take } }: PlanOption, currency: string): string {
  if (look === 0 && take === 0) return 'within the work'
  const looking = look === 0 ? 'free to look' : `${priceWords(look, currency)} to look`
  return take === 0 ? looking : `${looking}, ${priceWords(take, currency)} more to take`
}

function needsWords(way: PlanOption, kind: RouteKind | null): string {
  const open = new Set<string>(way.factors.filter(({ value }) => value < 0.999).map(({ name }) => name))
  const gates = (kind?.gates ?? []).filter(({ gate }) => open.has(gate))
  const words = [...(kind?.sheet.ready ?? []), ...gates.map(({ gate }) => GATE_WORDS[gate])]
  return words.length === 0 ? 'nothing more' : listed([...new Set(words)])
}

/** "A reader; room on the shelf". */
const listed = ([first = '', ...others]: readonly string[]) =>
  [first, ...others.map((one) => one.charAt(0).toLowerCase() + one.slice(1))].join('; ')

function risksWords({ standing, says }: PlanOption, kind: RouteKind | null): string {
  const { erasesDevice, turnsBack, spoilsScans } = kind?.effects ?? {
    erasesDevice: false,
    turnsBack: false,
    spoilsScans: 0,
  }
  const risks = [
    erasesDevice && 'It replaces everything that is on the device now. A safety copy comes first.',
    turnsBack && 'Newer entries of the same kind are replaced.',
    spoilsScans > 0 && 'It writes to the device, so that a later scan finds less.',
    kind?.family === 'lab' && 'The medium is opened and may not work afterwards.',
    standing === 'harmful' && says,
  ].filter((risk) => risk !== false)
  return risks.length === 0 ? 'Nothing that is there is erased or replaced.' : risks.join(' ')
}

const seenWords = ({ family }: PlanOption) =>
  family === 'lab' ? 'The laboratory and we' : opensNothing(family) ? 'Whoever has the items, and we' : 'Only we'

function priceBlocks(ofCase: Case, { shop }: SheetContext): SheetBlock[] {
  const { quote } = ofCase.money
  if (!quote) return []
  const price = (amount: number) => priceWords(amount, shop.currency)
  const total = quote.low === quote.high ? price(quote.low) : `${price(quote.low)} to ${price(quote.high)}`
  return [
    { kind: 'heading', text: 'What it costs' },
    {
      kind: 'facts',
      rows: [
        ['In all, as far as we can say now', total],
        ['Where nothing comes back', price(quote.nothingBack)],
        ...(quote.note === '' ? [] : [['Note', quote.note] as [string, string]]),
      ],
    },
  ]
}
