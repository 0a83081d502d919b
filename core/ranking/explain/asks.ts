import type { Case } from '../../cases/shape/case'
import { known } from '../../cases/shape/fact'
import { copyWords, deviceWords } from '../../cases/telling/words'

/** A question in words for the client, about the fact at a path. */
export function asksOf(fact: string, ofCase: Case): string {
  const [list, id, ...rest] = fact.split('.')
  const about = rest.join('.')
  if (list === 'devices') {
    const device = ofCase.devices.find((one) => one.id === id)
    return ABOUT_DEVICE[about]?.(device ? deviceWords(device) : 'the device') ?? UNUSUAL
  }
  if (list === 'copies' && id !== undefined) {
    const copy = ofCase.copies.find((one) => one.id === id)
    return ABOUT_COPY[about]?.(copy ? copyWords(copy) : 'the copy') ?? UNUSUAL
  }
  if (list === 'secrets') {
    const secret = ofCase.secrets.find((one) => one.id === id)
    const name = secret && known(secret.label) ? secret.label : 'what opens these copies'
    return secret?.kind === 'account'
      ? `Do you know the password of the account (${name})?`
      : `Do you remember the password (${name})?`
  }
  if (list === 'wanted') return 'Were they on the card, or on the device itself?'
  return ABOUT_CASE[fact] ?? UNUSUAL
}

const UNUSUAL = 'What can you tell about this?'

const ABOUT_CASE: Record<string, string> = {
  copies: 'Is there an account or a backup that may have them too?',
  'loss.how': 'What happened just before they were gone: was something deleted, moved, switched or saved?',
  'loss.when': 'When did you last see them, and when were they gone?',
  'loss.format': 'How long did the format take: seconds, or hours?',
  'loss.since.used': 'Has it been used since they were gone?',
  'consent.erase.answer': 'May we erase the device, if a safety copy has been made first?',
  'consent.laboratory.answer': 'May a laboratory have it, where somebody else sees the data?',
  'limits.seenBy': 'May anybody but us see the data?',
  'limits.money': 'How much may it cost at most?',
}

const ABOUT_DEVICE: Record<string, (device: string) => string> = {
  platform: (device) => `Of which family is ${device}?`,
  condition: (device) => `Does ${device} still switch on and answer?`,
  passcode: (device) => `Do you know the passcode of ${device}?`,
  spare: (device) => `Is there another one of the kind of ${device} onto which we may restore?`,
  cable: (device) => `Has ${device} been connected to a computer that it trusts, or is its debugging switch on?`,
  'bins.photos': (device) => `Was the gallery’s bin switched on, on ${device}?`,
  'bins.notes': (device) => `Did the notes on ${device} have a bin?`,
  'bins.files': (device) => `Do deleted files go to a bin on ${device}?`,
  'bins.messages': (device) => `Does ${device} keep deleted messages for a while?`,
  'bins.mail': (device) => `Does the mail on ${device} keep a folder of what was deleted?`,
  'storage.encryption': (device) => `Did you ever set up encryption on ${device}, or is it asked for at the start?`,
  'storage.discard': (device) => `Does ${device} wipe freed space by itself, as most solid-state disks do?`,
}

const ABOUT_COPY: Record<string, (copy: string) => string> = {
  count: (copy) => `About how many of them are with ${copy}?`,
  syncedUntil: (copy) => `When was ${copy} last in sync with the device?`,
  exists: (copy) => `Is there really such a copy: ${copy}? Can you show it?`,
  account: (copy) => `Do you know the account and the password of ${copy}?`,
  encrypted: (copy) => `Did you ever set a password for ${copy}?`,
  password: (copy) => `Do you remember the password you set for ${copy}?`,
  selective: (copy) => `Can single items be picked out of ${copy}?`,
  sync: (copy) => `Was the device synced with ${copy} when it happened?`,
  size: (copy) => `Does ${copy} keep the pictures in full size, or does it save room?`,
  ran: (copy) => `Was the machine on when the next run was due, after ${copy}?`,
  keepsBin: (copy) => `Does ${copy} take the bin along too?`,
  keeps: (copy) => `Is this kind of data part of ${copy} at all?`,
  taken: (copy) => `When was ${copy} made?`,
  'storage.encryption': (copy) => `Was ${copy} set up as part of the phone’s own storage?`,
  'storage.discard': (copy) => `Does ${copy} wipe freed space by itself?`,
}
