import { cases } from '../db/tables'
import { standInMedia } from '../../stand-ins/media/things'
import { standIns } from '../../stand-ins/things'
import { readStored, type Writer } from '../cases/rows'
import { put } from './case-links'

/** Attaches the demo's stand-ins to the cases that they belong to. */
export function attachStandIns(writer: Writer): void {
  const { database } = useLantern()
  const stored = database
    .select({ code: cases.code })
    .from(cases)
    .all()
    .map(({ code }) => readStored(database, code))
  for (const { id, standsFor } of [...standIns, ...standInMedia])
    for (const { title, part } of standsFor ?? []) {
      const found = stored.find((one) => one.case.title === title || one.case.client.name === title)
      if (found) put(found, part, id, writer)
    }
}
