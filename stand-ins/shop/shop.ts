import type { KnownModel } from '../../core/playbook/models'
import { defaultPlaybook, type Playbook } from '../../core/playbook/playbook'

/** What the shop has learned about the makers of clients' devices; all of them are invented. */
const models: KnownModel[] = [
  { make: 'Korvane', kind: 'phone', platform: 'open-phone', storage: 'phone-flash', encryption: 'per-file' },
  { make: 'Korvane 3', kind: 'phone', platform: 'open-phone', storage: 'phone-flash', encryption: 'none' },
  { make: 'Ostrel', kind: 'phone', platform: 'closed-phone', storage: 'phone-flash', encryption: 'per-file' },
  { make: 'Pelloon Slate', kind: 'tablet', platform: 'closed-phone', storage: 'phone-flash', encryption: 'per-file' },
  {
    make: 'Pelloon Leaf',
    kind: 'laptop',
    platform: 'maker-desktop',
    storage: 'solid-state',
    encryption: 'whole-device',
  },
  { make: 'Harrowby Book', kind: 'laptop', platform: 'desktop-pc', storage: 'solid-state' },
  { make: 'Mirrit tower', kind: 'desktop', platform: 'desktop-pc', storage: 'spinning-disk', encryption: 'none' },
  { make: 'Mirrit Vault', kind: 'external-disk', platform: 'removable', storage: 'spinning-disk', encryption: 'none' },
  { make: 'Tessel', kind: 'camera', platform: 'camera', storage: 'card', encryption: 'none' },
  { make: 'Dunnock', kind: 'recorder', platform: 'recorder', storage: 'card', encryption: 'none' },
  { make: 'Wexley stick', kind: 'stick', platform: 'removable', storage: 'stick', encryption: 'none' },
]

/** A two-bench shop beside a canal, in a market town that does not exist. */
export function demoPlaybook(): Playbook {
  return defaultPlaybook({
    name: 'Sluice Lane Repairs',
    codePrefix: 'SL',
    zone: 'Europe/London',
    currency: 'GBP',
    prices: { looking: 25, taking: 60, 'repair-screen': 95 },
    papers: {
      address: '3 Sluice Lane\nLower Locks',
      phone: '01632 960 100',
      mail: 'desk@sluice-lane.example',
      taxName: 'VAT',
      taxPercent: 20,
    },
    models,
  })
}
