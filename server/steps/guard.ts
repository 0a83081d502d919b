import { createHash } from 'node:crypto'
import { judgeBackups } from '../../core/bench/choosing'
import type { ActionName, ActionOffer, ActionParameters, Task } from '../../core/bench/action'
import { isDestructive } from '../../core/bench/action'
import type { Comparison, Guard } from '../../core/bench/bench'
import { linkFailure } from '../../core/bench/fault'
import type { LinkState } from '../../core/bench/state'
import { openRunsOf } from '../../core/cases/shape/open-runs'
import { isBeingWorked } from '../../core/cases/shape/states'
import { holdsOpenFor, routesAskingFor } from '../../core/ranking/explain/destructive'
import { fullPlanOf } from '../../core/ranking/explain/plan'
import { readEvidence } from '../cases/evidence'
import { readStored, type StoredCase, type Writer } from '../cases/rows'
import { Failure, invalid, refused } from '../failure'
import { readPlaybook } from '../settings'
import { choosable } from '../links/backups'
import { requireConsent } from '../cases/consent'
import { attachedTo, requireAttached } from '../links/case-links'
import { linkById } from '../links/links'
import { noteAtBench } from '../links/notes'
import { hasSafetyCopy } from './safety-copy'

/** What a step would do to a link of this case, and what it needs first. */
export async function compare(
  code: string,
  linkId: string,
  action: ActionName,
  parameters: ActionParameters,
): Promise<Comparison> {
  const stored = readStored(useLantern().database, code)
  const { part } = requireAttached(stored, linkId)
  requireConsent(stored)
  requireOwnSource(stored, parameters)
  const link = await linkById(linkId)
  const [state, offer] = [await link.state(), await link.offer(action, parameters)]
  const destroys = isDestructive(offer.effects)
  return {
    offer,
    isDestructive: destroys,
    guards: [
      ...(destroys
        ? [...runGuards(stored, part, offer, parameters), consentGuard(stored), await safetyGuard(stored, state, offer)]
        : []),
      ...(await slotGuards(stored, state, offer)),
      ...offer.needs.map((one): Guard => ({
        name: 'precondition',
        isMet: one.isMet,
        says: one.says,
        precondition: one.name,
      })),
    ],
    comparison: markOf(state, offer, parameters),
  }
}

/** A step that destroys something belongs to the route that needs it: no other run may be open, and its holds apply. */
function runGuards(stored: StoredCase, part: string, { action }: ActionOffer, { from }: ActionParameters): Guard[] {
  const { database, clock } = useLantern()
  const playbook = readPlaybook(database)
  const { plan } = fullPlanOf(stored.case, playbook, clock.now(), { evidence: readEvidence(database), depth: 'order' })
  const source = attachedTo(stored).find((one) => one.link === from.split('/')[0])?.part ?? null
  const routes = routesAskingFor({ action, part, from: source }, plan, stored.case, playbook)
  const open = openRunsOf(stored.case)
  const strange = open.find((run) => !routes.some(({ id }) => id === run.option))
  const own = routes.filter(({ id }) => open.some((run) => run.option === id))
  const asking = !strange && own.length > 0 ? own : routes
  return [
    ...(strange === undefined
      ? []
      : [
          {
            name: 'run' as const,
            isMet: false,
            says: `Another run is open (“${strange.title}”): record its result first.`,
          },
        ]),
    ...holdsOpenFor(asking, plan, stored.case).map((hold): Guard => ({
      name: 'hold',
      isMet: false,
      says: hold.says,
      hold: hold.id,
    })),
  ]
}

/** The source of a step must be attached to the same case. */
function requireOwnSource(stored: StoredCase, { from }: ActionParameters) {
  const holder = from.split('/')[0]
  if (holder && !attachedTo(stored).some((one) => one.link === holder))
    throw refused('The source of this step is not attached to this case.')
}

function consentGuard(stored: StoredCase): Guard {
  return {
    name: 'consent',
    isMet: stored.case.consent.erase.answer === 'given',
    says: 'The client has agreed that its contents are replaced.',
  }
}

