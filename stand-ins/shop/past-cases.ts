import { CASE_FORMAT, Case } from '../../core/cases/shape/case'
import type { DeviceKind } from '../../core/cases/shape/device'
import { DAY_MS, HOUR_MS, isoOf } from '../../core/cases/shape/moment'
import type { EndedRun } from '../../core/ledger/ended-run'
import { pick, type chances } from '../content/chance'

const GIVEN = 'Averil Benno Cressida Dorrit Emrys Florian Gudrun Hesper Ivo Jessamy Kerensa Ludo'.split(' ')
const FAMILY = 'Brackenridge Coldwell Dunnet Eastaway Farrow Gorringe Hebden Inskip Jerrold Kettleby'.split(' ')
const DEVICES: Partial<Record<EndedRun['platform'], DeviceKind>> = {
  'closed-phone': 'phone',
  'open-phone': 'phone',
  'desktop-pc': 'laptop',
  'maker-desktop': 'laptop',
  'unix-desktop': 'server',
  camera: 'camera',
  recorder: 'recorder',
  removable: 'card',
}
/** So many items were wanted in each of these cases: of them the run brought its part. */
const WANTED = 120

/** A closed case of the past whose one run is this one. `number` counts them; cases older than a month had their data wiped. */
export function pastCase(run: EndedRun, number: number, now: number, random: ReturnType<typeof chances>): Case {
  const logged = run.ended - Math.round((2 + random() * 60) * HOUR_MS)
  const isWiped = now - run.ended > 30 * DAY_MS
  const platform = run.platform
  return Case.parse({
    format: CASE_FORMAT,
    version: 2,
    code: `SR-${String(number).padStart(4, '0')}`,
    state: { name: 'closed', since: isoOf(run.ended + HOUR_MS) },
    logged: isoOf(logged),
    client: { name: `${pick(GIVEN, random)} ${pick(FAMILY, random)}` },
    devices: [{ id: 'd1', kind: DEVICES[platform] ?? 'unknown', platform }],
    wanted: [{ id: 'w1', type: run.type, count: WANTED }],
    loss: { how: run.loss },
    limits: random() < 0.25 ? { deadline: exactly(logged + DAY_MS * (1 + random() * 3)) } : {},
    holds:
      random() < 0.3
        ? [{ hold: 'stop-using', mark: 'ticked', by: run.by, at: isoOf(logged) }]
        : random() < 0.1
          ? [{ hold: 'stop-using', mark: 'waived', reason: 'needs it for work', by: run.by, at: isoOf(logged) }]
          : [],
    runs: [
      {
        id: run.run,
        option: `${run.kind}:d1`,
        kind: run.kind,
        title: isWiped ? 'wiped' : run.kind.replaceAll('-', ' '),
        by: run.by,
        started: isoOf(run.ended - HOUR_MS),
        ended: isoOf(run.ended),
        handsOnMinutes: run.handsOn,
        waitingMinutes: run.waiting,
        money: run.spent,
        failedOn: run.outcome?.failedOn ?? null,
        hasFailed: run.outcome?.came === 0,
        cause: run.cause,
        results: run.back > 0 ? [{ wanted: 'w1', back: run.back, whole: run.whole, unverified: run.unverified }] : [],
        predicted: {
          chance: run.chance,
          share: 1,
          reach: { w1: [1] },
          gates: run.outcome?.open ?? [],
          place: run.place,
        },
      },
    ],
    wiping: isWiped ? { data: { at: isoOf(run.ended + 30 * DAY_MS), by: null, why: 'date' } } : {},
  })
}

const exactly = (at: number) => ({ from: isoOf(at), to: isoOf(at) })
