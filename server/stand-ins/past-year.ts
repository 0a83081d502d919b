import { chances } from '../../stand-ins/content/chance'
import { pastCase } from '../../stand-ins/shop/past-cases'
import { DEMO_PEOPLE } from '../../stand-ins/shop/people'
import { simulatedYear } from '../../stand-ins/shop/simulated-year'
import { insertCase } from '../cases/rows'
import { writing } from '../cases/writing/writing'
import type { Database } from '../db/open'

const BENCH = DEMO_PEOPLE.filter(({ role }) => role === 'technician').map(({ name }) => name)

interface PastYear {
  readonly seed: number
  readonly runs: number
  /** ms */
  readonly now: number
  readonly often?: readonly string[]
  readonly falls?: Parameters<typeof simulatedYear>[0]['falls']
}

/** Fills the ledger with a simulated year of closed cases, each with its run. */
export function fillPastYear(database: Database, { seed, runs, now, ...more }: PastYear): void {
  const random = chances(seed * 17 + 3)
  const year = simulatedYear({ seed, runs, now, people: BENCH, ...more })
  writing(database, (handle) => {
    year.runs.forEach((run, at) => {
      const writer = { by: run.by, now: run.ended }
      const ofCase = pastCase(run, at + 1, now, random)
      insertCase(handle, ofCase, [{ kind: 'logged', fact: '', was: null, is: { code: ofCase.code } }], writer)
    })
  })
}
