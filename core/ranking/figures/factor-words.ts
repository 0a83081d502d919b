import type { FactorName } from './factor'

const WORDS: Record<FactorName, string> = {
  platform: 'family',
  working: 'condition',
  'disk-out': 'disk taken out',
  passcode: 'passcode',
  cable: 'cable',
  exists: 'there is one',
  where: 'where it lies',
  spare: 'spare',
  account: 'account',
  'backup-password': 'password',
  'bin-on': 'bin was on',
  'sync-was-on': 'sync was on',
  'sync-was-off': 'sync was off',
  'full-size': 'full size',
  'reduced-size': 'reduced size',
  'backup-kept': 'kept a backup',
  selective: 'in part',
  'consent-erase': 'consent',
  'consent-laboratory': 'consent',
  price: 'price',
  window: 'still open',
  works: 'it works',
  keeps: 'keeps the kind',
  coverage: 'covers the time',
  survival: 'what is left',
  finds: 'what it finds',
}

/** A factor's name as it is shown. */
export function factorWords(name: string): string {
  return Object.hasOwn(WORDS, name) ? WORDS[name as FactorName] : name.replaceAll('-', ' ')
}
