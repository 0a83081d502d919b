import type { Case } from '../cases/shape/case'
import { accountOf } from '../cases/shape/money'
import { undamagedOf } from '../cases/shape/run'
import { STATE_WORDS } from '../cases/telling/words'
import type { AnswerContext } from '../cases/telling/answering'
import { caseCells } from './case-list'

type Cell = string | number

/** One case as a line of the list of cases. */
export function caseLine(ofCase: Case, context: AnswerContext): Cell[] {
  const back = ofCase.runs.flatMap(({ results }) => results).reduce((sum, result) => sum + result.back, 0)
  return [
    ofCase.code,
    ...caseCells(ofCase, context),
    STATE_WORDS[ofCase.state.name],
    ofCase.with ?? '',
    back,
    accountOf(ofCase.money).open,
  ]
}

export const RUN_LIST_HEADERS = [
  'code',
  'run',
  'kind of route',
  'title',
  'by',
  'started',
  'ended',
  'hands-on minutes',
  'waiting minutes',
  'money',
  'predicted chance',
  'predicted share',
  'wanted set',
  'kind of data',
  'back',
  'whole',
  'unverified',
  'failed',
  'cause',
  'failed on',
]

/** The runs of a case, a line for each wanted set of each run; a run without results has one line. */
export function runLines({ code, runs, wanted }: Case): Cell[][] {
  return runs.flatMap((run) => {
    const head = [
      code,
      run.id,
      run.kind,
      run.title,
      run.by,
      run.started,
      run.ended ?? '',
      run.handsOnMinutes,
      run.waitingMinutes,
      run.money,
      run.predicted?.chance ?? '',
      run.predicted?.share ?? '',
    ]
    const end = [run.hasFailed || run.failedOn !== null ? 'yes' : 'no', run.cause ?? '', run.failedOn ?? '']
    const results = run.results.map((result) => [
      result.wanted,
      wanted.find(({ id }) => id === result.wanted)?.type ?? '',
      result.back,
      undamagedOf(result) - result.unverified,
      result.unverified,
    ])
    return (results.length > 0 ? results : [['', '', 0, 0, 0]]).map((result) => [...head, ...result, ...end])
  })
}
