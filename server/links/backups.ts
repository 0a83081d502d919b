import type { Choosable } from '../../core/bench/choosing'
import { partKindOf } from '../../core/bench/part'
import type { LinkState } from '../../core/bench/state'
import type { StoredCase } from '../cases/rows'
import { manifestOf } from './archive-links'
import { attachedTo } from './case-links'
import { linkById } from './links'

/** The backups that a case can choose among, on all of its links; ids are "link/keep". */
export async function choosable(stored: StoredCase, known: readonly LinkState[] = []): Promise<Choosable[]> {
  const attached = attachedTo(stored)
  const devices = new Set(
    attached.filter((one) => partKindOf(stored.case, one.part) === 'device').map((one) => one.link),
  )
  const titles = new Set<string>()
  const states: LinkState[] = []
  for (const link of new Set(attached.map((one) => one.link))) {
    const state = known.find((one) => one.id === link) ?? (await stateOrNull(link))
    if (!state) continue
    states.push(state)
    if (devices.has(link)) titles.add(state.title)
  }
  const isOther = (device: string) => titles.size > 0 && !titles.has(device)
  const listed = states.flatMap((state) =>
    state.keeps.flatMap((keep) =>
      keep.backup ? [{ id: `${state.id}/${keep.id}`, facts: keep.backup, isOther: isOther(keep.backup.device) }] : [],
    ),
  )
  const archives = await Promise.all(
    states
      .filter((one) => one.kind === 'backups')
      .map(async (state): Promise<Choosable[]> => {
        const found = await manifestOf(state.id)
        if (!found) return []
        const { manifest, bytes } = found
        return [
          {
            id: `${state.id}/*`,
            isOther: isOther(manifest.device.title),
            facts: {
              device: manifest.device.title,
              account: manifest.account,
              taken: manifest.taken,
              bytes,
              isEncrypted: manifest.identity !== null,
              keepsBins: manifest.keepsBins,
              counts: manifest.counts,
              isSelective: true,
              slots: null,
            },
          },
        ]
      }),
  )
  return [...listed, ...archives.flat()]
}

const stateOrNull = async (id: string) => {
  try {
    return await (await linkById(id)).state()
  } catch {
    return null
  }
}
