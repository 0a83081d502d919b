// Plans the worked cases and the shop's open cases with the playbook as it is and as it would be, in a process of its own.
import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { ne } from 'drizzle-orm'
import { Case } from '../../core/cases/shape/case'
import { speak } from '../../core/local/language'
import { titleOf } from '../../core/cases/telling/title'
import { withDraft, type Draft, type Effect, type TrialAnswer } from '../../core/playbook/draft'
import type { Playbook } from '../../core/playbook/playbook'
import { isUnchanged, planChanges, type PlanChanges } from '../../core/ranking/explain/changes'
import { fullPlanOf } from '../../core/ranking/explain/plan'
import { contradictions, readWorkedCase } from '../../core/ranking/explain/worked-case'
import { readEvidence } from '../cases/evidence'
import { connect } from '../db/open'
import { cases } from '../db/tables'
import { logFault } from '../log-fault'
import { readPlaybook } from '../settings'

export interface TrialOrder {
  readonly dataFolder: string
  readonly draft: Draft
  /** ms */
  readonly now: number
}

process.on('message', async (order: TrialOrder) => {
  let answer: TrialAnswer | null = null
  try {
    answer = await tried(order)
  } catch (error) {
    logFault(error)
  }
  process.send?.(answer, undefined, undefined, () => process.exit(0))
})
process.on('disconnect', () => process.exit(1))
process.on('SIGINT', () => {})

async function tried({ dataFolder, draft, now }: TrialOrder): Promise<TrialAnswer> {
  const database = connect(dataFolder)
  try {
    const before = readPlaybook(database)
    await speak(before.shop.language)
    const after = withDraft(before, draft)
    const rows = database.select({ body: cases.body }).from(cases).where(ne(cases.state, 'closed')).all()
    const evidence = readEvidence(database)
    const open = rows.flatMap(({ body }): Effect[] => {
      const ofCase = Case.parse(JSON.parse(body))
      const plan = (playbook: Playbook) => fullPlanOf(ofCase, playbook, now, { evidence, depth: 'order' }).plan
      const changes = planChanges(plan(before), plan(after))
      return isUnchanged(changes) ? [] : [{ ...effectOf(changes), name: ofCase.code, about: titleOf(ofCase) }]
    })
    return { open, openCount: rows.length, ...triedOnWorked(before, after) }
  } finally {
    database.$client.close()
  }
}

/** Worked cases whose plan no longer comes out as it should; those that already did not are not the draft's doing. */
function triedOnWorked(before: Playbook, after: Playbook): Pick<TrialAnswer, 'worked' | 'workedCount'> {
  const folder = [join(import.meta.dirname, '..', 'worked'), 'core/ranking/worked'].find((path) => existsSync(path))
  if (!folder) return { worked: [], workedCount: 0 }
  const files = readdirSync(folder).filter((file) => file.endsWith('.json'))
  const worked = files.flatMap((file): Effect[] => {
    const one = readWorkedCase(file.replace('.json', ''), JSON.parse(readFileSync(join(folder, file), 'utf8')))
    const plan = (playbook: Playbook) => fullPlanOf(one.ofCase, playbook, one.now, { depth: 'whole' }).plan
    const is = plan(after)
    const says = contradictions(one, is)
    if (says.length === 0) return []
    const was = plan(before)
    const already = contradictions(one, was)
    const own = [...new Set(says)].filter((sentence) => !already.includes(sentence))
    if (own.length === 0) return []
    return [{ ...effectOf(planChanges(was, is)), name: one.name, about: one.because, says: own }]
  })
  return { worked, workedCount: files.length }
}

const effectOf = ({ next, expected, closed, opened, dropped }: PlanChanges): Omit<Effect, 'name' | 'about'> => ({
  next,
  expected,
  says: [
    ...opened.map(({ title }) => `${title}: in the plan now`),
    ...closed.map(({ title, says }) => `${title}: closed. ${says}`),
    ...dropped.map(({ title }) => `${title}: no longer in the plan`),
  ],
})
