import type { Case } from '../../cases/shape/case'
import { known, type Fact } from '../../cases/shape/fact'
import { accountOf, passwordOf } from '../../cases/facts/opened-by'
import type { Device, Platform } from '../../cases/shape/device'
import { DELETIONS } from '../../cases/shape/loss'
import type { Binding } from '../../playbook/bind'
import { repairOf, repairOutcome, runsAfter } from '../../playbook/repairs'
import type { Gate, GateName } from '../../playbook/kinds/route-kind'
import { certain, ONE, ZERO, type Estimate } from '../situation/estimate'
import type { Factor } from './factor'
import { overCauses, payableOf, SUPPOSED, THOUGHT_KNOWN, workingUnknown } from './half-known'
import { gatePriorOf } from './odds'
import { whereItLies, type Reading } from './where-it-lies'
import type { Situation } from '../situation/situation'

/** The state of a gate: a factor of the chance, with the hands-on minutes that meeting it would take. */
export interface GateState {
  readonly factor: Factor
  readonly cureMinutes: number
  /** what to do first, where a gate has to be cured */
  readonly cure: string | null
}

type ReadGate = (binding: Binding, gate: Gate, situation: Situation) => Reading

/** Only pictures and clips are kept in reduced size. */
const hasSizes = ({ wanted }: Case) => wanted.some(({ type }) => !known(type) || type === 'photos' || type === 'videos')
const deviceFact = (binding: Binding, fact: string) => (binding.device ? `devices.${binding.device.id}.${fact}` : null)
const copyFact = (binding: Binding, fact: string) => (binding.copy ? `copies.${binding.copy.id}.${fact}` : null)
const told = (value: Fact<string> | undefined, yes: string): Reading['met'] =>
  value === undefined || !known(value) ? 'unknown' : value === yes ? 'yes' : 'no'

/** Whether the loss did not reach the cloud: it was none that sync carries on, or sync was off. */
function syncWasOff(sync: string | undefined, ofCase: Case): Reading['met'] {
  const carried = overCauses(ofCase, (how) => (DELETIONS.includes(how) || how === 'bin-emptied' ? 1 : 0))
  if (carried === 0 || sync === 'off') return 'yes'
  if (sync === 'on') return carried === 1 ? 'no' : certain(1 - carried)
  if (sync !== 'thought-on') return 'unknown'
  const of = (off: number) => 1 - carried * (1 - off)
  return [of(0.15), of(0.35), of(0.6)]
}

const MEDIUM_WORKS: Estimate = [0.85, 0.95, 0.99]
const lowered = (sentence: string) => sentence.charAt(0).toLowerCase() + sentence.slice(1)

/** Of a device in unknown condition: it works, or it can be made to. */
function runsIfUnknown(device: Device | null, gate: Gate): Estimate {
  const works = workingUnknown(device) ?? gate.prior ?? USUAL_PRIOR
  const repair = device ? repairOf({ ...device, condition: 'no-power' }) : null
  if (!repair) return works
  const after = runsAfter(repair)
  const of = (at: 0 | 1 | 2) => works[at] + (1 - works[at]) * after[at]
  return [of(0), of(1), of(2)]
}

const WET_CHANCE: Partial<Record<string, Estimate>> = { wet: [0.3, 0.55, 0.75], dried: [0.5, 0.75, 0.9] }

