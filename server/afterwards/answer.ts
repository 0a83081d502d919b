import { basename, join } from 'node:path'
import type { AfterwardsAnswer, AfterwardsList, AfterwardsWrite } from '../../core/afterwards/record'
import { wipeAsks, wipeStandings, wipeStop, type WipeStanding } from '../../core/afterwards/standing'
import { ASK_WORDS, STOP_WORDS } from '../../core/afterwards/words'
import { Case } from '../../core/cases/shape/case'
import { frozenBy } from '../../core/cases/shape/freeze'
import { known } from '../../core/cases/shape/fact'
import { DAY_MS } from '../../core/cases/shape/moment'
import { sameCode } from '../../core/handover/code'
import { may, type Role } from '../../core/people/person'
import type { Playbook } from '../../core/playbook/playbook'
import { noteHappening, readStored, updateCase, type StoredCase, type Writer } from '../cases/rows'
import { seesStopped } from '../cases/visible'
import { writing } from '../cases/writing/writing'
import { attachments } from '../db/tables'
import { Failure, invalid, refused } from '../failure'
import { clockJumpedFrom, datedUntil, type Dated } from './due'
import { caseFolder } from '../links/case-folders'
import { heldFiles, heldRows, picturesOf, sizeOfAll } from './held'
import { latestRecords, recordsOf } from './records'
import { wipeCase } from './wipe'

const isoOf = (at: number | null) => (at === null ? null : new Date(at).toISOString())
const shapeOf = ({ part, state, at, stop, asks }: WipeStanding) => ({
  part,
  state,
  at: isoOf(at),
  stop,
  asks: [...asks],
})

/** What is held of a case, when it is wiped, and what was. */
export async function afterwardsOf(code: string, playbook: Playbook, now: number): Promise<AfterwardsAnswer> {
  const { database } = useLantern()
  const stored = readStored(database, code)
  const files = await heldFiles(database, stored.id, code)
  const pictures = database.select().from(attachments).where(picturesOf(stored.id, 'person')).all()
  const size = await sizeOfAll([
    ...files.folders,
    ...files.own,
    ...pictures.map(({ file }) => join(caseFolder('attachments', code), file)),
  ])
  const [data, person] = [heldRows(database, stored.id, 'data'), heldRows(database, stored.id, 'person')]
  return {
    standings: wipeStandings(stored.case, playbook.shop, now).map(shapeOf),
    held: { ...size, ...data, sheets: person.sheets, pictures: person.pictures },
    own: files.own.map((path) => basename(path)),
    outside: [...files.outside],
    records: recordsOf(database, stored.id),
  }
}

/** Wipes a part of a case by hand, or keeps it longer; throws a Failure where that cannot be. */
export async function writeAfterwards(
  code: string,
  write: AfterwardsWrite,
  { role, writer }: { readonly role: Role; readonly writer: Writer },
): Promise<void> {
  const { database } = useLantern()
  if (write.do === 'keep') return keepUntil(code, write.until, writer)
  const stored = readStored(database, code)
  requireWish(stored, write, role)
  if (write.reason !== '') noteReason(stored, write.reason, writer)
  await wipeCase(code, { part: write.part, by: writer.by, why: 'wish', now: writer.now })
}

function requireWish({ case: ofCase }: StoredCase, write: Extract<AfterwardsWrite, { do: 'wipe' }>, role: Role): void {
  const { part } = write
  if (ofCase.wiping[part]) throw refused('That was wiped already.')
  if (part === 'person' && !may(role, 'people'))
    throw new Failure('not-allowed', 'Only an owner wipes the name: the shop may have to keep receipts for years.')
  const stop = wipeStop(ofCase)
  if (stop) throw refused(STOP_WORDS[stop])
  if (!sameCode(write.code, ofCase.code)) throw invalid([{ path: 'code', message: 'is not the code of this case' }])
  const asks = wipeAsks(ofCase)
  if (asks.length > 0 && write.reason === '')
    throw refused(`Say why it is wiped although ${asks.map((one) => ASK_WORDS[one]).join(', and ')}.`)
}

function noteReason(stored: StoredCase, says: string, writer: Writer): void {
  const happening = { kind: 'hand-over' as const, fact: 'wiping', was: null, is: { says: `asked to wipe it: ${says}` } }
  noteHappening(useLantern().database, stored.case.code, happening, writer)
}

function keepUntil(code: string, until: string | null, writer: Writer): void {
  writing(useLantern().database, (handle) => {
    const before = readStored(handle, code)
    if (before.case.wiping.data) throw refused('The data of this case were wiped already.')
    const after = Case.parse({ ...before.case, wiping: { ...before.case.wiping, keepUntil: until } })
    const says =
      until === null ? 'no longer keeps the data longer than usual' : `keeps the data until ${until.slice(0, 10)}`
    updateCase(handle, before, after, [{ kind: 'hand-over', fact: 'wiping', was: null, is: { says } }], writer)
  })
}

const SOON_DAYS = 30
const MAX_RECORDS = 50

/** Cases that ask before they are wiped, those that are wiped in the next weeks, and the latest records. */
export function afterwardsList(role: Role, now: number): AfterwardsList {
  const { database } = useLantern()
  const dated = datedUntil(database, now + SOON_DAYS * DAY_MS, now).filter(
    ({ stored }) => seesStopped(role) || !frozenBy(stored.case.freezes),
  )
  const line = ({ stored: { case: ofCase }, standing }: Dated) => ({
    code: ofCase.code,
    client: known(ofCase.client.name) ? ofCase.client.name : 'no name',
    ...shapeOf(standing),
  })
  const isAsking = ({ standing: { state, at } }: Dated) =>
    state === 'asks' || (state === 'held' && at !== null && at <= now)
  return {
    clockJumpedFrom: isoOf(clockJumpedFrom(database, now)),
    asks: dated.filter(isAsking).map(line),
    next: dated.filter((one) => !isAsking(one)).map(line),
    records: latestRecords(database, MAX_RECORDS),
  }
}
