import { DEMO_PEOPLE } from '../../stand-ins/shop/people'

/** The sign-in names of the demo's shop: its owner, two technicians, and counter staff. */
export type Name = 'ottilie' | 'bram' | 'suda' | 'jory'

export const passwordOf = (name: Name): string => DEMO_PEOPLE.find(({ signIn }) => signIn === name)!.password
