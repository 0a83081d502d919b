/**
 * What is known of a file's content. `intact`: checksums, decoded data or lengths prove every part. `unverified`:
 * nothing contradicts it, but some of its bytes have no check. `partial`: it is truncated or contradicts itself.
 * `overwritten`: none of its bytes are left.
 */
export const WHOLENESS = ['intact', 'unverified', 'partial', 'overwritten'] as const
export type Wholeness = (typeof WHOLENESS)[number]