/** Each gate in one place: the fact that it reads, and its sentence for each of its states. */
const READ: Record<GateName, ReadGate> = {
  platform: (binding, gate, { ofCase }) => {
    const { reads } = binding.kind
    const platform = ofCase.devices.find((device) => device.id === binding.device?.id)?.platform ?? 'unknown'
    const fits = reads.from === 'device' && reads.platforms.includes(platform as Platform)
    return {
      met: !known(platform) ? (gate.prior ?? [0.2, 0.45, 0.7]) : fits ? 'yes' : 'no',
      fact: deviceFact(binding, 'platform'),
      yes: 'The device is of the family that has it.',
      no: 'Devices of this family do not have it.',
      unknown: 'The device’s family is not known; only one of them has it.',
    }
  },
  'disk-out': (binding) => {
    const isMedium = binding.copy !== null
    const condition = isMedium ? 'unknown' : (binding.device?.condition ?? 'unknown')
    const damaged: Partial<Record<string, Estimate>> = {
      working: [0.85, 0.95, 0.99],
      cracked: [0.85, 0.95, 0.99],
      'touch-dead': [0.85, 0.95, 0.99],
      'system-crashed': [0.85, 0.95, 0.99],
      'no-power': [0.7, 0.88, 0.96],
      wet: [0.3, 0.55, 0.75],
    }
    const wasWet = binding.device !== null && WET_CHANCE[binding.device.wet]
    return {
      met: isMedium
        ? [0.85, 0.95, 0.99]
        : condition === 'clicking' || condition === 'gone'
          ? 'no'
          : condition === 'no-power' && wasWet
            ? wasWet
            : (damaged[condition] ?? (wasWet || 'unknown')),
      fact: isMedium ? null : deviceFact(binding, 'condition'),
      yes: 'It can be read outside of the device.',
      no:
        condition === 'gone'
          ? 'The device itself is gone.'
          : 'Its moving parts are damaged: every minute of running makes it worse. Laboratory first.',
      unknown:
        condition === 'system-crashed'
          ? 'Its system does not start, but its disk can be taken out and read elsewhere.'
          : condition === 'no-power' && !wasWet
            ? 'The device does not start, but its disk can be taken out and read elsewhere.'
            : condition === 'wet' || wasWet
              ? 'The disk was wet; it may still be read once it is dry.'
              : 'It can probably be read outside of the device.',
    }
  },
  cable: (binding) => ({
    met: told(binding.device?.cable, 'ready'),
    fact: deviceFact(binding, 'cable'),
    yes: 'It answers by cable.',
    no: 'Its debugging switch is off and it trusts no computer, so it does not answer by cable.',
    unknown: 'It is not known whether its debugging switch is on or it trusts a computer.',
  }),
  'full-size': (binding, _gate, { ofCase }) => ({
    met: hasSizes(ofCase) ? told(binding.copy?.size, 'full') : 'yes',
    fact: copyFact(binding, 'size'),
    yes: 'It keeps the originals.',
    no: 'It keeps reduced copies only.',
    unknown: 'It is not known whether it keeps the originals or reduced copies.',
  }),
  'reduced-size': (binding, _gate, { ofCase }) => ({
    met: hasSizes(ofCase) ? told(binding.copy?.size, 'reduced') : 'no',
    fact: copyFact(binding, 'size'),
    yes: 'It keeps reduced copies.',
    no: 'It keeps the originals, so nobody needs the reduced ones.',
    unknown: 'It is not known whether it keeps the originals or reduced copies.',
  }),
  'backup-kept': (binding) => ({
    met: binding.copy && known(binding.copy.taken) ? 'yes' : 'unknown',
    fact: copyFact(binding, 'taken'),
    yes: 'It kept a backup.',
    no: 'It kept none.',
    unknown: 'Nobody has checked yet whether it kept a backup.',
  }),
  working: (binding, gate, { ofCase }) => {
    const isMedium = binding.copy?.kind === 'medium'
    const { device } = binding
    const condition = isMedium ? 'unknown' : (device?.condition ?? 'unknown')
    const repair = isMedium ? null : repairOf(device)
    const outcome = device && repair ? repairOutcome(ofCase, device.id) : null
    return {
      met: isMedium
        ? MEDIUM_WORKS
        : outcome !== null
          ? outcome === 'worked'
            ? 'yes'
            : 'no'
          : repair
            ? runsAfter(repair)
            : known(condition)
              ? told(condition, 'working')
              : runsIfUnknown(device, gate),
      fact: isMedium ? null : deviceFact(binding, 'condition'),
      yes: outcome === 'worked' ? 'It runs again since it was repaired.' : 'It works.',
      no:
        condition === 'clicking'
          ? 'Its moving parts are damaged: every minute of running makes it worse. Laboratory first.'
          : condition === 'gone'
            ? 'The device itself is gone.'
            : outcome === 'failed'
              ? 'It was repaired in vain: it still does not run.'
              : 'It does not run, so nothing can be read on it here.',
      unknown: isMedium
        ? 'The medium can probably be read in a reader.'
        : repair
          ? `It has to run first: ${lowered(repair.says)}`
          : workingUnknown(device)
            ? 'It was wet and has not been tried since.'
            : 'It is not known whether it works.',
    }
  },
  passcode: ({ device, ...rest }) => {
    const lock = device?.lock ?? 'unknown'
    const met = lock === 'none' || lock === 'unlocked' ? 'yes' : told(device?.passcode, 'known')
    return {
      met,
      fact: deviceFact({ device, ...rest }, lock === 'locked' ? 'passcode' : 'lock'),
      yes: 'It can be unlocked.',
      no: 'It is locked, and the passcode is not known.',
      unknown:
        lock === 'locked'
          ? 'It is locked; it is not known whether the passcode is known.'
          : 'It is not known whether it can be unlocked.',
    }
  },
  exists: (binding) => ({
    met: binding.copy?.exists === 'supposed' ? SUPPOSED : told(binding.copy?.exists, 'yes'),
    fact: copyFact(binding, 'exists'),
    yes: 'There is such a copy.',
    no: 'There is no such copy.',
    unknown: 'It follows from what was said that there is such a copy; nobody has confirmed it.',
  }),
  where: (binding, _gate, { ofCase }) => whereItLies(binding, ofCase),
  spare: (binding, _gate, { ofCase }) => ({
    met: ofCase.devices.some((device) => device.spare === 'yes')
      ? 'yes'
      : binding.device?.spare === 'no'
        ? 'no'
        : 'unknown',
    fact: deviceFact(binding, 'spare'),
    yes: 'There is a spare of the same kind.',
    no: 'There is no spare of the same kind.',
    unknown: 'It is not known whether there is a spare of the same kind.',
  }),
  account: (binding, _gate, { ofCase }) => {
    const account = binding.copy ? accountOf(binding.copy, ofCase) : null
    const state = account?.state ?? 'unknown'
    return {
      met: state === 'opened' ? 'yes' : state === 'thought-known' ? THOUGHT_KNOWN : told(state, 'known'),
      fact: account?.path ?? null,
      yes: 'Account and password are known.',
      no: 'Account or password are not known.',
      unknown:
        state === 'thought-known'
          ? 'The client thinks they know account and password.'
          : 'It is not known whether account and password are known.',
    }
  },
  'backup-password': (binding, gate, { ofCase }) => {
    const encrypted = binding.copy?.encrypted ?? 'unknown'
    const opener = binding.copy ? passwordOf(binding.copy, ofCase) : null
    const password = opener?.state ?? 'unknown'
    const prior = gate.prior ?? [0.3, 0.55, 0.8]
    const met: Reading['met'] =
      encrypted === 'no' || password === 'opened'
        ? 'yes'
        : password === 'not-known'
          ? encrypted === 'yes'
            ? 'no'
            : [0.3, 0.5, 0.7]
          : password === 'thought-known'
            ? THOUGHT_KNOWN
            : encrypted === 'yes'
              ? 'unknown'
              : [1 - (1 - prior[0]) * 0.6, 1 - (1 - prior[1]) * 0.5, 1 - (1 - prior[2]) * 0.4]
    return {
      met,
      fact: encrypted === 'unknown' ? copyFact(binding, 'encrypted') : (opener?.path ?? null),
      yes: encrypted === 'no' ? 'The backup is not encrypted.' : 'The backup’s password has opened it.',
      no: 'The backup is encrypted, and its password is not known.',
      unknown:
        password === 'thought-known'
          ? 'The client thinks they know the backup’s password.'
          : encrypted === 'yes'
            ? 'The backup is encrypted; it is not known whether its password is known.'
            : 'It is not known whether the backup is encrypted.',
    }
  },
  'bin-on': ({ device, ...rest }, gate, { ofCase }) => {
    const name = gate.bin ?? 'files'
    const state = device?.bins[name] ?? 'unknown'
    const wasEmptied = state === 'emptied' || ofCase.loss.how === 'bin-emptied'
    return {
      met: wasEmptied ? 'no' : told(state, 'on'),
      fact: deviceFact({ device, ...rest }, `bins.${name}`),
      yes: 'The bin was on.',
      no: wasEmptied ? 'The bin has been emptied.' : 'The bin was off, so it kept nothing.',
      unknown: 'The bin keeps them if it was on, which is not known yet.',
    }
  },
  'sync-was-on': (binding) => ({
    met: binding.copy?.sync === 'thought-on' ? [0.4, 0.65, 0.85] : told(binding.copy?.sync, 'on'),
    fact: copyFact(binding, 'sync'),
    yes: 'Sync was on, so the deletion reached the cloud and its bin.',
    no: 'Sync was off, so nothing was deleted there and its bin is empty.',
    unknown:
      binding.copy?.sync === 'thought-on'
        ? 'The client thinks that sync was on; people are often wrong about that.'
        : 'It is not known whether sync was on when it happened.',
  }),
  'sync-was-off': (binding, _gate, { ofCase }) => ({
    met: syncWasOff(binding.copy?.sync, ofCase),
    fact: copyFact(binding, 'sync'),
    yes: 'The loss did not reach the cloud.',
    no: 'Sync was on, so the deletion reached the cloud.',
    unknown: 'It is not known whether sync was on when it happened; if it was off, the cloud still has them.',
  }),
  selective: (binding) => ({
    met: told(binding.copy?.selective, 'yes'),
    fact: copyFact(binding, 'selective'),
    yes: 'It can be read selectively.',
    no: 'It can only be restored as a whole.',
    unknown: 'Most such backups can be read selectively.',
  }),
  'consent-erase': (_binding, _gate, { ofCase }) => ({
    met: told(ofCase.consent.erase.answer, 'given'),
    fact: 'consent.erase.answer',
    yes: 'The client agreed to erase the device.',
    no: 'The client does not want the device erased.',
    unknown: 'The client has not been asked yet about erasing the device.',
  }),
  'consent-laboratory': (_binding, _gate, { ofCase }) => {
    const { seenBy } = ofCase.limits
    const isIn = seenBy === 'us-only' || seenBy === 'in-house'
    return {
      met: isIn ? 'no' : told(ofCase.consent.laboratory.answer, 'given'),
      fact: isIn ? 'limits.seenBy' : 'consent.laboratory.answer',
      yes: 'The client agreed to a laboratory.',
      no:
        seenBy === 'us-only'
          ? 'Nobody but us may see the data.'
          : isIn
            ? 'Nothing may leave the house.'
            : 'The client does not want a laboratory.',
      unknown: 'The client has not been asked yet about a laboratory.',
    }
  },
  price: ({ kind }, _gate, { ofCase }) => {
    const { money, budget } = ofCase.limits
    const most = kind.money.look + kind.money.take
    return {
      met: !known(money) ? (payableOf(budget) ?? 'unknown') : money >= most ? 'yes' : 'no',
      fact: 'limits.money',
      yes: 'Within what the client can spend.',
      no: `It costs up to ${most}; the client can spend ${String(money)}.`,
      unknown:
        budget === 'little'
          ? 'The client wants to spend little.'
          : budget === 'whatever'
            ? 'The client would pay whatever it takes, but has named no sum.'
            : 'It is not known what the client can spend.',
    }
  },
}

