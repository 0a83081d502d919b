import { DATA_TYPES } from '../../cases/shape/data-types'
import { isHandheld, type Device, type Platform } from '../../cases/shape/device'
import type { Change } from '../../cases/facts/facts'
import { known } from '../../cases/shape/fact'
import { DAY_MS, HOUR_MS, isoOf, spanOf, type Span } from '../../cases/shape/moment'
import { spanWords } from '../../cases/telling/words'
import { heldOf, type Copy } from '../../cases/shape/copy'
import type { Secret } from '../../cases/shape/secret'
import type { Binding } from '../../playbook/bind'
import type { GateName } from '../../playbook/kinds/route-kind'
import { unmetPriorOf } from '../figures/gates'
import { causeOdds, payableOf, SUPPOSED, THOUGHT_KNOWN, workingUnknown } from '../figures/half-known'
import { usualShareOf } from '../figures/coverage/account'
import { stoppedIn } from '../figures/coverage/synced'
import { mediumOf } from '../figures/options'
import { zoneOf, type Situation } from '../situation/situation'
import type { MediumAsked } from '../figures/medium'
import { encryptionOdds } from '../figures/encryption'
import { discardOdds } from '../figures/survival'

/** One thing that a fact may turn out to be, and what to suppose then. */
export interface Answer {
  /** the fact's value as the case would hold it, or the words of a range */
  readonly value: string
  readonly probability: number
  readonly suppose: readonly Change[]
}

/** An unknown fact with its possible values. The chances of its answers add up to 1. */
export interface Unknown {
  readonly fact: string
  readonly answers: readonly Answer[]
}

/** Into so many parts the range of the loss is cut. */
const LOSS_POINTS = 5
/** A loss known to within this many hours counts as known. */
const NARROW_HOURS = 2
/** The number of parts into which the time of a copy is split, where that is unknown. */
const TAKEN_POINTS = 4

/**
 * Every fact of the case that is not known and that some of these routes rest on, with the chances of
 * what it may be: tri-state facts with their priors, and the range of the loss in equal parts.
 */
export function unknownsOf(situation: Situation, bindings: readonly Binding[]): Unknown[] {
  const { ofCase } = situation
  return [
    ...lossUnknowns(situation),
    ...ofCase.devices.flatMap((device) => deviceUnknowns(device, bindings, situation)),
    ...ofCase.copies.flatMap((copy) => copyUnknowns(copy, bindings, situation)),
    ...ofCase.secrets.flatMap((secret) => secretUnknowns(secret, bindings, situation)),
    ...wantedUnknowns(situation, bindings),
    ...termUnknowns(situation, bindings),
  ].filter((unknown) => unknown.answers.length > 1)
}

const set = (fact: string, is: unknown): Change => ({ fact, is })

/** A fact that is one of two things. */
function either(fact: string, yes: string, no: string, chance: number): Unknown {
  return {
    fact,
    answers: [
      { value: yes, probability: chance, suppose: [set(fact, yes)] },
      { value: no, probability: 1 - chance, suppose: [set(fact, no)] },
    ],
  }
}

function spread(fact: string, odds: Readonly<Record<string, number>>, alongWith: readonly Change[] = []): Unknown {
  const answers = Object.entries(odds)
    .filter(([, probability]) => probability > 0)
    .map(([value, probability]) => ({ value, probability, suppose: [set(fact, value), ...alongWith] }))
  return { fact, answers }
}

/** The middle of a gate's prior, taken from the first of these routes that has the gate. */
function priorFor(name: GateName, bindings: readonly Binding[], situation: Situation): number | null {
  for (const { kind } of bindings) {
    const gate = kind.gates.find((one) => one.gate === name)
    if (gate) return unmetPriorOf(gate, kind.id, situation)[1]
  }
  return null
}

function lossUnknowns(situation: Situation): Unknown[] {
  const { ofCase, loss } = situation
  const unknowns: Unknown[] = []
  if (!known(ofCase.loss.how)) unknowns.push(spread('loss.how', causeOdds(ofCase)))
  if (loss.to - loss.from > NARROW_HOURS * HOUR_MS)
    unknowns.push({ fact: 'loss.when', answers: partsOf('loss.when', loss, LOSS_POINTS, situation) })
  if (ofCase.loss.how === 'formatted' && !known(ofCase.loss.format))
    unknowns.push(either('loss.format', 'quick', 'full', 0.8))
  if (!known(ofCase.loss.since.used)) unknowns.push(either('loss.since.used', 'yes', 'no', 0.6))
  return unknowns
}

