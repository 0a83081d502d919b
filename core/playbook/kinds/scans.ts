import type { RouteKindInput } from '../route-kind'
import { WORKING } from './gates'

const fileTypes = ['photos', 'videos', 'audio', 'documents', 'spreadsheets', 'files', 'mail'] as const
const bareMedia = ['card', 'stick', 'external-disk', 'camera', 'recorder'] as const
const readOnly = {
  ready: ['Write protection on, or a reader that does not write', 'Room on the shelf, on another medium'],
  stopIf: ['The medium clicks, gets hot or vanishes: stop, nothing more is tried here'],
}

/** Reading the medium itself, always read only, always saved elsewhere. */
export const scanKinds: readonly RouteKindInput[] = [
  {
    id: 'medium-quick-pass',
    family: 'scan-medium',
    title: 'Quick pass over {copy}',
    says: 'Reads the records of the file system: names, places and dates of what was deleted.',
    reads: { from: 'storage', devices: [...bareMedia], media: true },
    types: [...fileTypes],
    brings: { by: 'storage', broken: false },
    finds: { usual: 0.78, afterFormat: 0.12 },
    gates: [WORKING],
    window: { rule: 'reused' },
    time: { handsOn: 5, waiting: 3, waitingPerGigabyte: 0.05, occupies: false },
    money: { look: 0, take: 0 },
    prior: { chance: 0.92, weight: 16, note: 'Records outlive a deletion; after a format most are gone.' },
    nested: 'medium',
    holds: ['keep-medium-out', 'save-elsewhere'],
    sheet: {
      ...readOnly,
      steps: [
        'Connect it read only.',
        'Run the quick pass, filter by kind and day.',
        'Open some of what is called whole, then copy to the shelf.',
      ],
      lookFor: ['Names and days the client knows'],
    },
  },
  {
    id: 'medium-deep-scan',
    family: 'scan-medium',
    title: 'Deep scan of {copy}',
    says: 'Reads every sector and finds files by their structure, also where the records are gone.',
    reads: { from: 'storage', devices: [...bareMedia], media: true },
    types: [...fileTypes],
    brings: { by: 'storage', broken: false },
    finds: { usual: 0.93 },
    gates: [WORKING],
    window: { rule: 'reused' },
    time: { handsOn: 8, waiting: 10, waitingPerGigabyte: 0.5, occupies: false },
    money: { look: 0, take: 0 },
    prior: {
      chance: 0.9,
      weight: 16,
      note: 'Begins with a quick pass; long recordings in several pieces may stay broken.',
    },
    nested: 'medium',
    holds: ['keep-medium-out', 'save-elsewhere'],
    sheet: {
      ...readOnly,
      steps: [
        'Connect it read only.',
        'Choose the kinds that are wanted, start the scan.',
        'Stop when the wanted items are there, copy to the shelf.',
      ],
      lookFor: ['Large files that end too soon', 'Unreadable places'],
    },
  },
  {
    id: 'inner-storage-scan',
    family: 'scan-medium',
    title: 'Deep scan of the storage inside {device}',
    says: 'Takes the disk out, or starts the device from another medium, and reads every sector.',
    reads: { from: 'storage', devices: ['phone', 'tablet', 'laptop', 'desktop', 'server'], media: false },
    types: [...fileTypes],
    brings: { by: 'storage', broken: false },
    finds: { usual: 0.88 },
    gates: [WORKING],
    window: { rule: 'reused' },
    time: { handsOn: 25, waiting: 20, waitingPerGigabyte: 0.3, occupies: true },
    money: { look: 0, take: 0 },
    prior: { chance: 0.82, weight: 12, note: 'What discard and encryption leave; on a modern phone that is nothing.' },
    holds: ['stop-using', 'no-installs', 'save-elsewhere', 'power-off'],
    sheet: {
      ...readOnly,
      steps: [
        'Switch the device off and leave it off.',
        'Read the disk from another computer, read only.',
        'Scan, filter, copy to the shelf.',
      ],
      lookFor: ['Blocks of zeros: discard has been there'],
    },
  },
]
