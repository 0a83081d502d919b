import fc from 'fast-check'
import type { Case } from '../cases/shape/case'
import { COPY_KINDS } from '../cases/shape/copy'
import { DATA_TYPES } from '../cases/shape/data-types'
import { CONDITIONS } from '../cases/shape/device'
import { LOSS_KINDS } from '../cases/shape/loss'
import { ago, ahead, caseWith } from './case-with'

const oneOf = fc.constantFrom
const yesNo = oneOf('yes', 'no', 'unknown')
const days = (min: number, max: number) => fc.option(fc.integer({ min, max }), { nil: null })

const BODIES = oneOf(
  { kind: 'phone', platform: 'closed-phone' },
  { kind: 'phone', platform: 'open-phone' },
  { kind: 'phone', platform: 'unknown' },
  { kind: 'tablet', platform: 'open-phone' },
  { kind: 'laptop', platform: 'desktop-pc' },
  { kind: 'laptop', platform: 'unknown' },
  { kind: 'desktop', platform: 'maker-desktop' },
  { kind: 'server', platform: 'unix-desktop' },
  { kind: 'camera', platform: 'camera' },
  { kind: 'card', platform: 'removable' },
  { kind: 'stick', platform: 'unknown' },
  { kind: 'external-disk', platform: 'unknown' },
  { kind: 'unknown', platform: 'unknown' },
)

const storage = fc.record({
  kind: oneOf('phone-flash', 'solid-state', 'spinning-disk', 'card', 'stick', 'unknown', 'unknown'),
  encryption: oneOf('none', 'whole-device', 'per-file', 'unknown', 'unknown'),
  discard: oneOf('at-once', 'by-timer', 'off', 'unknown', 'unknown'),
})

const bin = oneOf('on', 'off', 'emptied', 'unknown')

const device = fc
  .record({
    body: BODIES,
    storage,
    lock: oneOf('unlocked', 'locked', 'unknown'),
    passcode: oneOf('known', 'not-known', 'unknown'),
    condition: oneOf(...CONDITIONS, 'working', 'working', 'unknown'),
    wet: oneOf('wet', 'dried', 'no', 'unknown', 'unknown'),
    cable: oneOf('ready', 'refused', 'unknown'),
    spare: yesNo,
    bins: fc.record({ photos: bin, notes: bin, files: bin, messages: bin, mail: bin }),
  })
  .map(({ body, ...rest }) => ({ ...rest, ...body }))

const copy = fc
  .record({
    kind: oneOf(...COPY_KINDS),
    device: oneOf('d1', 'd2', 'unknown'),
    exists: oneOf('yes', 'yes', 'supposed', 'no', 'unknown'),
    account: oneOf('known', 'not-known', 'unknown'),
    sync: oneOf('on', 'thought-on', 'off', 'unknown'),
    size: oneOf('full', 'reduced', 'unknown'),
    encrypted: yesNo,
    password: oneOf('opened', 'thought-known', 'not-known', 'unknown'),
    selective: yesNo,
    keepsBin: yesNo,
    binEmptied: yesNo,
    ran: yesNo,
    taken: days(0, 90),
    replaced: days(-3, 20),
    count: days(0, 400),
    storage,
  })
  .map(({ taken, replaced, count, ...rest }) => ({
    ...rest,
    taken: taken === null ? 'unknown' : ago(taken),
    replaced: replaced === null ? 'unknown' : ahead(replaced, replaced + 0.1),
    count: count ?? 'unknown',
  }))

/** A case of one or two devices and up to six copies, of which anything may be known or not; nothing need fit together. */
export const randomCase: fc.Arbitrary<Case> = fc
  .record({
    devices: fc.array(device, { minLength: 1, maxLength: 2 }),
    copies: fc.array(copy, { maxLength: 6 }),
    wanted: fc.array(
      fc.record({
        type: oneOf(...DATA_TYPES, 'unknown'),
        count: oneOf(1, 3, 40, 900, 'unknown'),
        isDated: fc.boolean(),
      }),
      { minLength: 1, maxLength: 2 },
    ),
    how: oneOf(...LOSS_KINDS, 'deleted-in-bulk', 'deleted-singly', 'unknown'),
    format: oneOf('quick', 'full', 'unknown'),
    used: yesNo,
    lost: fc.tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 0, max: 30 })),
    money: oneOf(0, 90, 700, 'unknown'),
    laboratory: oneOf('given', 'refused', 'unknown', 'unknown'),
    seenBy: oneOf('anyone', 'us-only', 'in-house', 'unknown', 'unknown'),
    erase: oneOf('given', 'refused', 'unknown', 'unknown'),
  })
  .map((of) =>
    caseWith({
      ...numbered('devices.d', of.devices),
      ...numbered(
        'wanted.w',
        of.wanted.map(({ isDated, ...set }) => ({ ...set, made: isDated ? ago(150, 70) : 'unknown' })),
      ),
      ...numbered(
        'copies.c',
        of.copies.map((one) => ({
          ...one,
          device: of.devices.length === 2 ? one.device : one.device.replace('d2', 'd1'),
        })),
      ),
      'loss.how': of.how,
      'loss.when':
        of.how === 'not-lost-yet'
          ? ahead(of.lost[1], of.lost[0] + of.lost[1])
          : ago(of.lost[0] + of.lost[1], of.lost[1]),
      'loss.format': of.how === 'formatted' ? of.format : 'unknown',
      'loss.since.used': of.used,
      'limits.money': of.money,
      'limits.seenBy': of.seenBy,
      'consent.laboratory.answer': of.laboratory,
      'consent.erase.answer': of.erase,
    }),
  )

const numbered = (path: string, parts: readonly object[]) =>
  Object.fromEntries(parts.map((part, index) => [`${path}${index + 1}`, part]))
