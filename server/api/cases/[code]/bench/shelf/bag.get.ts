import { noteHappening, readStored } from '../../../../../cases/rows'
import { requireConsent } from '../../../../../cases/consent'
import { packBag } from '../../../../../shelf/bag'
import { sendArchive } from '../../../../../http/send-archive'

/** The whole shelf as one download: a bag with checksums, which any program that knows BagIt, or none, can check. */
export default defineRoute({ answers: null, may: 'work' }, async ({ event, param, playbook, writer, now }) => {
  const { database } = useLantern()
  const stored = readStored(database, param('code'))
  requireConsent(stored)
  const { stream, size, count } = await packBag(stored, playbook.shop.name, now)
  const { code } = stored.case
  noteHappening(
    database,
    code,
    { kind: 'bench', fact: 'shelf', was: null, is: { says: `took out the shelf as a bag: ${count} files` } },
    writer,
  )
  return sendArchive(event, stream, `${code}.zip`, size)
})
