import { z } from 'zod'

/** How tablets reach this server by TLS, and by what its authority is known. */
export const CertificateAnswer = z.object({
  /** https addresses; none where only the shop's machine is let in */
  addresses: z.array(z.string()),
  /** whether the shop's own authority is there to be downloaded */
  hasAuthority: z.boolean(),
  /** SHA-256; only said to the shop's machine itself: whoever comes over the network compares with what that shows */
  fingerprint: z.string().nullable(),
})
export type CertificateAnswer = z.infer<typeof CertificateAnswer>