async function safetyGuard(stored: StoredCase, state: LinkState, offer: ActionOffer): Promise<Guard> {
  // A device at its first screen has no data to keep; any other may have data that it does not report.
  const takesAway =
    offer.effects.gone.some((lot) => lot.count > 0) || (offer.effects.erases && state.state !== 'first-set-up')
  return {
    name: 'safety-copy',
    isMet: !takesAway || (await hasSafetyCopy(stored.id, state.id, state.mark)),
    says: 'A safety copy of its present contents is on the shop’s disk and was read back.',
  }
}

/** A new backup must not replace one that may contain wanted items. */
async function slotGuards(stored: StoredCase, state: LinkState, offer: ActionOffer): Promise<Guard[]> {
  const replaced = offer.effects.replacesBackup
  if (replaced === null) return []
  const backups = await choosable(stored)
  const judged = judgeBackups(backups, stored.case).find((one) => one.id.endsWith(`/${replaced}`))
  const isHarmless =
    judged !== undefined && ['too-late', 'kind-missing', 'other-device', 'too-early'].includes(judged.verdict)
  return [
    {
      name: 'slot',
      isMet: isHarmless,
      says: judged
        ? `The backup that it pushes out holds nothing that is wanted. (${judged.why})`
        : 'The backup that it pushes out has been checked: attach the account and sign in first.',
    },
  ]
}

/** Changes with the contents of the link, with the step, and with its source. */
function markOf(state: LinkState, offer: ActionOffer, { from, items, types }: ActionParameters): string {
  return createHash('sha256')
    .update(JSON.stringify([state.id, state.mark, offer.action, offer.effects, from, items, types]))
    .digest('hex')
    .slice(0, 32)
}

/**
 * Starts a step. One that destroys something starts only when somebody has reviewed its comparison in the present
 * state, the client has agreed, and there is a verified safety copy or a reason to proceed without.
 */
export async function startAction(
  code: string,
  linkId: string,
  action: ActionName,
  parameters: ActionParameters,
  seen: { readonly comparison: string; readonly waiver: string },
  writer: Writer,
): Promise<Task> {
  const compared = await compare(code, linkId, action, parameters)
  const stored = readStored(useLantern().database, code)
  if (!isBeingWorked(stored.case.state.name))
    throw refused(`The case is ${stored.case.state.name.replace('-', ' ')}; move it back to the bench first.`)
  const unmet = compared.guards.filter((one) => !one.isMet)
  // Only a safety copy and a slot can be waived; nothing replaces consent or what the device needs.
  const isWaived = (guard: Guard) =>
    seen.waiver.trim() !== '' && (guard.name === 'safety-copy' || guard.name === 'slot')
  const missing = unmet.filter((one) => !isWaived(one))
  if (missing.length > 0)
    throw new Failure('refused', `Not yet: ${missing.map((one) => one.says).join(' ')}`, {
      fields: missing.map((one) => ({ path: `guards.${one.name}`, message: one.says })),
    })
  if (compared.isDestructive && seen.comparison === '')
    throw invalid([
      { path: 'comparison', message: 'is missing: review first what will be lost and what will be restored' },
    ])
  if (compared.isDestructive && seen.comparison !== compared.comparison)
    throw new Failure('clash', 'Its contents have changed since your review. Review again what will be lost.', {
      fields: [{ path: 'comparison', message: 'is of an earlier state' }],
    })
  const link = await linkById(linkId)
  const { title } = await link.state()
  const task = await link.act(action, parameters)
  const without =
    unmet.length > 0
      ? `, without ${unmet.map((one) => one.name.replace('-', ' ')).join(' and ')}: ${seen.waiver.trim()}`
      : ''
  noteAtBench(code, linkId, `started on “${title}”: ${compared.offer.title.toLowerCase()}${without}`, writer)
  return task
}

/** Passcodes are never guessed: one is entered only where somebody knows it, and never with the last tries. */
export function refuseGuessing(stored: StoredCase, part: string, state: LinkState): void {
  const device = stored.case.devices.find((one) => one.id === part)
  if (state.triesEnd !== 'erases') return
  if (device && device.passcode === 'not-known')
    throw refused(
      'This passcode is not known, and guessing could erase the device. Change the docket once somebody knows it.',
    )
  if (state.triesLeft !== null && state.triesLeft <= MIN_TRIES)
    throw linkFailure(
      'too-many-tries',
      `Only ${state.triesLeft} tries are left before it erases itself. They are not used here.`,
      state.triesLeft,
    )
}

/** As many tries as a bench always leaves unused. */
const MIN_TRIES = 3
