import type { Case } from '../shape/case'
import { Copy, type CopyKind } from '../shape/copy'
import { isBareMedium } from '../shape/device'
import { nextId } from '../shape/next-id'
import { sameValue } from '../shape/same-value'
import { factAt, type Change } from '../facts/facts'

type Places = { readonly place: string }[]

/** Kinds of copies that keep items in a cloud, by the type of data; files go to a drive. */
const CLOUD_KIND: Readonly<Record<string, CopyKind>> = {
  photos: 'cloud-library',
  videos: 'cloud-library',
  notes: 'cloud-library',
  contacts: 'contact-archive',
  mail: 'mail-account',
  messages: 'cloud-backup',
  chats: 'cloud-backup',
}
/** Files of every other type. */
const USUAL_CLOUD: CopyKind = 'cloud-drive'
const CLOUDS: readonly string[] = [USUAL_CLOUD, ...Object.values(CLOUD_KIND)]

/**
 * What follows from where items were kept: "in the cloud" means that there is a cloud copy, "on its card" that there is
 * a card. Such a copy is supposed until somebody confirms it; one that nobody has touched goes when the answer changes.
 */
export function drawnFrom(ofCase: Case, { fact, is }: Change): Change[] {
  const [list, id, what] = fact.split('.')
  if (list === 'devices' && what === 'condition' && is === 'wet' && factAt(ofCase, `devices.${id}.wet`) === 'unknown')
    return [{ fact: `devices.${id}.wet`, is: 'wet' }]
  const [device] = ofCase.devices
  if (fact === 'loss.how' && is === 'device-gone' && device?.condition === 'unknown')
    return [{ fact: `devices.${device.id}.condition`, is: 'gone' }]
  if (list !== 'wanted' || what !== 'lived' || id === undefined) return []
  const isIn = (value: unknown, place: string) =>
    Array.isArray(value) && (value as Places).some((one) => one.place === place)
  const others = ofCase.wanted.filter((set) => set.id !== id)
  const isNeeded = (place: string) => isIn(is, place) || others.some((set) => isIn(set.lived, place))
  const kept = ofCase.copies.filter((copy) => {
    const place = drawnPlace(copy)
    return place === null || isNeeded(place)
  })
  const gone = ofCase.copies
    .filter((copy) => !kept.includes(copy))
    .map((copy) => ({ fact: `copies.${copy.id}`, is: null }))
  const added: { id: string }[] = []
  const add = (copy: object) => added.push({ id: nextId('c', [...ofCase.copies, ...added]), ...copy })
  const type = factAt(ofCase, `wanted.${id}.type`)
  if (isIn(is, 'cloud') && !kept.some((copy) => CLOUDS.includes(copy.kind)))
    add({ kind: CLOUD_KIND[String(type)] ?? USUAL_CLOUD, exists: 'supposed' })
  const isCardItself = ofCase.devices.some((device) => isBareMedium(device))
  if (isIn(is, 'card') && !isCardItself && !kept.some((copy) => copy.kind === 'medium'))
    add({ kind: 'medium', exists: 'supposed', storage: { kind: 'card' } })
  return [...gone, ...added.map((copy) => ({ fact: `copies.${copy.id}`, is: copy }))]
}

/** The place from which a copy was drawn, where nobody has said anything else about it; else null. */
function drawnPlace({ id, kind, exists, storage, ...more }: Copy): 'card' | 'cloud' | null {
  const bare = Copy.parse({ id, kind, exists, storage: { kind: storage.kind } })
  if (exists !== 'supposed' || !sameValue({ id, kind, exists, storage, ...more }, bare)) return null
  return kind === 'medium' ? 'card' : CLOUDS.includes(kind) ? 'cloud' : null
}
