import type { z } from 'zod'
import { readFileSync, statSync } from 'node:fs'
import { basename } from 'node:path'
import { CASE_FILE_MAX_BYTES, readCase } from '../core/cases/facts/exchange'
import { faultsOf, type Fault } from '../core/cases/shape/faults'
import { instant } from '../core/cases/shape/moment'
import { defaultPlaybook, Playbook } from '../core/playbook/playbook'
import { evidenceOf, RunsFile } from '../core/ranking/situation/evidence'
import { planOf } from '../core/ranking/explain/plan'
import type { Plan } from '../core/ranking/situation/plan-shape'

export type PlanOutcome = { readonly plan: Plan } | { readonly faults: readonly string[] }

/** The plan of a case file, or one clear line per fault, each with its path. */
export function planCommand(
  file: string,
  options: { readonly playbook?: string; readonly runs?: string; readonly now?: string },
  systemNow: number,
): PlanOutcome {
  const moment = options.now === undefined ? null : instant.safeParse(options.now)
  if (moment && !moment.success) return { faults: [`--now: ${moment.error.issues[0]?.message ?? 'cannot be read'}`] }
  const text = textOf(file)
  if ('faults' in text) return text
  const read = readCase(text.text)
  if (!read.ok) return { faults: read.faults.map((fault) => line(file, fault)) }
  const playbook = options.playbook === undefined ? { value: defaultPlaybook() } : readJson(options.playbook, Playbook)
  if ('faults' in playbook) return playbook
  const runs = options.runs === undefined ? { value: null } : readJson(options.runs, RunsFile)
  if ('faults' in runs) return runs
  const now = moment?.success ? Date.parse(moment.data) : systemNow
  return { plan: planOf(read.read, playbook.value, now, { evidence: evidenceOf(runs.value?.runs ?? []) }) }
}

const line = (file: string, fault: Fault) =>
  `${basename(file)}: ${fault.path === '' ? '' : `${fault.path}: `}${fault.message}`

function textOf(file: string): { readonly text: string } | { readonly faults: string[] } {
  try {
    if (statSync(file).size > CASE_FILE_MAX_BYTES)
      return { faults: [`${basename(file)}: is larger than ${CASE_FILE_MAX_BYTES} bytes`] }
    return { text: readFileSync(file, 'utf8') }
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code
    return {
      faults: [
        `${basename(file)}: ${code === 'ENOENT' ? 'is not there' : code === 'EISDIR' ? 'is a folder' : 'cannot be read'}`,
      ],
    }
  }
}

function readJson<T>(file: string, schema: z.ZodType<T>): { readonly value: T } | { readonly faults: string[] } {
  const text = textOf(file)
  if ('faults' in text) return text
  let json: unknown
  try {
    json = JSON.parse(text.text)
  } catch (error) {
    return { faults: [`${basename(file)}: is not JSON: ${(error as Error).message}`] }
  }
  const read = schema.safeParse(json)
  return read.success ? { value: read.data } : { faults: faultsOf(read.error).map((fault) => line(file, fault)) }
}
