import { CaseAnswer } from '../../../../core/cases/facts/writing'
import { z } from 'zod'
import { readCase } from '../../../../core/cases/facts/exchange'
import { invalid } from '../../../failure'
import { importCase } from '../../../cases/writing/log'
import { answered } from '../../../cases/answered'

/** The text of the file, unparsed, so that the reader of the command line reports its faults here too. */
const CaseFile = z.object({ text: z.string().max(2_100_000, 'is larger than a case file can be') })

export default defineRoute({ answers: CaseAnswer, may: 'log', body: CaseFile }, ({ body, playbook, writer }) => {
  const file = readCase(body.text)
  if (!file.ok) throw invalid(file.faults, 'The file')
  return answered(importCase(useLantern().database, file.read, playbook, writer))
})
