import { binned, file } from '../content/making'
import { pdf, textDocument } from '../content/documents'
import { keep } from '../helper/things'
import { ashbyPictures, madeBefore } from './ashby-pictures'
import { account, type StandIn } from './base'

/** The account that the phone synced with: sync carried the deletion on, so its bin holds what had been sent up. */
export const ashbyAccount: StandIn = {
  id: 'ashby-account',
  standsFor: [{ title: 'Ashby · peat survey photos', part: 'c1' }],
  make: async (making) => {
    const { time } = making
    const { survey } = await ashbyPictures(making)
    const report = (words: string) => textDocument(['Peat survey', words, 'Depth at post nine: 2.4 m.'])
    const versions = await Promise.all(
      [-12, -10, -9].map(async (day, at) =>
        file(making, `version-${at}`, 'Survey/report.docx', await report(`Version of day ${at + 1}.`), {
          changed: new Date(time.at(day, 16)).toISOString(),
          presence: 'earlier',
        }),
      ),
    )
    return account(making, {
      id: 'ashby-account',
      title: 'Account of Wilfreda Ashby',
      name: 'w.ashby@example.org',
      owner: 'Wilfreda Ashby',
      password: 'bog-cotton-22',
      secondFactor: '482913',
      bytesPerSecond: 400_000,
      keeps: [
        keep({ id: 'library', kind: 'library', title: 'Library', types: ['photos', 'videos'] }),
        keep({
          id: 'library-bin',
          kind: 'bin',
          title: 'Bin of the library',
          types: ['photos', 'videos'],
          periodDays: 60,
          items: binned(madeBefore(survey, time.at(-27, 23)), time.at(-8, 18)),
        }),
        keep({
          id: 'drive',
          kind: 'files',
          title: 'Drive',
          types: ['documents', 'spreadsheets', 'files'],
          items: [
            file(making, 'd1', 'Survey/report.docx', await report('The one of today.'), {
              changed: new Date(time.at(-1, 9)).toISOString(),
            }),
            file(making, 'd2', 'Survey/permits.pdf', pdf(['Permit to enter the moss', 'Valid for one year'])),
          ],
        }),
        keep({
          id: 'drive-bin',
          kind: 'bin',
          title: 'Bin of the drive',
          types: ['documents', 'spreadsheets', 'files'],
          periodDays: 30,
          items: binned(
            [
              file(making, 'b1', 'Survey/depths.csv', 'post;depth\n1;1.9\n2;2.1\n3;2.4\n'),
              file(making, 'b2', 'Survey/letter.txt', 'Dear landowner,\nthank you for letting us in.\n'),
            ],
            time.at(-8, 18),
          ),
        }),
        keep({
          id: 'drive-versions',
          kind: 'versions',
          title: 'Earlier versions in the drive',
          types: ['documents'],
          items: versions,
        }),
      ],
    })
  },
}
