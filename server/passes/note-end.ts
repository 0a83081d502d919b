import { eq } from 'drizzle-orm'
import { PassOptions, PassProgress } from '../../core/bench/medium'
import { cases } from '../db/tables'
import { noteAtBench } from '../links/notes'
import type { PassRow } from './pass-rows'

/** Notes the result of a scan in the history of its case, with the checksum. */
export function noteEnd(pass: PassRow): void {
  if (pass.state !== 'done' && pass.state !== 'enough') return
  const { database, clock } = useLantern()
  const { code } = database.select({ code: cases.code }).from(cases).where(eq(cases.id, pass.caseId)).get()!
  const progress = pass.progress === null ? null : PassProgress.parse(JSON.parse(pass.progress))
  const { pass: kind } = PassOptions.parse(JSON.parse(pass.options))
  const words = [
    `the ${kind === 'quick' ? 'quick pass' : 'deep scan'} ${pass.state === 'done' ? 'ended' : 'was ended early'}`,
    progress && `${progress.found} found, ${progress.wanted} of them wanted`,
    progress && progress.unreadableBytes > 0 && `${progress.unreadableBytes} bytes could not be read`,
    pass.sha256 && pass.state === 'done' && `SHA-256 of the medium ${pass.sha256}`,
  ].filter((one) => typeof one === 'string')
  noteAtBench(code, pass.link, words.join('; '), { by: pass.by, now: clock.now() })
}
