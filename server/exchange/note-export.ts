import { noteHappening, type Writer } from '../cases/rows'

/** That something of a case left the shop is in its history. */
export const noteExport = (code: string, says: string, writer: Writer): void =>
  noteHappening(useLantern().database, code, { kind: 'hand-over', fact: 'export', was: null, is: { says } }, writer)
