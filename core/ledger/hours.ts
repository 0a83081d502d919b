import { opensNothing } from '../playbook/kinds/route-kind'
import type { EndedRun } from './ended-run'

/** Where time goes: what somebody does by hand, what a machine does meanwhile, and what others are waited for. */
export const HOUR_GROUPS = [
  'scans-machine',
  'scans-hands',
  'backups',
  'bins-cloud',
  'versions',
  'people',
  'laboratory',
  'other-hands',
  'waiting',
] as const
export type HourGroup = (typeof HOUR_GROUPS)[number]

export const HOUR_WORDS: Record<HourGroup, string> = {
  'scans-machine': 'scans, machine',
  'scans-hands': 'scans, hands',
  backups: 'backups',
  'bins-cloud': 'bins and cloud',
  versions: 'earlier versions',
  people: 'asking people',
  laboratory: 'laboratory, hands',
  'other-hands': 'repairs, safety copies, other',
  waiting: 'waiting for somebody',
}

const HANDS: Partial<Record<string, HourGroup>> = {
  'scan-medium': 'scans-hands',
  'phone-rows': 'scans-hands',
  'cloud-backup-full': 'backups',
  'computer-backup-full': 'backups',
  'backup-selective': 'backups',
  look: 'bins-cloud',
  'device-bin': 'bins-cloud',
  'computer-bin': 'bins-cloud',
  'cloud-bin': 'bins-cloud',
  'cloud-library': 'bins-cloud',
  'point-in-time': 'bins-cloud',
  'data-export': 'bins-cloud',
  versions: 'versions',
  autosave: 'versions',
  lab: 'laboratory',
}

/** Families whose wait is for a person or another firm, and not for a machine of the shop. */
const WAITS_FOR_OTHERS: readonly string[] = ['lab', 'data-export']

/** Where the minutes of one run go: those by hand, and those of waiting. */
function partsOf(run: Pick<EndedRun, 'handsOn' | 'waiting'>, family: string): [HourGroup, number][] {
  const hands = opensNothing(family) ? 'people' : (HANDS[family] ?? 'other-hands')
  const isOthers = opensNothing(family) || WAITS_FOR_OTHERS.includes(family)
  return [
    [hands, run.handsOn],
    [isOthers ? 'waiting' : hands === 'scans-hands' ? 'scans-machine' : hands, run.waiting],
  ]
}

/** Whether some of a run's minutes are in a group. */
export const isInHours = (run: Pick<EndedRun, 'handsOn' | 'waiting'>, family: string, group: HourGroup): boolean =>
  partsOf(run, family).some(([own, minutes]) => own === group && minutes > 0)

/** Minutes by group, in the order of the groups; groups without any are left out. */
export function hoursOf(runs: readonly EndedRun[], familyOf: (kind: string) => string): [HourGroup, number][] {
  const minutes = new Map<HourGroup, number>()
  const add = (group: HourGroup, more: number) => minutes.set(group, (minutes.get(group) ?? 0) + more)
  for (const run of runs) for (const [group, more] of partsOf(run, familyOf(run.kind))) add(group, more)
  return HOUR_GROUPS.flatMap((group) => {
    const sum = minutes.get(group) ?? 0
    return sum > 0 ? [[group, sum]] : []
  })
}
