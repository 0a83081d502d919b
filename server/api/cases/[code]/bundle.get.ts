import { readStored } from '../../../cases/rows'
import { noteExport } from '../../../exchange/note-export'
import { sendArchive } from '../../../http/send-archive'
import { addBundle, ZipSending } from '../../../exchange/write-bundle'

/** The whole case with its history, sheets and attachments as one archive, to keep or to import elsewhere. */
export default defineRoute({ answers: null, may: 'close' }, async ({ event, param, playbook, writer, now }) => {
  const stored = readStored(useLantern().database, param('code'))
  const { code } = stored.case
  const zip = new ZipSending(now)
  await addBundle(zip, stored, code, playbook.shop.name, now)
  noteExport(code, 'took the whole case out as a bundle', writer)
  return sendArchive(event, zip.end(), `${code}.bundle.zip`)
})
