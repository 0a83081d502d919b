import type { Phone } from '../things'

/** Resets a phone to its first set-up screen; only the card keeps the owner's data. */
export function eraseAll(phone: Phone) {
  for (const keep of phone.keeps) if (keep.kind !== 'sim') keep.items = []
  phone.stage = 'first-set-up'
  phone.passcode = null
  phone.isUnlocked = false
  phone.via = null
  phone.trusts = []
  phone.triesLeft = null
  phone.appsRead = false
  phone.sync = { ...phone.sync, isOn: false, deletions: [] }
  phone.revision++
}
