import type { FAMILIES } from './kinds/route-kind'

/** Families of routes in words, in the order from looking to the laboratory. */
export const FAMILY_WORDS: Record<(typeof FAMILIES)[number], string> = {
  look: 'Looking',
  'device-bin': 'Bins of the device',
  'computer-bin': 'Bin of the computer',
  'cloud-bin': 'Bins in the cloud',
  'cloud-library': 'What the cloud or another device still has',
  'point-in-time': 'Turning back to an earlier day',
  versions: 'Earlier versions and snapshots',
  autosave: 'What a program saved by itself',
  'cloud-backup-full': 'Restoring the device from the cloud',
  'computer-backup-full': 'Restoring the device from a computer',
  'backup-selective': 'Taking items out of a backup',
  'data-export': 'Data exports',
  'ask-sender': 'Asking people',
  'scan-medium': 'Scans',
  'phone-rows': 'Rows in databases',
  lab: 'Laboratory',
}
