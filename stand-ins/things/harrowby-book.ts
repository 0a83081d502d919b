import { sheet, textDocument } from '../content/documents'
import { binned, file } from '../content/making'
import { keep } from '../helper/things'
import { computer, type StandIn } from './base'

const rows = (members: number, title: string): (string | number)[][] => [
  [title, ''],
  ['Member', 'Paid'],
  ...Array.from({ length: members }, (_, at): [string, number] => [`Member ${at + 1}`, 12 + (at % 4) * 3]),
]

/** A laptop on which the guild’s accounts were saved over this morning; last night’s state of the folder is still there. */
export const harrowbyBook: StandIn = {
  id: 'harrowby-book',
  standsFor: [
    { title: 'Quilt guild · members’ accounts', part: 'd1' },
    { title: 'Quilt guild · members’ accounts', part: 'c1' },
  ],
  make: async (making) => {
    const { time } = making
    const iso = (ms: number) => new Date(ms).toISOString()
    const good = await sheet(rows(64, 'Quilt guild, members’ accounts'))
    const older = await sheet(rows(61, 'Quilt guild, members’ accounts'))
    const empty = await sheet(rows(0, 'Raffle'))
    const temporary = await sheet(rows(63, 'Quilt guild, members’ accounts'))
    const accounts = (id: string, bytes: Uint8Array, changed: number, presence: 'present' | 'earlier' = 'earlier') =>
      file(making, id, 'Documents/Guild/guild accounts.xlsx', bytes, {
        changed: iso(changed),
        made: iso(time.at(-300, 10)),
        presence,
      })
    return computer(making, {
      id: 'harrowby-book',
      title: 'Harrowby Book of the quilt guild',
      platform: 'desktop-pc',
      keeps: [
        keep({
          id: 'files',
          kind: 'files',
          title: 'Files',
          types: ['documents', 'spreadsheets', 'files'],
          items: [
            accounts('now', empty, time.now - 5 * 3_600_000, 'present'),
            file(
              making,
              'f2',
              'Documents/Guild/patterns.docx',
              await textDocument(['Log cabin', 'Flying geese', 'Nine patch']),
              {
                changed: iso(time.at(-20, 15)),
              },
            ),
            file(making, 'f3', 'Documents/old/guild accounts (copy).xlsx', older, { changed: iso(time.at(-40, 12)) }),
          ],
        }),
        keep({
          id: 'bin',
          kind: 'bin',
          title: 'Bin',
          types: ['documents', 'spreadsheets', 'files'],
          items: binned(
            [file(making, 'b1', 'Documents/Guild/raffle 2025.csv', 'prize;number\nquilt;17\ntea;4\n')],
            time.at(-2, 10),
          ),
        }),
        keep({
          id: 'versions.last-night',
          kind: 'versions',
          title: 'The folder as it was',
          types: ['documents', 'spreadsheets', 'files'],
          asOf: iso(time.at(-1, 21, 6)),
          items: [accounts('v1', good, time.at(-1, 17))],
        }),
        keep({
          id: 'versions.week',
          kind: 'versions',
          title: 'The folder as it was',
          types: ['documents', 'spreadsheets', 'files'],
          asOf: iso(time.at(-8, 21, 4)),
          items: [accounts('v0', older, time.at(-9, 17))],
        }),
        keep({
          id: 'recovery',
          kind: 'recovery',
          title: 'Automatic-recovery folder',
          types: ['documents', 'spreadsheets'],
          items: [
            file(making, 'r1', 'Recovery/~guild accounts.xlsx', temporary, { changed: iso(time.now - 6 * 3_600_000) }),
            file(making, 'r2', 'Temp/wr0001.tmp', new Uint8Array(512), { changed: iso(time.at(-1, 9)) }),
          ],
        }),
        keep({
          id: 'restore-point.1',
          kind: 'restore-point',
          title: 'Restore point: before an update',
          types: ['files'],
          asOf: iso(time.at(-6, 3)),
        }),
      ],
    })
  },
}
