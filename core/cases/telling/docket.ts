import type { Case } from '../shape/case'
import { isBareMedium, type Device } from '../shape/device'
import { known } from '../shape/fact'
import type { WantedSet } from '../shape/wanted'
import type { FactPath } from '../facts/facts'
import { binsFor } from './bins-asked'
import { factsOfCopy } from './copy-sentence'
import type { PartList } from './sentence'
import { COPY_KIND_WORDS, DEVICE_KIND_WORDS, TYPE_WORDS } from './words'

export interface DocketPart {
  /** empty where the section has only one part */
  readonly name: string
  readonly facts: readonly FactPath[]
  readonly remove?: { readonly list: PartList; readonly id: string }
}

export interface DocketSection {
  readonly name: string
  readonly parts: readonly DocketPart[]
  /** the list to which the section can add a part */
  readonly add?: PartList
}

/** The facts of a case as a list in sections, whatever the telling has or leaves out. */
export function docketOf(ofCase: Case): DocketSection[] {
  return [
    {
      name: 'Wanted',
      parts: ofCase.wanted.map((set) => ({
        name: known(set.type) ? TYPE_WORDS[set.type] : 'not said yet',
        facts: wantedFacts(set),
        remove: { list: 'wanted', id: set.id },
      })),
      add: 'wanted',
    },
    {
      name: 'Lost',
      parts: [
        {
          name: '',
          facts: [
            'loss.how',
            ...(ofCase.loss.how === 'formatted' ? ['loss.format'] : []),
            ofCase.loss.how === 'not-lost-yet' ? 'loss.when#ahead' : 'loss.when',
            'loss.on',
            'loss.noticed',
          ],
        },
      ],
    },
    {
      name: 'Since then',
      parts: [
        { name: '', facts: ['loss.since.used', 'loss.since.writtenBytes', 'loss.since.installed', 'loss.since.sync'] },
      ],
    },
    {
      name: 'Device',
      parts: ofCase.devices.map((device) => ({
        name: known(device.kind) ? DEVICE_KIND_WORDS[device.kind] : 'not said yet',
        facts: deviceFacts(device, ofCase),
        remove: { list: 'devices', id: device.id },
      })),
      add: 'devices',
    },
    {
      name: 'Copies',
      parts: ofCase.copies.map((copy) => ({
        name: COPY_KIND_WORDS[copy.kind],
        facts: factsOfCopy(copy, ofCase),
        remove: { list: 'copies', id: copy.id },
      })),
      add: 'copies',
    },
    {
      name: 'Client',
      parts: [
        {
          name: '',
          facts: [
            'client.name',
            'client.phone',
            'client.mail',
            'authority.basis',
            ...(ofCase.authority.basis === 'own' || ofCase.authority.basis === 'unknown'
              ? []
              : ['authority.whose', 'authority.agreedBy', 'authority.proof']),
          ],
        },
      ],
    },
    {
      name: 'Limits',
      parts: [{ name: '', facts: ['limits.money', 'limits.deadline', 'limits.seenBy', 'limits.worth'] }],
    },
    {
      name: 'Consent',
      parts: [{ name: '', facts: ['consent.lookThrough.answer', 'consent.erase.answer', 'consent.laboratory.answer'] }],
    },
  ]
}

function wantedFacts(set: WantedSet): FactPath[] {
  const later = known(set.lived) && set.lived.length > 1 && set.lived.some((place) => place.place === 'card')
  return [
    'type',
    'title',
    'count',
    'bytes',
    'made',
    'spread',
    'mustHave',
    'names',
    'lived',
    ...(later ? ['lived#card-since'] : []),
    'on',
    'placeholders',
  ].map((fact) => `wanted.${set.id}.${fact}`)
}

function deviceFacts(device: Device, ofCase: Case): FactPath[] {
  const isBare = isBareMedium(device)
  const bins = isBare ? [] : binsFor(ofCase).map((bin) => `bins.${bin}`)
  const storage = ['kind', 'fileSystem', 'capacityBytes', 'freeBytes', 'encryption', 'discard', 'discardNext']
  return [
    'kind',
    'make',
    ...(isBare ? [] : ['platform']),
    'condition',
    'wet',
    ...(isBare ? [] : ['power', 'offSince', 'lock', 'passcode', 'wrongCodes', 'spare']),
    ...bins,
    ...storage.map((fact) => `storage.${fact}`),
  ].map((fact) => `devices.${device.id}.${fact}`)
}
