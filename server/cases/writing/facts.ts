import type { Case } from '../../../core/cases/shape/case'
import { known } from '../../../core/cases/shape/fact'
import { factAt, withFacts, type Change } from '../../../core/cases/facts/facts'
import { mergeByFact, type PastChange } from '../../../core/cases/facts/merge'
import { sameValue } from '../../../core/cases/shape/same-value'
import type { Database } from '../../db/open'
import { Failure, invalid } from '../../failure'
import { withClientCard } from '../clients'
import {
  historySince,
  readStored,
  updateCase,
  type Handle,
  type Happening,
  type StoredCase,
  type Writer,
} from '../rows'
import { type Written, written, iso, writing } from './writing'

/**
 * Sets facts. What others changed since the version that the writer saw is merged fact by fact; facts that two people
 * set differently are returned as clashes and do not change.
 */
export function changeFacts(
  database: Database,
  code: string,
  version: number,
  changes: readonly Change[],
  writer: Writer,
): Written {
  return writing(database, (handle) => {
    const before = readStored(handle, code)
    const since = pastChanges(handle, before, version)
    const { apply, clashes } = mergeByFact(before.case, changes, since)
    const real = apply.filter((change) => !sameValue(factAt(before.case, change.fact) ?? null, change.is ?? null))
    if (real.length === 0) return written(before, clashes)
    const set = withFacts(before.case, real)
    if (!set.ok) throw invalid(set.faults, 'The case')
    const touchesClient = real.some((change) => change.fact.startsWith('client'))
    const stamped = withProofStamp(before.case, withConsentStamps(before.case, set.changed, writer), writer)
    const after = touchesClient ? withClientCard(handle, stamped, writer) : stamped
    return written(updateCase(handle, before, after, factHappenings(before.case, after, real), writer), clashes)
  })
}

/** A consent that was given or refused says who recorded it, and when. */
export function withConsentStamps(before: Case, after: Case, writer: Writer): Case {
  const stamped = Object.entries(after.consent).map(([what, agreement]) => {
    const isNew = agreement.answer !== before.consent[what as keyof Case['consent']].answer
    return [
      what,
      !isNew
        ? before.consent[what as keyof Case['consent']]
        : agreement.answer === 'unknown'
          ? { answer: 'unknown' }
          : { ...agreement, by: writer.by, at: iso(writer.now) },
    ]
  })
  return { ...after, consent: Object.fromEntries(stamped) as Case['consent'] }
}

/** A proof says who saw it, and when; nobody writes that but the server. */
export function withProofStamp(before: Case, after: Case, writer: Writer): Case {
  const { seenBy, seenAt, ...rest } = after.authority
  const { proof } = rest
  if (proof === before.authority.proof)
    return { ...after, authority: { ...rest, seenBy: before.authority.seenBy, seenAt: before.authority.seenAt } }
  const isSeen = known(proof) && proof !== 'none'
  return { ...after, authority: isSeen ? { ...rest, seenBy: writer.by, seenAt: iso(writer.now) } : rest }
}

export function factHappenings(before: Case, after: Case, changes: readonly Change[]): Happening[] {
  return changes.map(({ fact }) => ({
    kind: 'fact',
    fact,
    was: factAt(before, fact) ?? null,
    is: factAt(after, fact) ?? null,
  }))
}

function pastChanges(handle: Handle, stored: StoredCase, version: number): PastChange[] {
  if (version > stored.version)
    throw new Failure('invalid', 'That version of the case does not exist yet.', {
      fields: [{ path: 'version', message: 'is newer than the case' }],
    })
  return historySince(handle, stored.id, version)
    .filter((entry) => entry.kind === 'fact')
    .map((entry) => ({ fact: entry.fact, is: entry.is, by: entry.by }))
}