/** A moment somewhere in a span: one answer for each equal part of it. */
function partsOf(fact: string, span: Span, count: number, situation: Situation): Answer[] {
  return Array.from({ length: count }, (_, index) => {
    const edge = (at: number) => span.from + ((span.to - span.from) * at) / count
    const part: Span = { from: edge(index), to: edge(index + 1) }
    return {
      get value() {
        return spanWords(part, zoneOf(situation), situation.now)
      },
      probability: 1 / count,
      suppose: [set(fact, { from: isoOf(part.from), to: isoOf(part.to) })],
    }
  })
}

const PHONE_FAMILIES: readonly Platform[] = ['closed-phone', 'open-phone']

function deviceUnknowns(device: Device, bindings: readonly Binding[], situation: Situation): Unknown[] {
  const path = `devices.${device.id}`
  const here = bindings.filter((binding) => binding.device?.id === device.id)
  const onIt = here.filter((binding) => binding.copy === null)
  const prior = (name: GateName) => priorFor(name, here, situation)
  const unknowns: Unknown[] = []
  if (!known(device.platform) && here.some((binding) => binding.fits === 'perhaps'))
    unknowns.push(
      spread(
        `${path}.platform`,
        isHandheld(device)
          ? Object.fromEntries(PHONE_FAMILIES.map((family, index) => [family, index === 0 ? 0.45 : 0.55]))
          : { 'desktop-pc': 0.6, 'maker-desktop': 0.3, 'unix-desktop': 0.1 },
      ),
    )
  const working = workingUnknown(device)?.[1] ?? prior('working') ?? prior('disk-out')
  if (!known(device.condition) && working !== null)
    unknowns.push(either(`${path}.condition`, 'working', 'no-power', working))
  const passcode = prior('passcode')
  const isLocked = device.lock === 'locked' || device.lock === 'unknown'
  if (isLocked && !known(device.passcode) && passcode !== null)
    unknowns.push(either(`${path}.passcode`, 'known', 'not-known', passcode))
  const spare = prior('spare')
  if (!known(device.spare) && spare !== null && !situation.ofCase.devices.some((one) => one.spare === 'yes'))
    unknowns.push(either(`${path}.spare`, 'yes', 'no', spare))
  const cable = prior('cable')
  if (!known(device.cable) && cable !== null) unknowns.push(either(`${path}.cable`, 'ready', 'refused', cable))
  for (const { kind } of onIt) {
    const gate = kind.gates.find((one) => one.gate === 'bin-on')
    const name = gate?.bin ?? 'files'
    if (gate && !known(device.bins[name]) && !unknowns.some((one) => one.fact === `${path}.bins.${name}`))
      unknowns.push(either(`${path}.bins.${name}`, 'on', 'off', unmetPriorOf(gate, kind.id, situation)[1]))
  }
  const medium = onIt.map(mediumOf).find((one) => one !== null)
  return medium ? [...unknowns, ...storageUnknowns(medium)] : unknowns
}

function storageUnknowns(medium: MediumAsked): Unknown[] {
  const { storage, path } = medium
  const unknowns: Unknown[] = []
  if (!known(storage.encryption)) unknowns.push(spread(`${path}.encryption`, encryptionOdds(medium)))
  if (!known(storage.discard)) {
    const [atOnce, byTimer, off] = discardOdds(medium)
    unknowns.push(spread(`${path}.discard`, { 'at-once': atOnce, 'by-timer': byTimer, off }))
  }
  return unknowns
}

