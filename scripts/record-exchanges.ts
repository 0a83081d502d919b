import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { ASKED, exchangesOfStandIns } from '../server/stand-ins/exchanges'

/** Records the answers of the stand-ins for the tests of driver and stand-ins; run it when the protocol changes. */
const path = join(import.meta.dirname, '../stand-ins/exchanges/stand-ins.json')
writeFileSync(path, `${JSON.stringify(await exchangesOfStandIns(ASKED), null, 2)}\n`)
