import type { Case } from '../../cases/shape/case'
import { known } from '../../cases/shape/fact'
import { accountOf } from '../../cases/shape/money'
import { DAY_MS } from '../../cases/shape/moment'
import { outcomeOf, type SetOutcome } from '../../cases/shape/outcome'
import type { Run } from '../../cases/shape/run'
import { isMustHave, type WantedSet } from '../../cases/shape/wanted'
import { wordsOf } from '../../cases/telling/answering'
import { minutesWords } from '../../cases/telling/saying/figures'
import { CAUSE_WORDS, countWords, deviceWords, setWords } from '../../cases/telling/words'
import type { Playbook } from '../../playbook/playbook'
import { isRoute, REPAIR, type Plan } from '../../ranking/situation/plan-shape'
import { ENDING_WORDS } from '../words'
import { avoidingWords } from '../avoiding'
import type { SheetBlock, SheetDocument } from '../document'
import { dateWords, priceWords, sheetAround, whenWords, type SheetContext } from '../sheet-parts'

/** A line of the annex: when, who, and what was done. */
export interface AnnexEntry {
  readonly at: string
  readonly by: string
  readonly says: string
}

/** A file of the shelf in the annex. */
export interface AnnexFile {
  readonly path: string
  readonly bytes: number
  readonly sha256: string
  /** only part of its content is there */
  readonly isDamaged: boolean
}

export interface ReportFacts {
  readonly number: string
  readonly plan: Plan
  readonly playbook: Playbook
  /** what was copied and read back */
  readonly files: readonly AnnexFile[]
  /** the history of the case, oldest first */
  readonly entries: readonly AnnexEntry[]
  /** whether evidence and history follow the words for the client */
  readonly hasAnnex: boolean
}

/** Files and entries of the annex; beyond these the bag has the whole list. */
const MAX_ANNEX = 400

/**
 * The report for the client in plain words: what was lost, what was tried, what came back, what not and why, what it cost, and
 * how to avoid it next time; then, where asked for, the technical annex with checksums and the history.
 */
export function reportSheet(ofCase: Case, context: SheetContext, facts: ReportFacts): SheetDocument {
  const { plan, playbook } = facts
  return sheetAround(ofCase, context, {
    title: 'Report',
    number: facts.number,
    blocks: [
      ...lost(ofCase, context),
      ...tried(ofCase, context),
      ...cameBack(ofCase),
      ...damaged(facts),
      ...missing(ofCase, plan),
      ...cost(ofCase, context),
      ...section('How to avoid it next time', avoidingWords(ofCase, plan, playbook)),
      ...after(ofCase, context),
      ...(facts.hasAnnex ? annex(context, facts) : []),
    ],
  })
}

const section = (text: string, items: readonly string[]): SheetBlock[] =>
  items.length === 0
    ? []
    : [
        { kind: 'heading', text },
        { kind: 'list', items: [...items] },
      ]

const paragraph = (text: string, isStrong = false): SheetBlock => ({ kind: 'text', text, isStrong })

const mustWords = ({ mustHave }: WantedSet) =>
  mustHave === 'all' ? ' (must-have)' : typeof mustHave === 'object' ? ' (part of it must-have)' : ''

/** The wanted sets with must-haves first. */
const setsOf = (ofCase: Case): readonly (SetOutcome & { readonly words: string })[] => {
  const outcomes = new Map(outcomeOf(ofCase).map((one) => [one.wanted, one]))
  return ofCase.wanted
    .toSorted((one, other) => Number(isMustHave(other)) - Number(isMustHave(one)))
    .map((set) => ({
      ...outcomes.get(set.id)!,
      words: setWords(set) + mustWords(set),
    }))
}

