import { linkFailure } from '../../core/bench/fault'
import type { PutBack } from '../../core/bench/link'
import { putRecords } from './phone/apps'
import { phoneBehaviour } from './phone/phone'
import { item, type StoredKeep, type Thing, type World } from './things'

/** Takes an item in where its like is kept; refused where there is no room for it. */
export function putBackInto(world: World, thing: Thing, keep: StoredKeep, { item: what, bytes }: PutBack): void {
  if (!['library', 'files', 'apps', 'earlier-state'].includes(keep.kind) || keep.asOf !== null)
    throw linkFailure('not-met', 'Nothing is put back there.')
  if (thing.kind === 'phone') {
    const room = phoneBehaviour.state(thing, world).room
    if (room && bytes.length > room.free) throw linkFailure('no-room', 'There is no room on it for this.')
    if (what.record) return putRecords(thing, world, [what.record])
  }
  if (thing.faults.isFull) throw linkFailure('no-room', 'There is no room on it for this.')
  // The same item twice is the same item.
  const others = keep.items.filter((one) => one.id !== what.id)
  const back = item({
    id: what.id,
    name: what.name,
    place: what.place,
    type: what.type,
    mime: what.mime,
    made: what.made,
    record: what.record,
    bytes: bytes.length,
    content: what.record ? null : world.contents.put(bytes),
  })
  keep.items = [...others, back]
}
