import { recordItems } from '../content/making'
import { contacts } from '../content/people'
import { keep } from '../helper/things'
import { account, type StandIn } from './base'

/** The wrong account: the same person’s name, a handful of contacts, and none of the wanted ones. */
export const lindqvistOldAccount: StandIn = {
  id: 'lindqvist-old-account',
  make: async (making) => {
    const few = recordItems('o', contacts(47, 9))
    return account(making, {
      id: 'lindqvist-old-account',
      title: 'Older account of Hesper Lindqvist',
      name: 'lindqvist.hesper@example.net',
      owner: 'Hesper Lindqvist',
      password: 'saxifrage-8',
      keeps: [
        keep({ id: 'contacts', kind: 'files', title: 'Contacts of today', types: ['contacts'], items: few }),
        keep({
          id: 'contacts.20',
          kind: 'earlier-state',
          title: 'Contacts as they were',
          types: ['contacts'],
          asOf: new Date(making.time.at(-20, 0, 5)).toISOString(),
          items: few,
        }),
      ],
    })
  },
}