function lost(ofCase: Case, { shop, now }: SheetContext): SheetBlock[] {
  const words = (path: string) => wordsOf(ofCase, path, { zone: shop.zone, now, currency: shop.currency }) ?? ''
  const rows: [string, string][] = [
    ['Device', ofCase.devices.map(deviceWords).join(', ')],
    [
      'Wanted back',
      setsOf(ofCase)
        .map(({ of, words: what }) => (of === null ? what : `${of} ${what}`))
        .join(', '),
    ],
    ['How it was lost', words('loss.how')],
    ['When', words('loss.when')],
    ['Logged', ofCase.logged ? whenWords(ofCase.logged, shop.zone) : ''],
  ]
  return [
    { kind: 'heading', text: 'What was lost' },
    { kind: 'facts', rows: rows.filter(([, value]) => value !== '') },
  ]
}

function tried(ofCase: Case, { shop }: SheetContext): SheetBlock[] {
  const runs = ofCase.runs.filter(({ ended }) => ended !== null)
  if (runs.length === 0) return [{ kind: 'heading', text: 'What was tried' }, paragraph('Nothing was tried.')]
  return [
    { kind: 'heading', text: 'What was tried' },
    {
      kind: 'table',
      head: ['Way', 'When', 'Result', 'Work'],
      rows: runs.map((run) => [
        run.title,
        dateWords(run.started, shop.zone),
        resultWords(run),
        minutesWords(run.handsOnMinutes),
      ]),
      figuresFrom: 3,
    },
  ]
}

function resultWords(run: Run): string {
  const back = run.results.reduce((sum, result) => sum + result.back, 0)
  if (back > 0) return `${back} came back`
  if (run.cause !== null) return `did not work: ${CAUSE_WORDS[run.cause]}`
  if (run.failedOn !== null) return 'did not work: a condition was not met'
  if (run.safetyCopy !== null) return 'safety copy made and checked'
  if (run.option.startsWith(`${REPAIR}:`) && !run.hasFailed) return 'it runs again'
  return run.hasFailed ? 'did not work' : 'nothing came back'
}

function cameBack(ofCase: Case): SheetBlock[] {
  const { outcome, checks } = ofCase
  const delivered = (id: string) => outcome?.delivered.find(({ wanted }) => wanted === id)?.count ?? null
  const sets = setsOf(ofCase)
  return [
    { kind: 'heading', text: 'What came back' },
    paragraph(outcome ? `${capital(ENDING_WORDS[outcome.ending])}.` : 'The work is not finished yet.', true),
    {
      kind: 'table',
      head: ['What', 'Wanted', 'Back', 'Whole', 'Not verified', 'Damaged', 'Handed over'],
      rows: sets.map((set) => [
        set.words,
        set.of === null ? '?' : `${set.of}`,
        `${set.back}`,
        `${set.whole}`,
        `${set.unverified}`,
        `${Math.max(0, set.back - set.whole - set.unverified)}`,
        `${delivered(set.wanted) ?? '–'}`,
      ]),
      figuresFrom: 1,
    },
    ...checkedWords(checks).map((words) => paragraph(words)),
  ]
}

/** What the client said of it, no more than they looked at: nothing where they looked at nothing. */
function checkedWords(checks: Case['checks']): string[] {
  if (checks.length === 0) return []
  const isAll = checks.some(({ group }) => group === 'all')
  const looked = isAll
    ? 'You went through all of it with us.'
    : `You looked at ${countWords(checks.length, 'groups')} of it with us.`
  const wrong = checks.filter(({ mark }) => mark !== 'right')
  return [
    looked,
    wrong.length === 0 ? 'You found that right.' : '',
    ...wrong.map(({ group, mark, note }) => {
      const says = mark === 'missing' ? 'something is missing' : 'you are not sure'
      return `${groupWords(group)}: ${says}${note ? ` (${note})` : ''}.`
    }),
  ].filter(Boolean)
}

const groupWords = (group: Case['checks'][number]['group']) =>
  group === 'all' ? 'In all' : group === 'undated' ? 'Without a date' : dateWords(`${group}T12:00:00Z`, 'UTC')

/** The most damaged items that are named in the report. */
const MAX_DAMAGED = 40

