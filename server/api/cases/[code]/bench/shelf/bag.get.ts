import { noteHappening, readStored } from '../../../../../cases/rows'
import { requireConsent } from '../../../../../cases/consent'
import { packBag } from '../../../../../shelf/bag'
import { logFault } from '../../../../../log-fault'

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
  setResponseHeaders(event, {
    'content-type': 'application/zip',
    'content-disposition': `attachment; filename="${code}.zip"`,
    'content-length': size,
    'x-content-type-options': 'nosniff',
  })
  // What was sent already cannot be taken back: the connection is cut, so that the download fails.
  const failed = (error: Error) => {
    logFault(error)
    event.node.res.destroy()
  }
  return sendStream(event, stream.once('error', failed))
})
