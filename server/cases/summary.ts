import type { Case } from '../../core/cases/shape/case'
import { known } from '../../core/cases/shape/fact'
import { backShareOf } from '../../core/cases/shape/outcome'
import { runAt } from '../../core/cases/shape/open-runs'
import { isBeingWorked } from '../../core/cases/shape/states'
import { countOf } from '../../core/cases/shape/wanted'
import { countWords, deviceWords, STATE_WORDS, TYPE_WORDS } from '../../core/cases/telling/words'
import type { CaseSummary } from '../../core/cases/shape/summary'
import { isoOrNull } from '../../core/cases/shape/moment'
import { reminderOf } from '../../core/handover/next'
import type { Shop } from '../../core/playbook/shop'
import type { FullPlan } from '../../core/ranking/situation/plan-shape'

/** One line of the counter, from a case and its plan. */
export function summaryOf(ofCase: Case, full: FullPlan, shop: Shop): CaseSummary {
  const { plan } = full
  const back = backShareOf(ofCase) ?? 0
  const isLive = isBeingWorked(ofCase.state.name)
  const first = full.override?.order[0] ?? plan.order[0]
  const next = plan.options.find((option) => option.id === first)
  const open = runAt(ofCase, null)
  const closing = isLive ? firstClosing(full) : null
  const device = ofCase.devices[0]
  return {
    code: ofCase.code,
    client: known(ofCase.client.name) ? ofCase.client.name : 'No name yet',
    wanted: wantedWords(ofCase),
    device: device ? deviceWords(device) : 'device not known',
    state: STATE_WORDS[ofCase.state.name] + (ofCase.state.waitingFor ? ` for ${ofCase.state.waitingFor}` : ''),
    stateName: ofCase.state.name,
    remindAt: isoOrNull(reminderOf(ofCase, shop, 0)?.at ?? null),
    nextStep: nextWords(ofCase, open?.title ?? null, isLive ? (next?.title ?? null) : null),
    back,
    expected: isLive ? plan.expected.share[1] : back,
    closes: closing ? closing.closes : [null, null],
    closesWhat: closing ? closingWhat(ofCase, closing) : '',
    waitCost: isLive ? plan.waiting.money : 0,
    waitItems: isLive ? waitWords(ofCase, plan.waiting.items) : '',
    with: ofCase.with,
  }
}

function firstClosing({ plan }: FullPlan) {
  const closing = plan.options.filter((option) => option.standing === 'plan' && option.closes[0] !== null)
  return closing.sort((one, other) => Date.parse(one.closes[0]!) - Date.parse(other.closes[0]!))[0] ?? null
}

function closingWhat(
  ofCase: Case,
  { closes, title }: { closes: [string | null, string | null]; title: string },
): string {
  const { deadline } = ofCase.limits
  return known(deadline) && deadline.from === closes[0] ? 'the deadline' : title
}

function nextWords(ofCase: Case, openRun: string | null, next: string | null): string {
  const { name, waitingFor } = ofCase.state
  if (openRun) return `under way: ${openRun}`
  if (name === 'waiting') return `wait for the ${waitingFor}${next ? `, then ${lowered(next)}` : ''}`
  if (name === 'ready') return 'review with the client'
  if (name === 'uncollected') return 'call the client'
  if (name === 'handed-over') return 'close the case'
  if (name === 'closed') return ''
  return next
    ? lowered(next)
    : ofCase.wanted.length === 0
      ? 'enter what is wanted'
      : ofCase.runs.length === 0
        ? 'ask what copies may exist'
        : 'nothing is left to try'
}

const lowered = (words: string) => words.charAt(0).toLowerCase() + words.slice(1)

export function wantedWords(ofCase: Case): string {
  return (
    ofCase.wanted
      .map((set) => {
        const what = known(set.title) ? set.title : known(set.type) ? TYPE_WORDS[set.type] : 'not said yet'
        return known(set.count) && set.count > 1 ? `${set.count} ${what}` : what
      })
      .join(', ') || 'not said yet'
  )
}

function waitWords(ofCase: Case, items: Record<string, number>): string {
  const [set, amount] = ofCase.wanted
    .map((one) => [one, items[one.id] ?? 0] as const)
    .reduce<readonly [Case['wanted'][number] | null, number]>((most, one) => (one[1] > most[1] ? one : most), [null, 0])
  if (!set || amount < 0.05) return 'nothing yet'
  const what = known(set.type) ? TYPE_WORDS[set.type] : 'items'
  if (countOf(set) === 1) return `${amount.toFixed(1)} of 1`
  return countWords(Math.max(1, amount), what)
}
