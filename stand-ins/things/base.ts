import { NO_FAULTS, type Account, type Computer, type Phone, type Thing } from '../helper/things'
import type { Making } from '../content/making'

/** Makes one stand-in, reproducibly, relative to a given day. */
export interface StandIn {
  readonly id: string
  /** the demo cases' parts that it simulates: title or client of the case, and id of the part */
  readonly standsFor?: readonly { readonly title: string; readonly part: string }[]
  readonly make: (making: Making) => Promise<Thing>
}

const common = (making: Making) => ({
  lived: making.time.now,
  revision: 1,
  backups: [],
  tasks: [],
  faults: { ...NO_FAULTS },
})

export function phone(
  making: Making,
  facts: Partial<Phone> & Pick<Phone, 'id' | 'title' | 'platform' | 'keeps'>,
): Phone {
  return {
    kind: 'phone',
    ...common(making),
    encryption: 'per-file',
    passcode: '246810',
    triesLeft: 10,
    screen: 'works',
    isUnlocked: false,
    trusts: [],
    via: null,
    debugging: facts.platform === 'open-phone' ? false : null,
    isAsleep: false,
    stage: 'in-use',
    power: { fraction: 0.62, isCharging: false },
    isOnline: false,
    room: { capacity: 64_000_000_000, other: 43_000_000_000 },
    sync: { account: null, isOn: false, types: [], deletions: [] },
    nightly: { account: null, isOn: false, hour: 2, minute: 30, slots: 2, keepsBins: false },
    appsRead: false,
    ...facts,
  }
}

export function account(
  making: Making,
  facts: Partial<Account> & Pick<Account, 'id' | 'title' | 'name' | 'owner' | 'password' | 'keeps'>,
): Account {
  return {
    kind: 'account',
    ...common(making),
    triesLeft: 5,
    lockedUntil: 0,
    secondFactor: null,
    stage: 'out',
    sessionEnds: 0,
    sessionMinutes: 60,
    bytesPerSecond: 4_000_000,
    slots: 2,
    exports: { hours: 26, linkDays: 4 },
    ...facts,
  }
}

export function computer(
  making: Making,
  facts: Partial<Computer> & Pick<Computer, 'id' | 'title' | 'platform' | 'keeps'>,
): Computer {
  return {
    kind: 'computer',
    ...common(making),
    password: null,
    isSignedIn: false,
    isAsleep: false,
    room: { capacity: 512_000_000_000, other: 300_000_000_000 },
    ...facts,
  }
}
