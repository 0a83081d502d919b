import { notFound } from '../../failure'
import { shownCertificate } from '../../http/open-doors'

/** The shop's own authority, for tablets to trust. It is no secret; its key stays here. */
export default defineOpenRoute({ answers: null }, ({ event }) => {
  const authority = shownCertificate()?.authority
  if (!authority) throw notFound('authority of this shop’s own')
  setResponseHeaders(event, {
    'content-type': 'application/x-x509-ca-cert',
    'content-disposition': 'attachment; filename="russet-lantern-authority.crt"',
  })
  return Buffer.from(authority)
})
