import { recordItems } from '../content/making'
import { keep } from '../helper/things'
import { account, type StandIn } from './base'
import { lindqvistContacts } from './ostrel-mini'

/** How many days ago the contacts were merged away. */
const MERGED = 26

/** The right account: it can turn the contacts back to any of the last thirty days. */
export const lindqvistAccount: StandIn = {
  id: 'lindqvist-account',
  standsFor: [{ title: 'Lindqvist · contacts', part: 'c1' }],
  make: async (making) => {
    const { before, after } = lindqvistContacts()
    const was = recordItems('c', before)
    const is = recordItems('n', after)
    const days = Array.from({ length: 30 }, (_, at) => 29 - at)
    return account(making, {
      id: 'lindqvist-account',
      title: 'Account of Hesper Lindqvist',
      name: 'hesper.l@example.org',
      owner: 'Hesper Lindqvist',
      password: 'saxifrage-9',
      secondFactor: '771204',
      keeps: [
        keep({
          id: 'contacts',
          kind: 'files',
          title: 'Contacts of today',
          types: ['contacts'],
          items: is.map((one) => ({ ...one })),
        }),
        ...days.map((ago) =>
          keep({
            id: `contacts.${ago}`,
            kind: 'earlier-state',
            title: 'Contacts as they were',
            types: ['contacts'],
            asOf: new Date(making.time.at(-ago, 0, 5)).toISOString(),
            items: ago > MERGED ? was : is,
          }),
        ),
      ],
    })
  },
}
