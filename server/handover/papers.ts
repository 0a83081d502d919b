import { and, desc, eq, like, sql } from 'drizzle-orm'
import { TZDate } from '@date-fns/tz'
import type { z } from 'zod'
import type { Paper, PaperKind, PrintedSheet } from '../../core/handover/paper'
import { SheetDocument } from '../../core/handover/document'
import type { SheetContext } from '../../core/handover/sheet-parts'
import { optionsSheet } from '../../core/handover/sheets/options'
import { reportSheet } from '../../core/handover/sheets/report'
import { printedHead } from '../../core/history/chain'
import { historyWords } from '../../core/cases/telling/history'
import { may, type Role } from '../../core/people/person'
import { sizeOfSheet } from '../../core/playbook/printing'
import type { Playbook } from '../../core/playbook/playbook'
import { planOfStored } from '../cases/plans'
import { historySince, readStored, updateCase, type Handle, type StoredCase, type Writer } from '../cases/rows'
import { writing } from '../cases/writing/writing'
import { historyHead } from '../db/history/entries'
import { papers } from '../db/tables'
import { notFound } from '../failure'
import { readPlaybook } from '../settings'
import { verifiedItems } from '../shelf/shelf'

/** The sheets that were made for a case, the newest first. */
export function papersOf(caseId: number): Paper[] {
  return useLantern()
    .database.select({ id: papers.id, kind: papers.kind, number: papers.number, at: papers.at, by: papers.by })
    .from(papers)
    .where(eq(papers.caseId, caseId))
    .orderBy(desc(papers.id))
    .all()
}

/**
 * A sheet of a case, word for word as it was made, and the size that its kind is printed in. The annex names items that were found, so that only those who work at the
 * bench read it.
 */
export function paperOf(code: string, id: number, role: Role): z.infer<typeof PrintedSheet> {
  const { database } = useLantern()
  const { id: caseId } = readStored(database, code)
  const row = Number.isInteger(id)
    ? database
        .select()
        .from(papers)
        .where(and(eq(papers.id, id), eq(papers.caseId, caseId)))
        .get()
    : undefined
  if (!row || (row.kind === 'annex' && !may(role, 'work'))) throw notFound('such sheet')
  const size = sizeOfSheet(readPlaybook(database).shop.printing, row.kind)
  return { sheet: SheetDocument.parse(JSON.parse(row.body)), size }
}

/** The codes of the receipts of a case. */
export function receiptCodes(handle: Handle, caseId: number): string[] {
  return handle
    .select({ body: papers.body })
    .from(papers)
    .where(and(eq(papers.caseId, caseId), eq(papers.kind, 'received')))
    .all()
    .flatMap(({ body }) => SheetDocument.parse(JSON.parse(body)).blocks)
    .flatMap((block) => (block.kind === 'code' ? [block.text] : []))
}

/** The number of the next receipt for money: by year in the shop's zone, without gaps. */
export function nextReceipt(handle: Handle, now: number, zone: string): string {
  const year = `R-${new TZDate(now, zone).getFullYear()}-`
  const last = handle
    .select({ number: papers.number })
    .from(papers)
    .where(and(eq(papers.kind, 'paid'), like(papers.number, `${year}%`)))
    .orderBy(desc(sql`length(${papers.number})`), desc(papers.number))
    .limit(1)
    .get()
  const next = last ? Number(last.number.slice(year.length)) + 1 : 1
  return `${year}${String(next).padStart(4, '0')}`
}

const NUMBERED: Record<Exclude<PaperKind, 'paid'>, string> = {
  received: 'in',
  returned: 'out',
  options: 'options',
  report: 'report',
  annex: 'annex',
}

/** The number of the next sheet of a kind in a case: "SL-0012/in-2". */
export function nextNumber(handle: Handle, { id, case: { code } }: StoredCase, kind: keyof typeof NUMBERED): string {
  const count = handle
    .select({ count: sql<number>`count(*)` })
    .from(papers)
    .where(and(eq(papers.caseId, id), eq(papers.kind, kind)))
    .get()!.count
  return `${code}/${NUMBERED[kind]}-${count + 1}`
}

/** What a sheet is made with now: the head is that of the history as it is in this transaction. */
export function sheetContext(handle: Handle, playbook: Playbook, writer: Writer): SheetContext {
  return { shop: playbook.shop, by: writer.by, now: writer.now, head: printedHead(historyHead(handle)) }
}

/** Stores a sheet as it was made; returns its id. */
export function keepPaper(
  handle: Handle,
  caseId: number,
  kind: PaperKind,
  sheet: SheetDocument,
  writer: Writer,
): number {
  const { number, head, at } = sheet
  return handle
    .insert(papers)
    .values({ caseId, kind, number, head, at, by: writer.by, body: JSON.stringify(sheet) })
    .returning({ id: papers.id })
    .get().id
}

const MADE_WORDS = { options: 'the options sheet', report: 'the report', annex: 'the report with its annex' }

/** Makes the options sheet or the report of a case as it is now, and notes it in the history; returns the id of the sheet. */
export function makePaper(
  code: string,
  kind: 'options' | 'report' | 'annex',
  playbook: Playbook,
  writer: Writer,
): number {
  const { database } = useLantern()
  return writing(database, (handle) => {
    const before = readStored(handle, code)
    const number = nextNumber(handle, before, kind)
    const { plan } = planOfStored(database, before, { playbook, now: writer.now }, 'order')
    const says = `made ${MADE_WORDS[kind]} ${number}`
    const happening = { kind: 'hand-over' as const, fact: 'papers', was: null, is: { says } }
    const stored = updateCase(handle, before, before.case, [happening], writer)
    const context = sheetContext(handle, playbook, writer)
    const words = { zone: context.shop.zone, now: writer.now, currency: context.shop.currency }
    const sheet =
      kind === 'options'
        ? optionsSheet(stored.case, context, { plan, playbook, number })
        : reportSheet(stored.case, context, {
            plan,
            playbook,
            number,
            hasAnnex: kind === 'annex',
            files: verifiedItems(stored.id).map(({ path, bytes, sha256, whole }) => ({
              path,
              bytes,
              sha256: sha256 ?? '',
              isDamaged: whole === 'partial',
            })),
            entries:
              kind === 'annex'
                ? historySince(handle, stored.id, 0).map((entry) => ({
                    at: entry.at,
                    by: entry.by,
                    says: historyWords(entry, words),
                  }))
                : [],
          })
    return keepPaper(handle, stored.id, kind, sheet, writer)
  })
}
