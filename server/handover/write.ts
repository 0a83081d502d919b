import { randomBytes } from 'node:crypto'
import { and, eq } from 'drizzle-orm'
import { Case } from '../../core/cases/shape/case'
import { faultsOf } from '../../core/cases/shape/faults'
import { whereabouts } from '../../core/cases/shape/custody'
import { applied } from '../../core/handover/apply'
import { receiptCode } from '../../core/handover/code'
import { paidSheet } from '../../core/handover/sheets/paid'
import { receivedSheet } from '../../core/handover/sheets/received'
import { returnedSheet } from '../../core/handover/sheets/returned'
import type { HandoverWrite } from '../../core/handover/writes'
import type { Playbook } from '../../core/playbook/playbook'
import { readStored, updateCase, type Handle, type StoredCase, type Writer } from '../cases/rows'
import { type Written, written, iso, writing } from '../cases/writing/writing'
import type { Database } from '../db/open'
import { invalid, refused } from '../failure'
import { attachments } from '../db/tables'
import { keepPaper, nextNumber, nextReceipt, receiptCodes, sheetContext } from './papers'

/** Enough random bytes that eight letters of a code are among them. */
const CODE_BYTES = 64

/**
 * Does one thing between shop and client, with its entry in the history and the receipt that belongs to it, all in one
 * transaction; throws a Failure where the rules refuse it.
 */
export function writeHandover(
  database: Database,
  code: string,
  write: HandoverWrite,
  playbook: Playbook,
  writer: Writer,
): Written {
  return writing(database, (handle) => {
    const before = readStored(handle, code)
    requirePapers(handle, before.id, write)
    requireEarlier(handle, before, write)
    const { shop } = playbook
    const done = applied(before.case, write, {
      by: writer.by,
      at: iso(writer.now),
      shop,
      codes: receiptCodes(handle, before.id),
      receipt: nextReceipt(handle, writer.now, shop.zone),
    })
    if (!done.ok) throw refused(done.why)
    const read = Case.safeParse(done.after)
    if (!read.success) throw invalid(faultsOf(read.error), 'This case')
    const after = read.data
    const happening = { kind: 'hand-over' as const, fact: write.do, was: null, is: { says: done.says } }
    const stored = updateCase(handle, before, after, [happening], writer)
    keepReceipt(handle, stored, write, playbook, writer)
    return written(stored)
  })
}

/** Throws a Failure where a signature or paper that is named is none of this case. */
function requirePapers(handle: Handle, caseId: number, write: HandoverWrite): void {
  const named = write.do === 'freeze' ? write.paper : 'signature' in write ? write.signature : null
  if (named === null) return
  const row = handle
    .select({ kind: attachments.kind })
    .from(attachments)
    .where(and(eq(attachments.id, named), eq(attachments.caseId, caseId)))
    .get()
  if (!row || row.kind === 'photo') throw refused('The signature or paper is none of this case.')
}

/** Throws a Failure where a case is linked as a return of one that is no case of the same client. */
function requireEarlier(handle: Handle, { case: ofCase }: StoredCase, write: HandoverWrite): void {
  if (write.do !== 'return-of' || write.code === null) return
  const { client } = readStored(handle, write.code).case
  if (client.id === null || client.id !== ofCase.client.id) throw refused(`${write.code} is no case of this client.`)
}

/** What was handed in, given back or paid has a receipt, made in the same transaction. */
function keepReceipt(
  handle: Handle,
  stored: StoredCase,
  write: HandoverWrite,
  playbook: Playbook,
  writer: Writer,
): void {
  const context = sheetContext(handle, playbook, writer)
  const { case: ofCase } = stored
  if (write.do === 'receive') {
    const [known] = receiptCodes(handle, stored.id)
    const number = nextNumber(handle, stored, 'received')
    const code = known ?? receiptCode(randomBytes(CODE_BYTES))
    keepPaper(handle, stored.id, 'received', receivedSheet(ofCase, context, { number, code }), writer)
  } else if (write.do === 'give-back') {
    const things = ofCase.things.filter(
      (thing) => write.things.includes(thing.id) && whereabouts(thing) === 'with-client',
    )
    const number = nextNumber(handle, stored, 'returned')
    keepPaper(handle, stored.id, 'returned', returnedSheet(ofCase, context, { number, things }), writer)
  } else if (write.do === 'pay') {
    const { receipt } = ofCase.money.payments.at(-1)!
    keepPaper(handle, stored.id, 'paid', paidSheet(ofCase, context, { number: receipt }), writer)
  }
}
