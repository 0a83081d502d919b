/** What has to be recorded before anything of a client's is opened. */
export const AGREED = { 'authority.basis': 'own', 'consent.lookThrough.answer': 'given' }

/** A phone whose photos were deleted last week, with a library that had synced part of them. */
export const LOST_PHOTOS = {
  'client.name': 'Maud Oxley',
  'client.phone': '07700 900 246',
  'devices.d1': {
    kind: 'phone',
    platform: 'closed-phone',
    make: 'Korvane 7',
    lock: 'unlocked',
    condition: 'working',
    storage: { encryption: 'per-file' },
  },
  'wanted.w1': { type: 'photos', count: 300, made: { from: '2026-10-20T00:00:00Z', to: '2026-11-10T23:59:00Z' } },
  'loss.how': 'deleted-in-bulk',
  'loss.when': { from: '2026-11-17T00:00:00Z', to: '2026-11-18T23:59:00Z' },
  'copies.c1': {
    kind: 'cloud-library',
    account: 'known',
    sync: 'on',
    syncedUntil: { from: '2026-11-05T00:00:00Z', to: '2026-11-05T23:59:00Z' },
  },
}
