import { z } from 'zod'

/** How tablets reach this server by TLS, and how they recognise its authority. */
export const CertificateAnswer = z.object({
  /** https addresses; none where only the shop's machine is let in */
  addresses: z.array(z.string()),
  /** whether the shop's own authority is there to be downloaded */
  hasAuthority: z.boolean(),
  /** SHA-256; only told to the shop's machine itself: people at other machines compare with what that one shows */
  fingerprint: z.string().nullable(),
})
export type CertificateAnswer = z.infer<typeof CertificateAnswer>
