import type { Thing } from './things'

/** A full count of tries; one with fewer has been guessed at, so nobody knows its passcode. */
const ALL_TRIES = 10

/** Passcodes and passwords that the owner would give; empty where nobody knows them. */
export function toldBy(thing: Thing): string[] {
  const backups = thing.backups.flatMap((one) => (one.password ? [`Its backup opens with “${one.password}”.`] : []))
  if (thing.kind === 'account')
    return [
      `The password is “${thing.password}”.`,
      ...(thing.secondFactor ? [`The code that comes is ${thing.secondFactor}.`] : []),
      ...backups,
    ]
  if (thing.kind === 'computer')
    return [...(thing.password ? [`The password is “${thing.password}”.`] : []), ...backups]
  if (thing.passcode === null) return ['It has no passcode.', ...backups]
  const isGuessed = thing.triesLeft !== null && thing.triesLeft < ALL_TRIES
  return [isGuessed ? 'Nobody knows the passcode.' : `The passcode is ${thing.passcode}.`, ...backups]
}
