import { addClient } from '../../../exchange/client'
import { noteExport } from '../../../exchange/note-export'
import { sendArchive } from '../../../http/send-archive'
import { ZipSending } from '../../../exchange/write-bundle'

/** All that is held about one client, over all their cases, as one file for them. */
export default defineRoute(
  { answers: null, may: 'people' },
  async ({ event, param, person, playbook, writer, now }) => {
    const zip = new ZipSending(now)
    const codes = await addClient(zip, param('client'), person.role, playbook, now)
    for (const code of codes) noteExport(code, 'took out all that is held about the client', writer)
    return sendArchive(event, zip.end(), `all-about-one-client-${new Date(now).toISOString().slice(0, 10)}.zip`)
  },
)