function damaged({ files }: ReportFacts): SheetBlock[] {
  const names = files.flatMap(({ path, isDamaged }) => (isDamaged ? [path] : []))
  if (names.length === 0) return []
  const more = names.length > MAX_DAMAGED ? [`and ${names.length - MAX_DAMAGED} more`] : []
  return [
    paragraph('Damaged, only part of the content is there:'),
    { kind: 'list', items: [...names.slice(0, MAX_DAMAGED), ...more] },
  ]
}

const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1)

function missing(ofCase: Case, plan: Plan): SheetBlock[] {
  const short = setsOf(ofCase).filter(({ of, back }) => of !== null && back < of)
  const triedAlready = new Set(ofCase.runs.map(({ option }) => option))
  const closed = plan.options.filter(
    (option) => isRoute(option) && option.standing === 'closed' && !triedAlready.has(option.id),
  )
  if (short.length === 0 && ofCase.outcome?.ending === 'in-full') return []
  const reasons = (ofCase.outcome?.reasons ?? '').split('\n').map((line) => line.trim())
  return section(ofCase.outcome ? 'What did not come back, and why' : 'What is not back yet, and what is closed', [
    ...short.map(({ of, back, words }) => `${of! - back} of ${of} ${words}`),
    ...reasons.filter(Boolean),
    ...closed.map(({ title, says }) => `${title}: ${says}`),
  ])
}

function cost(ofCase: Case, { shop }: SheetContext): SheetBlock[] {
  const { charges, taxPercent } = ofCase.money
  const price = (amount: number) => priceWords(amount, shop.currency)
  const due = charges.filter(({ cancelled }) => cancelled === null)
  if (due.length === 0) return []
  const account = accountOf(ofCase.money)
  const tax = (taxPercent ?? 0) > 0 ? ` It holds ${price(account.tax)} ${shop.papers.taxName || 'tax'}.` : ''
  return [
    { kind: 'heading', text: 'What it cost' },
    {
      kind: 'table',
      head: ['For', 'Price'],
      rows: [...due.map(({ words, amount }) => [words, price(amount)]), ['Total', price(account.total)]],
      figuresFrom: 1,
    },
    paragraph(`Paid: ${price(account.paid)}. Open: ${price(account.open)}.${tax}`),
  ]
}

function after(ofCase: Case, { shop, now }: SheetContext): SheetBlock[] {
  const returned = ofCase.things.flatMap(({ isLoan, steps }) =>
    isLoan ? [] : steps.filter(({ step }) => step === 'returned'),
  )
  const from = returned.length > 0 ? Date.parse(returned.at(-1)!.at) : now
  const name = known(ofCase.client.name) ? ofCase.client.name : ''
  return [
    paragraph(
      `We keep what we recovered until ${dateWords(from + shop.papers.wipeDays * DAY_MS, shop.zone)}. Check your copy before then.`,
    ),
    { kind: 'sign', words: 'Received with the recovered data', name, signature: null },
  ]
}

function annex({ shop }: SheetContext, { files, entries }: ReportFacts): SheetBlock[] {
  const left = (all: readonly unknown[]) =>
    all.length > MAX_ANNEX ? ` The first ${MAX_ANNEX} of ${all.length} are listed.` : ''
  return [
    { kind: 'heading', text: 'Annex: checksums of what came back (SHA-256)' },
    paragraph(`${files.length} files were copied and read back.${left(files)}`),
    ...(files.length === 0
      ? []
      : [
          {
            kind: 'table' as const,
            head: ['File', 'Bytes', 'SHA-256'],
            rows: files.slice(0, MAX_ANNEX).map(({ path, bytes, sha256 }) => [path, `${bytes}`, sha256]),
            figuresFrom: 3,
          },
        ]),
    { kind: 'heading', text: 'Annex: history' },
    ...(entries.length > MAX_ANNEX ? [paragraph(left(entries).trim())] : []),
    {
      kind: 'table',
      head: ['When', 'Who', 'What'],
      rows: entries.slice(0, MAX_ANNEX).map(({ at, by, says }) => [whenWords(at, shop.zone), by, says]),
      figuresFrom: 3,
    },
  ]
}
