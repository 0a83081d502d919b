import type { NewPerson } from '../../core/people/person'

/** The made-up people of the demo's shop. Their passwords are shown on its sign-in page. */
export const DEMO_PEOPLE: readonly NewPerson[] = [
  { name: 'Ottilie Marsh', signIn: 'ottilie', password: 'copper-kettle-9', role: 'owner' },
  { name: 'Bram Hollis', signIn: 'bram', password: 'towpath-heron-4', role: 'technician' },
  { name: 'Suda Wray', signIn: 'suda', password: 'lock-gate-paddle', role: 'technician' },
  { name: 'Jory Penn', signIn: 'jory', password: 'market-day-tea', role: 'counter' },
]
