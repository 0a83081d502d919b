import { CASE_FORMAT, Case } from '../../../core/cases/shape/case'
import { Wiping } from '../../../core/cases/shape/wiping'
import { withFacts, type Change } from '../../../core/cases/facts/facts'
import type { BundleEntry } from '../../../core/exchange/bundle'
import { renumberedCase } from '../../../core/exchange/renumbered'
import type { Playbook } from '../../../core/playbook/playbook'
import type { Database } from '../../db/open'
import { invalid, refused } from '../../failure'
import { fromElsewhere } from '../../../core/ledger/ended-run'
import { withClientCard } from '../clients'
import { nextCode } from '../codes'
import { codeOfIdentity, insertCase, type Handle, type StoredCase, type Writer } from '../rows'
import { type Written, written, iso, writing } from './writing'
import { withConsentStamps, withProofStamp, factHappenings } from './facts'

/** What a list says of a case beside its facts: when it was logged, and a note. */
interface FromList {
  readonly logged: string | null
  readonly note: string | null
}

/** A new case with these facts already set. */
export function logCase(
  database: Database,
  changes: readonly Change[],
  playbook: Playbook,
  writer: Writer,
  { logged, note }: FromList = { logged: null, note: null },
): Written {
  return writing(database, (handle) => {
    const code = nextCode(handle, playbook.shop.codePrefix)
    const begun = Case.parse({
      format: CASE_FORMAT,
      version: 1,
      code,
      logged: logged ?? iso(writer.now),
      state: { name: 'logged', since: iso(writer.now) },
      contacts: note === null ? [] : [{ at: iso(writer.now), by: writer.by, way: 'came-in', says: note }],
    })
    const set = withFacts(begun, changes)
    if (!set.ok) throw invalid(set.faults, 'The case')
    const whole = withClientCard(
      handle,
      withProofStamp(begun, withConsentStamps(begun, set.changed, writer), writer),
      writer,
    )
    return written(
      insertCase(
        handle,
        whole,
        [{ kind: 'logged', fact: '', was: null, is: { code } }, ...factHappenings(begun, whole, changes)],
        writer,
      ),
    )
  })
}

/** Pictures and papers do not come with a case file: what was signed elsewhere is named by nothing here. */
const withoutAttachments = (read: Case): Case => renumberedCase(read, new Map())

interface Importing {
  readonly playbook: Playbook
  readonly writer: Writer
  /** the history of the other shop, where it came along */
  readonly history: readonly BundleEntry[]
}

/**
 * A case from another shop, under the next code of this one; its earlier code and history are in the first entry here. Throws a
 * Failure where the same case is here already.
 */
export function importInto(handle: Handle, read: Case, { playbook, writer, history }: Importing): StoredCase {
  const here = read.identity === null ? null : codeOfIdentity(handle, read.identity)
  if (here !== null) throw refused(`This case is here already, as ${here}.`)
  const code = nextCode(handle, playbook.shop.codePrefix)
  const stays = {
    ...withoutAttachments(read),
    code,
    with: null,
    // The code of a case of the other shop says nothing here.
    returnOf: null,
    runs: read.runs.map((run) => fromElsewhere(run, writer.by, iso(writer.now))),
    // Its dates count here anew, whatever was wiped of it elsewhere.
    wiping: Wiping.parse({}),
    logged: read.logged ?? iso(writer.now),
    client: { ...read.client, id: null },
  }
  const kept = withClientCard(handle, stays, writer)
  const is = { code, was: read.code, ...(history.length > 0 ? { before: history } : {}) }
  return insertCase(handle, kept, [{ kind: 'imported', fact: '', was: null, is }], writer)
}

/** A case from a case file. */
export const importCase = (database: Database, read: Case, playbook: Playbook, writer: Writer): Written =>
  writing(database, (handle) => written(importInto(handle, read, { playbook, writer, history: [] })))
