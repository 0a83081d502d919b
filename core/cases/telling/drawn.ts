import type { Case } from '../shape/case'
import { Copy, type CopyKind } from '../shape/copy'
import { isBareMedium } from '../shape/device'
import { known } from '../shape/fact'
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
const CLOUDS: readonly string[] = ['cloud-library', 'cloud-drive', 'contact-archive', 'mail-account', 'cloud-backup']

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
    const place = isDrawn(copy)
    return place === null || isNeeded(place)
  })
  const gone = ofCase.copies
    .filter((copy) => !kept.includes(copy))
    .map((copy) => ({ fact: `copies.${copy.id}`, is: null }))
  const added: Change[] = []
  const add = (copy: object) =>
    added.push({ fact: `copies.c${Number(nextId('c', ofCase.copies).slice(1)) + added.length}`, is: copy })
  const type = factAt(ofCase, `wanted.${id}.type`)
  if (isIn(is, 'cloud') && !kept.some((copy) => CLOUDS.includes(copy.kind)))
    add({ kind: CLOUD_KIND[String(type)] ?? 'cloud-drive', exists: 'supposed' })
  const isCardItself = ofCase.devices.some((device) => isBareMedium(device))
  if (isIn(is, 'card') && !isCardItself && !kept.some((copy) => copy.kind === 'medium'))
    add({ kind: 'medium', exists: 'supposed', storage: { kind: 'card' } })
  return [...gone, ...added]
}

/** The place from which a copy was drawn, where nobody has said anything else about it; else null. */
function isDrawn(copy: Copy): string | null {
  if (copy.exists !== 'supposed') return null
  const bare = { id: copy.id, kind: copy.kind, exists: copy.exists, storage: { kind: copy.storage.kind } }
  if (known(copy.label) || !sameValue(copy, Copy.parse(bare))) return null
  return copy.kind === 'medium' ? 'card' : CLOUDS.includes(copy.kind) ? 'cloud' : null
}
