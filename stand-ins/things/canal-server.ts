import { pdf } from '../content/documents'
import { file, sounds } from '../content/making'
import { keep, type StoredBackup } from '../helper/things'
import { computer, type StandIn } from './base'

/** A small server in a lock keeper’s cottage: the history of the desks’ files, an image of one of them, and a wrong encoding. */
export const canalServer: StandIn = {
  id: 'canal-server',
  make: async (making) => {
    const { time } = making
    const iso = (ms: number) => new Date(ms).toISOString()
    const latin = Uint8Array.from([...'Schleusenwärter Krüger, Grüße\r\n'].map((letter) => letter.charCodeAt(0)))
    const files = [
      file(making, 'h1', 'Desk 1/tolls.csv', 'boat;toll\nHeron;14\nAlder;9\n', { changed: iso(time.at(-3, 17)) }),
      file(making, 'h2', 'Desk 1/tolls (yesterday).csv', 'boat;toll\nHeron;14\n', {
        changed: iso(time.at(-4, 17)),
        presence: 'earlier',
      }),
      file(making, 'h3', 'Desk 2/letters/keeper.txt', latin, { changed: iso(time.at(-30, 11)) }),
    ]
    const image: StoredBackup = {
      id: 'desk-1-image',
      device: 'desk-1',
      deviceTitle: 'Whole disk of desk 1',
      platform: 'desktop-pc',
      account: null,
      taken: iso(time.at(-18, 1)),
      keepsBins: false,
      isSelective: true,
      password: null,
      archive: null,
      archiveBytes: 0,
      keeps: [
        keep({
          id: 'files',
          kind: 'files',
          title: 'Files',
          types: ['documents', 'audio', 'files'],
          items: [
            file(
              making,
              'i1',
              'Users/keeper/tariff.pdf',
              pdf(['Tariff of the lower locks', 'Narrow boats: nine pounds']),
            ),
            ...sounds(making, { seed: 15, count: 3, from: -60, to: -30, place: ['Users', 'keeper', 'Dictation'] }),
          ],
        }),
      ],
    }
    return computer(making, {
      id: 'canal-server',
      title: 'Server in the lock keeper’s cottage',
      platform: 'unix-desktop',
      password: 'windlass',
      keeps: [
        keep({
          id: 'history',
          kind: 'versions',
          title: 'File history',
          types: ['documents', 'spreadsheets', 'files'],
          asOf: iso(time.at(-3, 18)),
          items: files,
        }),
        keep({
          id: 'files',
          kind: 'files',
          title: 'Files',
          types: ['documents', 'spreadsheets', 'files'],
          items: files.slice(2),
        }),
      ],
      backups: [image],
    })
  },
}
