import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { readWorkedCase, type WorkedCase } from '../ranking/explain/worked-case'

export { contradictions, type WorkedCase } from '../ranking/explain/worked-case'

const FOLDER = join(import.meta.dirname, '..', 'ranking', 'worked')

/** Every worked case, read from its file. */
export function workedCases(): WorkedCase[] {
  return readdirSync(FOLDER)
    .filter((file) => file.endsWith('.json'))
    .map((file) =>
      readWorkedCase(file.replace('.json', ''), JSON.parse(readFileSync(join(FOLDER, file), 'utf8')) as unknown),
    )
}
