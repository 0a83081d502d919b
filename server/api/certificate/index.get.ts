import { CertificateAnswer } from '../../../core/people/certificate'
import { shownCertificate } from '../../http/open-doors'
import { isEncrypted } from '../../people/session-cookie'

/** How this server is reached by TLS. The front door lets nobody in without TLS but the shop's machine itself. */
export default defineOpenRoute({ answers: CertificateAnswer }, ({ event }): CertificateAnswer => {
  const shown = shownCertificate()
  return {
    addresses: [...(shown?.addresses ?? [])],
    hasAuthority: shown?.authority != null,
    fingerprint: isEncrypted(event) ? null : (shown?.fingerprint ?? null),
  }
})
