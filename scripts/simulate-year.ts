import { existsSync, mkdirSync, readdirSync } from 'node:fs'
import { resolve } from 'node:path'
import { openDatabase } from '../server/db/open'
import { fillPastYear } from '../server/stand-ins/past-year'

/** Fills an empty data folder with a simulated year of runs: npm run simulate-year -- FOLDER [RUNS] [SEED]. */
const [folder, runs = '5000', seed = '1'] = process.argv.slice(2)
if (!folder || !/^\d+$/.test(runs) || !/^\d+$/.test(seed)) {
  process.stderr.write('Name an empty folder: npm run simulate-year -- FOLDER [RUNS] [SEED]\n')
  process.exit(2)
}
if (existsSync(folder) && readdirSync(folder).length > 0) {
  process.stderr.write(`${folder} is not empty. Simulated runs belong in no shop’s own folder.\n`)
  process.exit(2)
}
mkdirSync(folder, { recursive: true })
const database = openDatabase(resolve(folder), resolve('server/db/migrations'))
fillPastYear(database, { seed: Number(seed), runs: Number(runs), now: Date.now() })
database.$client.close()
process.stdout.write(`${runs} runs of a simulated year. Start the shop on it: LANTERN_DATA=${folder} npm start\n`)
