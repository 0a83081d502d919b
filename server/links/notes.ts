import { noteHappening, type Writer } from '../cases/rows'

/** Notes in a case's history what was done at the bench, as a sentence. */
export function noteAtBench(code: string, link: string, says: string, writer: Writer): void {
  noteHappening(useLantern().database, code, { kind: 'bench', fact: link, was: null, is: { says } }, writer)
}
