import { textDocument } from '../content/documents'
import { file } from '../content/making'
import { keep } from '../helper/things'
import { computer, type StandIn } from './base'

/** A maker-run laptop with an hourly timeline of snapshots and a recovery folder. */
export const pelloonLeaf: StandIn = {
  id: 'pelloon-leaf',
  standsFor: [{ title: 'Vidal · thesis chapter', part: 'd1' }],
  make: async (making) => {
    const { time } = making
    const iso = (ms: number) => new Date(ms).toISOString()
    const chapter = (pages: number) =>
      textDocument(
        Array.from({ length: pages }, (_, at) => `Chapter four, paragraph ${at + 1}: on the drainage of fens.`),
      )
    const hours = [20, 12, 6, 3, 1]
    return computer(making, {
      id: 'pelloon-leaf',
      title: 'Pelloon Leaf of Per Vidal',
      platform: 'maker-desktop',
      password: 'fen-skater',
      keeps: [
        keep({
          id: 'files',
          kind: 'files',
          title: 'Files',
          types: ['documents', 'files'],
          items: [file(making, 'now', 'Thesis/chapter4.docx', await chapter(3), { changed: iso(time.at(-3, 23)) })],
        }),
        ...(await Promise.all(
          hours.map(async (ago) =>
            keep({
              id: `snapshot.${ago}`,
              kind: 'snapshot',
              title: 'Snapshot',
              types: ['documents', 'files'],
              asOf: iso(time.now - ago * 3_600_000),
              items: [
                file(making, `s${ago}`, 'Thesis/chapter4.docx', await chapter(ago > 4 ? 40 : 3), {
                  changed: iso(time.now - (ago + 1) * 3_600_000),
                  presence: 'earlier',
                }),
              ],
            }),
          ),
        )),
        keep({
          id: 'recovery',
          kind: 'recovery',
          title: 'Automatic-recovery folder',
          types: ['documents'],
          items: [
            file(making, 'r1', 'Recovery/chapter4 (recovered).docx', await chapter(38), {
              changed: iso(time.at(-3, 22, 56)),
            }),
          ],
        }),
      ],
    })
  },
}
