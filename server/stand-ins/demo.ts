import { HOUR_MS } from '../../core/cases/shape/moment'
import type { Playbook } from '../../core/playbook/playbook'
import { fullPlanOf } from '../../core/ranking/explain/plan'
import { demoCases, type DemoCase, type DemoEvent } from '../../stand-ins/shop/cases'
import { demoPlaybook } from '../../stand-ins/shop/shop'
import { demoTimes } from '../../stand-ins/shop/times'
import { readStored, type Writer } from '../cases/rows'
import { changeFacts } from '../cases/writing/facts'
import { markRun } from '../cases/writing/run-sheet'
import { endRun, startRun } from '../cases/writing/runs'
import { logCase } from '../cases/writing/log'
import { markHold } from '../cases/writing/holds'
import { moveCase } from '../cases/writing/state'
import { HandoverWrite } from '../../core/handover/writes'
import { writeHandover } from '../handover/write'
import type { Database } from '../db/open'
import { writePlaybook } from '../settings'

/** Logs the demo's cases the way people would have, so that each has its history. */
export function fillWithDemo(database: Database, now: number): void {
  const playbook = demoPlaybook()
  writePlaybook(database, playbook)
  const oldestFirst = demoCases(demoTimes(now, playbook.shop.zone)).sort((one, other) => other.logged - one.logged)
  for (const demo of oldestFirst) fillCase(database, demo, playbook, now)
}

function fillCase(database: Database, demo: DemoCase, playbook: Playbook, now: number): void {
  const { stored } = logCase(database, demo.facts, playbook, { by: demo.by, now: now - demo.logged * HOUR_MS })
  for (const event of demo.events)
    happen(database, stored.case.code, event, playbook, { by: event.by, now: now - event.ago * HOUR_MS })
}

function happen(database: Database, code: string, event: DemoEvent, playbook: Playbook, writer: Writer): void {
  if ('tick' in event) markHold(database, code, { hold: event.tick, mark: 'ticked', reason: '' }, writer)
  else if ('waive' in event)
    markHold(database, code, { hold: event.waive, mark: 'waived', reason: event.reason }, writer)
  else if ('hand' in event) writeHandover(database, code, HandoverWrite.parse(event.hand), playbook, writer)
  else if ('facts' in event) changeFacts(database, code, readStored(database, code).version, event.facts, writer)
  else if ('to' in event)
    moveCase(
      database,
      code,
      {
        version: readStored(database, code).version,
        to: event.to,
        waitingFor: event.waitingFor ?? null,
        reason: event.reason ?? '',
      },
      writer,
    )
  else begin(database, code, event, playbook, writer)
}

/** How long somebody had their hands at a run that is still open. */
const BEGUN_MS = 14 * 60_000

function begin(
  database: Database,
  code: string,
  event: Extract<DemoEvent, { run: string } | { begin: string }>,
  playbook: Playbook,
  writer: Writer,
): void {
  const option = 'run' in event ? event.run : event.begin
  const { plan } = fullPlanOf(readStored(database, code).case, playbook, writer.now)
  for (const hold of plan.holds.filter((one) => one.protects.includes(option)))
    markHold(database, code, { hold: hold.id, mark: 'ticked', reason: '' }, writer)
  const { stored } = startRun(database, code, option, playbook, writer)
  const { id } = stored.case.runs.at(-1)!
  if (!('run' in event)) {
    // It waits for the client since.
    markRun(database, code, id, { phase: 'waiting' }, playbook, { ...writer, now: writer.now + BEGUN_MS })
    return
  }
  const results = Object.entries(event.back).map(([wanted, [back, whole]]) => ({ wanted, back, whole, unverified: 0 }))
  const ended = { ...writer, now: writer.now + event.minutes * 60_000 }
  endRun(
    database,
    code,
    id,
    { handsOnMinutes: event.minutes, money: 0, results, failedOn: event.failedOn ?? null, note: event.note ?? '' },
    ended,
  )
}