function copyUnknowns(copy: Copy, bindings: readonly Binding[], situation: Situation): Unknown[] {
  const path = `copies.${copy.id}`
  const here = bindings.filter((binding) => binding.copy?.id === copy.id)
  const prior = (name: GateName) => priorFor(name, here, situation)
  const unknowns: Unknown[] = []
  const ask = (fact: string, yes: string, no: string, chance: number | null) => {
    if (chance !== null) unknowns.push(either(`${path}.${fact}`, yes, no, chance))
  }
  if (copy.exists === 'supposed' && here.length > 0) ask('exists', 'yes', 'no', SUPPOSED[1])
  const shares = (id: string) => situation.ofCase.secrets.some((secret) => secret.id === id)
  if (!known(copy.account) && !shares(copy.accountOf)) ask('account', 'known', 'not-known', prior('account'))
  if (copy.encrypted !== 'no' && prior('backup-password') !== null) {
    if (!known(copy.encrypted)) ask('encrypted', 'yes', 'no', 0.5)
    if ((!known(copy.password) || copy.password === 'thought-known') && !shares(copy.passwordOf))
      ask('password', 'opened', 'not-known', copy.password === 'thought-known' ? 0.75 : prior('backup-password'))
  }
  if (!known(copy.selective)) ask('selective', 'yes', 'no', prior('selective'))
  const isOff = prior('sync-was-off')
  const isOn = prior('sync-was-on') ?? (isOff === null ? null : 1 - isOff)
  if (!known(copy.sync)) ask('sync', 'on', 'off', isOn)
  if (copy.sync === 'thought-on') ask('sync', 'on', 'off', isOn === null ? null : 0.65)
  const isReduced = prior('reduced-size')
  const isFull = prior('full-size') ?? (isReduced === null ? null : 1 - isReduced)
  const hasSizes = situation.ofCase.wanted.some(({ type }) => !known(type) || type === 'photos' || type === 'videos')
  if (!known(copy.size) && hasSizes) ask('size', 'full', 'reduced', isFull)
  const canReplace = here.some(({ kind }) => kind.window.rule === 'replaced')
  if (canReplace && known(copy.replaced) && spanOf(copy.replaced).to <= situation.now && !known(copy.ran))
    ask('ran', 'yes', 'no', 0.75)
  if (here.some(({ kind }) => kind.brings.by === 'snapshot' && kind.brings.keptBin)) {
    if (!known(copy.keepsBin)) ask('keepsBin', 'yes', 'no', 0.2)
    const keeps = keepsPrior(here, situation)
    if (!known(copy.keeps) && keeps < 1)
      unknowns.push({
        fact: `${path}.keeps`,
        answers: [
          { value: 'yes', probability: keeps, suppose: [set(`${path}.keeps`, [...DATA_TYPES])] },
          { value: 'no', probability: 1 - keeps, suppose: [set(`${path}.keeps`, [])] },
        ],
      })
  }
  if (!known(copy.taken) && here.some(({ kind }) => kind.brings.by === 'snapshot'))
    unknowns.push({ fact: `${path}.taken`, answers: takenAnswers(`${path}.taken`, situation) })
  unknowns.push(...heldUnknowns(copy, here, situation), ...syncedUnknowns(copy, here, situation))
  const medium = copy.kind === 'medium' || copy.kind === 'disk-image' ? here.map(mediumOf).find(Boolean) : null
  return medium ? [...unknowns, ...storageUnknowns(medium)] : unknowns
}

/** How many of them somebody has, where they were asked of one set of known size: all, half or hardly any. */
function heldUnknowns(copy: Copy, here: readonly Binding[], { ofCase }: Situation): Unknown[] {
  const brings = here.map(({ kind }) => kind.brings).find((one) => one.by === 'person' || one.by === 'account')
  const [first, ...more] = ofCase.wanted
  if (!brings || !first || more.length > 0 || !known(first.count) || first.count < 4) return []
  if (known(copy.count) || known(heldOf(copy, first.id))) return []
  const [, share] = usualShareOf(brings, first.type)
  const fact = `copies.${copy.id}.count`
  const whole = first.count
  const answer = (value: string, probability: number, part: number): Answer => ({
    value,
    probability,
    suppose: [set(fact, Math.ceil(whole * part))],
  })
  // As if each half of them had been sent or not, which keeps the mean.
  return [
    {
      fact,
      answers: [
        answer('all of them', share ** 2, 1),
        answer('about half', 2 * share * (1 - share), 0.5),
        answer('hardly any', (1 - share) ** 2, 0.01),
      ],
    },
  ]
}

/** Into so many parts the time is cut in which a library stopped being in sync. */
const SYNCED_POINTS = 3

