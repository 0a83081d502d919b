import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { ASKED, exchangesOfStandIns } from '../server/stand-ins/exchanges'

/** Writes down what the stand-ins answer, for the tests of the driver and of the stand-ins; run when the protocol changes. */
const path = join(import.meta.dirname, '../stand-ins/exchanges/stand-ins.json')
writeFileSync(path, `${JSON.stringify(await exchangesOfStandIns(ASKED), null, 2)}\n`)
