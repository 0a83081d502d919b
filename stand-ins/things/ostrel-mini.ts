import { database, recordItems } from '../content/making'
import { contacts } from '../content/people'
import { keep } from '../helper/things'
import { phone, type StandIn } from './base'

/** What a merge left of the contacts, and what had been there before. */
export function lindqvistContacts() {
  const before = contacts(41, 420)
  const lost = before.filter((_, at) => at % 5 !== 0)
  const added = contacts(43, 430).slice(420)
  return { before, after: [...before.filter((one) => !lost.includes(one)), ...added], added }
}

/** An open-platform phone whose contacts were merged away; the bin of its gallery was never switched on. */
export const ostrelMini: StandIn = {
  id: 'ostrel-mini',
  standsFor: [{ title: 'Lindqvist · contacts', part: 'd1' }],
  make: async (making) => {
    const { before, after } = lindqvistContacts()
    return phone(making, {
      id: 'ostrel-mini',
      title: 'Ostrel Mini of Hesper Lindqvist',
      platform: 'open-phone',
      passcode: '3317',
      triesLeft: null,
      sync: { account: 'lindqvist-account', isOn: true, types: ['contacts'], deletions: [] },
      keeps: [
        keep({
          id: 'photo-bin',
          kind: 'bin',
          title: 'Bin of the gallery',
          types: ['photos', 'videos'],
          periodDays: 30,
          isOn: false,
        }),
        keep({
          id: 'sim',
          kind: 'sim',
          title: 'SIM card',
          types: ['contacts'],
          items: recordItems(
            's',
            before.slice(0, 24).map((one) => ({ ...one, mails: [], organisation: '' })),
          ),
        }),
        keep({
          id: 'apps',
          kind: 'apps',
          title: 'Rows of its apps',
          types: ['contacts'],
          items: [database(making, 'contact', after, before.filter((one) => !after.includes(one)).slice(0, 120))],
        }),
      ],
    })
  },
}
