import type { Run } from '../../cases/shape/run'
import type { Playbook } from '../../playbook/playbook'
import type { GateName, RouteKind } from '../../playbook/kinds/route-kind'
import { preparationSheet } from '../order/preparations'

/** The sheet of a run: from the playbook, or the one of a step that comes before routes. Null for an unknown kind. */
export function sheetOf(
  { option, kind }: Pick<Run, 'option' | 'kind'>,
  playbook: Pick<Playbook, 'kinds'>,
): RouteKind['sheet'] | null {
  return preparationSheet(option, kind) ?? playbook.kinds.find((one) => one.id === kind)?.sheet ?? null
}

/** What has to be true before a route works, as lines to tick. */
export const GATE_WORDS: Record<GateName, string> = {
  platform: 'The device is of the right family',
  working: 'The device or medium works',
  'disk-out': 'The disk can be read outside of the device',
  passcode: 'The passcode is known',
  cable: 'It answers by cable',
  exists: 'There is such a copy',
  where: 'What it lies on can be read',
  spare: 'A spare of the same kind is at hand',
  account: 'The account can be signed in to',
  'backup-password': 'The password of the backup is known',
  'bin-on': 'The bin was switched on',
  'sync-was-on': 'Sync was on before the loss',
  'sync-was-off': 'Sync was off before the loss',
  'full-size': 'It keeps the originals',
  'reduced-size': 'It keeps reduced copies',
  'backup-kept': 'A backup was kept',
  selective: 'Single items can be taken',
  'consent-erase': 'The client agreed that it is erased',
  'consent-laboratory': 'The client agreed to the laboratory',
  price: 'The client agreed to the price',
}

/** What a line of a run's sheet says, for the history; null where the sheet has no such line. */
export function lineWords(line: string, sheet: RouteKind['sheet'] | null): string | null {
  const [part, which] = line.split(':') as [string, string]
  if (part === 'gate') return GATE_WORDS[which as GateName] ?? null
  return (part === 'ready' ? sheet?.ready : sheet?.steps)?.[Number(which)] ?? null
}
