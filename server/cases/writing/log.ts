import { CASE_FORMAT, Case } from '../../../core/cases/shape/case'
import { withFacts, type Change } from '../../../core/cases/facts/facts'
import type { Playbook } from '../../../core/playbook/playbook'
import type { Database } from '../../db/open'
import { invalid, refused } from '../../failure'
import { withClientCard } from '../clients'
import { nextCode } from '../codes'
import { codeOfIdentity, insertCase, type Writer } from '../rows'
import { type Written, written, iso, writing } from './writing'
import { withConsentStamps, withProofStamp, factHappenings } from './facts'

/** A new case with these facts already set. */
export function logCase(database: Database, changes: readonly Change[], playbook: Playbook, writer: Writer): Written {
  return writing(database, (handle) => {
    const code = nextCode(handle, playbook.shop.codePrefix)
    const begun = Case.parse({
      format: CASE_FORMAT,
      version: 1,
      code,
      logged: iso(writer.now),
      state: { name: 'logged', since: iso(writer.now) },
    })
    const set = withFacts(begun, changes)
    if (!set.ok) throw invalid(set.faults, 'The case')
    const logged = withClientCard(
      handle,
      withProofStamp(begun, withConsentStamps(begun, set.changed, writer), writer),
      writer,
    )
    return written(
      insertCase(
        handle,
        logged,
        [{ kind: 'logged', fact: '', was: null, is: { code } }, ...factHappenings(begun, logged, changes)],
        writer,
      ),
    )
  })
}

/** Pictures and papers do not come with a case file: what was signed elsewhere is named by nothing here. */
const withoutAttachments = (read: Case): Case => ({
  ...read,
  agreements: read.agreements.map((one) => ({ ...one, signature: null })),
  things: read.things.map((one) => ({ ...one, steps: one.steps.map((step) => ({ ...step, signature: null })) })),
  freezes: read.freezes.map((one) => ({ ...one, paper: null })),
})

/**
 * A case from a case file, under the next code of this shop; its earlier code is noted in its history. Throws a Failure where
 * the same case is here already.
 */
export function importCase(database: Database, read: Case, playbook: Playbook, writer: Writer): Written {
  return writing(database, (handle) => {
    const here = read.identity === null ? null : codeOfIdentity(handle, read.identity)
    if (here !== null) throw refused(`This case is here already, as ${here}.`)
    const code = nextCode(handle, playbook.shop.codePrefix)
    const stays = {
      ...withoutAttachments(read),
      code,
      with: null,
      // The code of a case of the other shop says nothing here.
      returnOf: null,
      logged: read.logged ?? iso(writer.now),
      client: { ...read.client, id: null },
    }
    const kept = withClientCard(handle, stays, writer)
    return written(
      insertCase(handle, kept, [{ kind: 'imported', fact: '', was: null, is: { code, was: read.code } }], writer),
    )
  })
}