/** Until when a library that was switched off had been in sync: it has what had been made by then. */
function syncedUnknowns(copy: Copy, here: readonly Binding[], situation: Situation): Unknown[] {
  const isLibrary = copy.kind === 'cloud-library' || copy.kind === 'cloud-drive'
  const isRead = isLibrary && here.some(({ kind }) => kind.brings.by === 'library')
  const stopped = stoppedIn(situation)
  if (!isRead || copy.sync !== 'off' || known(copy.syncedUntil) || !stopped) return []
  const fact = `copies.${copy.id}.syncedUntil`
  return [{ fact, answers: partsOf(fact, stopped, SYNCED_POINTS, situation) }]
}

/** An account or a password that several copies share is one fact. */
function secretUnknowns(secret: Secret, bindings: readonly Binding[], situation: Situation): Unknown[] {
  const here = bindings.filter(({ copy }) => copy?.accountOf === secret.id || copy?.passwordOf === secret.id)
  const isAccount = here.some(({ copy }) => copy?.accountOf === secret.id)
  // Of a password that is said to be known it is not known whether it opens anything.
  const isThought = secret.state === 'thought-known' || (secret.state === 'known' && !isAccount)
  if (known(secret.state) && !isThought) return []
  const prior = isThought ? THOUGHT_KNOWN[1] : priorFor(isAccount ? 'account' : 'backup-password', here, situation)
  return prior === null
    ? []
    : [either(`secrets.${secret.id}.state`, isAccount && !isThought ? 'known' : 'opened', 'not-known', prior)]
}

/** The chance that a backup keeps the wanted kinds of data at all, as the playbook has it. */
function keepsPrior(here: readonly Binding[], { ofCase }: Situation): number {
  const kind = here.find((binding) => binding.kind.keeps)?.kind
  if (!kind) return 1
  const priors = ofCase.wanted.map((one) => (known(one.type) ? (kind.keeps?.[one.type] ?? 0.85) : 0.85))
  return priors.length === 0 ? 1 : priors.reduce((sum, prior) => sum + prior, 0) / priors.length
}

/** A copy of unknown date: some time from six weeks before the loss until now. */
function takenAnswers(fact: string, situation: Situation): Answer[] {
  const { loss } = situation.told
  return partsOf(
    fact,
    { from: Math.min(loss.from, situation.now) - 45 * DAY_MS, to: situation.now },
    TAKEN_POINTS,
    situation,
  )
}

function wantedUnknowns({ ofCase }: Situation, bindings: readonly Binding[]): Unknown[] {
  const hasCard = bindings.some(({ copy, kind }) => copy?.kind === 'medium' && kind.brings.by === 'storage')
  if (!hasCard) return []
  return ofCase.wanted
    .filter((one) => !known(one.lived))
    .map((one): Unknown => {
      const fact = `wanted.${one.id}.lived`
      return {
        fact,
        answers: [
          { value: 'card', probability: 0.6, suppose: [set(fact, [{ place: 'card', from: 'unknown' }])] },
          { value: 'device', probability: 0.4, suppose: [set(fact, [{ place: 'device', from: 'unknown' }])] },
        ],
      }
    })
}

function termUnknowns(situation: Situation, bindings: readonly Binding[]): Unknown[] {
  const { limits, consent } = situation.ofCase
  const unknowns: Unknown[] = []
  const erase = priorFor('consent-erase', bindings, situation)
  if (erase !== null && !known(consent.erase.answer))
    unknowns.push(either('consent.erase.answer', 'given', 'refused', erase))
  const laboratory = priorFor('consent-laboratory', bindings, situation)
  // Whether anybody else may see the data is part of that answer.
  const isIn = limits.seenBy === 'us-only' || limits.seenBy === 'in-house'
  if (laboratory !== null && !isIn && !known(consent.laboratory.answer))
    unknowns.push(either('consent.laboratory.answer', 'given', 'refused', laboratory))
  const payable = priorFor('price', bindings, situation)
  const price = payable === null ? null : (payableOf(limits.budget)?.[1] ?? payable)
  if (price !== null && !known(limits.money)) {
    const dearest = Math.max(...bindings.map(({ kind }) => kind.money.look + kind.money.take))
    unknowns.push({
      fact: 'limits.money',
      answers: [
        { value: `${dearest} or more`, probability: price, suppose: [set('limits.money', dearest)] },
        { value: 'less', probability: 1 - price, suppose: [set('limits.money', Math.floor(dearest / 2))] },
      ],
    })
  }
  return unknowns
}
