import type { NewPerson } from '../../core/people/person'

/** The made-up people of the demo's shop. Their passwords are shown on its sign-in page, so hashing them each time protects nobody. */
export const DEMO_PEOPLE: readonly (NewPerson & { passwordHash: string })[] = [
  {
    name: 'Ottilie Marsh',
    signIn: 'ottilie',
    password: 'copper-kettle-9',
    role: 'owner',
    passwordHash:
      '$scrypt$n=131072,r=8,p=1$PPX6rNVOhEmVYbizLo8SMQ$1+OnsgFGvFnh4R7px0v3KmHdppj0aXhWXYBsvK1bZd1+cp1mnKFHOdw208rxtxcTb6L1Uq34l8+rsENCCuFzkA',
  },
  {
    name: 'Bram Hollis',
    signIn: 'bram',
    password: 'towpath-heron-4',
    role: 'technician',
    passwordHash:
      '$scrypt$n=131072,r=8,p=1$kJCPh7C6Nn0760c3c+yK6w$eMcpmtMnFLlJ+T+p/rM82/oVTyuDkvwsggD5k6knpviAYDvNP8pghRiEwPZyRnHFzV+uTPqaXdbbJ7gaFrBShA',
  },
  {
    name: 'Suda Wray',
    signIn: 'suda',
    password: 'lock-gate-paddle',
    role: 'technician',
    passwordHash:
      '$scrypt$n=131072,r=8,p=1$UeeM6ej5kLrSKc6g2/U+6g$9SiZwab+0bcHPfysABigME78fxUU5g1tm0BRl4u9cGoD3ENKIGb0bjF0MS/0gvVvOtWUVzS3UYADY8+6qNJebA',
  },
  {
    name: 'Jory Penn',
    signIn: 'jory',
    password: 'market-day-tea',
    role: 'counter',
    passwordHash:
      '$scrypt$n=131072,r=8,p=1$W+eaW+pdw18BSwCe/Gx9Xw$3KzzNdKOy/EktsJLuMqUvTIYXOY8hIDRJZd0lb3o7uCO0ey+DpsxwdzEg73iqMxapmyZCUJb39wTRushMNQNug',
  },
]
