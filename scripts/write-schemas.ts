import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { backupJsonSchema } from '../core/archives/manifest'
import { caseJsonSchema } from '../core/cases/facts/exchange'
import { errorJsonSchema } from '../core/errors'
import { linkProtocolJsonSchema } from '../core/bench/protocol'
import { playbookJsonSchema } from '../core/playbook/playbook'
import { scanReportJsonSchema } from '../core/scanning/scan-report'
import { rowsReportJsonSchema } from '../core/sqlite/rows-report'
import { runsJsonSchema } from '../core/ranking/situation/evidence'
import { planJsonSchema } from '../core/ranking/situation/plan-shape'

/** The formats as JSON Schema, written from the schemas that the app itself reads with. */
const folder = join(import.meta.dirname, '../docs/schemas')
const schemas = {
  case: caseJsonSchema(),
  playbook: playbookJsonSchema(),
  plan: planJsonSchema(),
  error: errorJsonSchema(),
  runs: runsJsonSchema(),
  rows: rowsReportJsonSchema(),
  scan: scanReportJsonSchema(),
  link: linkProtocolJsonSchema(),
  backup: backupJsonSchema(),
}
mkdirSync(folder, { recursive: true })
for (const [name, schema] of Object.entries(schemas))
  writeFileSync(join(folder, `${name}.schema.json`), `${JSON.stringify(schema, null, 2)}\n`)
