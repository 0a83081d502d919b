import { file } from '../content/making'
import { computer, type StandIn } from './base'
import { keep } from '../helper/things'

/** The office’s computer: it keeps no backup of the phone, but the phone trusts it. */
export const navigationOffice: StandIn = {
  id: 'navigation-office',
  make: async (making) =>
    computer(making, {
      id: 'navigation-office',
      title: 'Office computer of the Upper Navigation Trust',
      platform: 'desktop-pc',
      password: 'sluice-and-paddle',
      keeps: [
        keep({
          id: 'files',
          kind: 'files',
          title: 'Files',
          types: ['documents', 'files'],
          items: [file(making, 'f1', 'Desk/lock-times.txt', 'Lock 7 opens at eight.\n')],
        }),
      ],
    }),
}