const USUAL_PRIOR: Estimate = [0.5, 0.75, 0.9]
/** People who were not asked yet may say no. */
const NOT_ASKED: Record<string, Estimate> = {
  'consent-erase': [0.6, 0.8, 0.95],
  'consent-laboratory': [0.25, 0.5, 0.75],
  price: [0.25, 0.5, 0.75],
}

/** Every gate of a route, read from the facts of the case. */
export function gatesOf(binding: Binding, situation: Situation): GateState[] {
  const family: Gate[] = binding.fits === 'perhaps' ? [{ gate: 'platform' }] : []
  const { copy } = binding
  // Of every copy it can be known whether there is one, and where it lies.
  const ofCopy: Gate[] = [
    ...(copy && known(copy.exists) ? [{ gate: 'exists' } as const] : []),
    ...(copy && known(copy.lies) ? [{ gate: 'where' } as const] : []),
  ]
  return [...family, ...ofCopy, ...binding.kind.gates].map((gate) => gateState(gate, binding, situation))
}

/** How likely a gate is met while that is unknown: the playbook's prior, updated by what the shop has seen. */
export function unmetPriorOf(gate: Gate, kindId: string, { evidence }: Situation): Estimate {
  return gatePriorOf(kindId, gate.gate, gate.prior ?? NOT_ASKED[gate.gate] ?? USUAL_PRIOR, evidence)
}

function gateState(gate: Gate, binding: Binding, situation: Situation): GateState {
  const reading = READ[gate.gate](binding, gate, situation)
  const value = chanceMet(reading.met, () => unmetPriorOf(gate, binding.kind.id, situation))
  const says = reading.met === 'yes' ? reading.yes : reading.met === 'no' ? reading.no : reading.unknown
  const factor = { name: gate.gate, value, fact: reading.fact, says: () => says }
  if (!gate.cure || value[1] === 1) return { factor, cureMinutes: 0, cure: null }
  const { chance, handsOn } = gate.cure
  const cured = (met: number) => met + (1 - met) * chance
  return {
    factor: {
      ...factor,
      value: reading.met === 'no' ? certain(chance) : [cured(value[0]), cured(value[1]), cured(value[2])],
      says: () => (reading.met === 'no' ? `${says} ${gate.cure!.says}.` : says),
    },
    cureMinutes: handsOn * (1 - value[1]),
    cure: gate.cure.says,
  }
}

function chanceMet(met: Reading['met'], prior: () => Estimate): Estimate {
  if (met === 'yes') return ONE
  if (met === 'no') return ZERO
  return met === 'unknown' ? prior() : met
}
