import { sheet, textDocument } from '../content/documents'
import { file, binned } from '../content/making'
import { keep } from '../helper/things'
import { account, type StandIn } from './base'

const mail = (subject: string, text: string, date: string) =>
  `From: treasurer@example.org\r\nTo: guild@example.org\r\nSubject: ${subject}\r\nDate: ${date}\r\nContent-Type: text/plain; charset=utf-8\r\n\r\n${text}\r\n`

/** An account with documents that save themselves, with mail, and with posts that a data export gives out. */
export const guildAccount: StandIn = {
  id: 'guild-account',
  make: async (making) => {
    const { time } = making
    const iso = (ms: number) => new Date(ms).toISOString()
    return account(making, {
      id: 'guild-account',
      title: 'Account of the quilt guild',
      name: 'guild@example.org',
      owner: 'Parish quilt guild',
      password: 'hexagon-rose',
      exports: { hours: 26, linkDays: 4 },
      keeps: [
        keep({
          id: 'drive',
          kind: 'files',
          title: 'Drive',
          types: ['documents', 'spreadsheets', 'files'],
          items: [
            file(making, 'g1', 'Guild/programme.docx', await textDocument(['Programme', 'January: bindings']), {
              changed: iso(time.at(-3, 9)),
            }),
          ],
        }),
        keep({
          id: 'autosave',
          kind: 'recovery',
          title: 'Saved by itself',
          types: ['documents', 'spreadsheets'],
          items: [
            file(
              making,
              's1',
              'Unnamed/2026 fees.xlsx',
              await sheet([
                ['Fees', ''],
                ['Hall', 240],
              ]),
              { changed: iso(time.now - 5 * 3_600_000) },
            ),
          ],
        }),
        keep({
          id: 'mail-bin',
          kind: 'bin',
          title: 'Deleted mail',
          types: ['mail'],
          periodDays: 30,
          items: binned(
            [
              file(
                making,
                'm1',
                'Deleted/hall booking.eml',
                mail('Hall booking', 'The hall is ours on Thursdays.', 'Mon, 02 Nov 2026 09:10:00 +0000'),
              ),
              file(
                making,
                'm2',
                'Deleted/fees.eml',
                mail('Fees', 'Twelve pounds from January.', 'Tue, 10 Nov 2026 18:00:00 +0000'),
              ),
            ],
            time.at(-9, 12),
          ),
        }),
        keep({
          id: 'posts',
          kind: 'files',
          title: 'Posts',
          types: ['documents', 'files'],
          items: [
            file(making, 'p1', 'posts/2025-05-01.txt', 'Our spring show opens on Saturday.\n', {
              made: iso(time.at(-200, 9)),
            }),
            file(making, 'p2', 'posts/2025-09-14.txt', 'Thank you to everybody who came.\n', {
              made: iso(time.at(-70, 9)),
            }),
          ],
        }),
      ],
    })
  },
}
