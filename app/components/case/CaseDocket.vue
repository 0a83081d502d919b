<script setup lang="ts">
import { askingOf, binsAsked } from '~~/core/cases/telling/asking'
import { FACTS_OF_COPY } from '~~/core/cases/shape/copy'
import { isBareMedium } from '~~/core/cases/shape/device'
import { known } from '~~/core/cases/shape/fact'
import { factAt } from '~~/core/cases/facts/facts'
import { wordsOf } from '~~/core/cases/telling/answering'
import type { PartList } from '~~/core/cases/telling/telling'
import { COPY_KIND_WORDS, DEVICE_KIND_WORDS, TYPE_WORDS } from '~~/core/cases/telling/words'

/** The facts of the case as a list, edited in place with the same controls as the telling. */
const store = useOpenCaseStore()
const ofCase = computed(() => store.current)

interface Part {
  readonly name: string
  readonly facts: readonly string[]
  readonly remove?: { readonly list: PartList; readonly id: string }
}
interface Section {
  readonly name: string
  readonly parts: readonly Part[]
  readonly add?: PartList
}

const sections = computed<Section[]>(() => [
  {
    name: 'Wanted',
    parts: ofCase.value.wanted.map((set) => ({
      name: known(set.type) ? TYPE_WORDS[set.type] : 'not said yet',
      facts: wantedFacts(set.id),
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
          ...(ofCase.value.loss.how === 'formatted' ? ['loss.format'] : []),
          'loss.when',
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
    parts: ofCase.value.devices.map((device) => ({
      name: known(device.kind) ? DEVICE_KIND_WORDS[device.kind] : 'not said yet',
      facts: deviceFacts(device.id),
      remove: { list: 'devices', id: device.id },
    })),
    add: 'devices',
  },
  {
    name: 'Copies',
    parts: ofCase.value.copies.map((copy) => ({
      name: COPY_KIND_WORDS[copy.kind],
      facts: FACTS_OF_COPY[copy.kind].map((fact) => `copies.${copy.id}.${fact}`),
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
          ...(ofCase.value.authority.basis === 'own' || ofCase.value.authority.basis === 'unknown'
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
])

function wantedFacts(id: string): string[] {
  const set = ofCase.value.wanted.find((one) => one.id === id)
  const later = set && known(set.lived) && set.lived.length > 1 && set.lived.some((place) => place.place === 'card')
  return [
    'type',
    'title',
    'count',
    'bytes',
    'made',
    'mustHave',
    'names',
    'lived',
    ...(later ? ['lived#card-since'] : []),
  ].map((fact) => `wanted.${id}.${fact}`)
}

function deviceFacts(id: string): string[] {
  const device = ofCase.value.devices.find((one) => one.id === id)
  const isBare = device !== undefined && isBareMedium(device)
  const bins = isBare ? [] : binsAsked(ofCase.value).map((bin) => `bins.${bin}`)
  const storage = [
    'storage.kind',
    'storage.fileSystem',
    'storage.capacityBytes',
    'storage.freeBytes',
    'storage.encryption',
    'storage.discard',
  ]
  return [
    'kind',
    'make',
    ...(isBare ? [] : ['platform']),
    'condition',
    ...(isBare ? [] : ['lock', 'passcode']),
    ...bins,
    ...storage,
  ].map((fact) => `devices.${id}.${fact}`)
}

const context = useAnswerContext()
const LONG = 17
const isLong = (path: string) => (wordsOf(ofCase.value, path, context.value) ?? '').length > LONG
const opened = ref<Record<string, boolean>>({})
const isSet = (path: string) => {
  const value = factAt(ofCase.value, path.split('#')[0]!)
  return value !== 'unknown' && value !== '' && value !== null && value !== undefined
}
/** Unknown facts are hidden until somebody asks for them, except the first few of each section. */
const shown = (section: string, part: Part) =>
  opened.value[section]
    ? part.facts
    : part.facts.filter((path, index) => isSet(path) || (index < 2 && part.name === ''))
const foldedCount = (section: Section) =>
  opened.value[section.name]
    ? 0
    : section.parts.reduce((sum, part) => sum + part.facts.length - shown(section.name, part).length, 0)

function remove({ list, id }: { list: PartList; id: string }) {
  const was = ofCase.value[list].find((one) => one.id === id)
  store.set([{ fact: `${list}.${id}`, is: null }])
  tellDone('Removed.', () => store.set([{ fact: `${list}.${id}`, is: was }]))
}
const ADDING: Record<PartList, string> = {
  copies: 'another copy?',
  wanted: 'something else?',
  devices: 'another device?',
}
</script>

<template>
  <aside class="docket" aria-label="Docket" data-words>
    <section v-for="section in sections" :key="section.name">
      <h2 class="section-name">{{ section.name }}</h2>
      <div v-for="(part, index) in section.parts" :key="part.remove?.id ?? index" class="mt-1">
        <p v-if="part.name" class="flex items-baseline justify-between font-bold">
          {{ part.name }}
          <button
            v-if="part.remove && opened[section.name]"
            type="button"
            class="min-h-[24px] px-1 text-[13px] font-normal text-soft underline decoration-dotted"
            :aria-label="`Remove ${part.name}`"
            @click="remove(part.remove)"
          >
            Remove
          </button>
        </p>
        <dl>
          <div
            v-for="path in shown(section.name, part)"
            :key="path"
            class="fact-line"
            :class="{ 'is-long': isLong(path) }"
          >
            <dt>{{ askingOf(path)?.label }}</dt>
            <dd><FactWord :path="path" /></dd>
          </div>
        </dl>
      </div>
      <div v-if="section.add && opened[section.name]" class="mt-1">
        <AddWord :list="section.add" :question="ADDING[section.add]" />
      </div>
      <button
        v-if="foldedCount(section) > 0 || section.add"
        type="button"
        class="fold"
        :aria-expanded="!!opened[section.name]"
        @click="opened[section.name] = !opened[section.name]"
      >
        {{
          opened[section.name] ? 'fold away' : foldedCount(section) > 0 ? `${foldedCount(section)} not known` : 'change'
        }}
      </button>
    </section>
  </aside>
</template>

<style scoped>
.docket {
  font-size: 14px;
  line-height: 1.35;
}
section + section {
  margin-top: 13px;
}
.fact-line {
  display: grid;
  grid-template-columns: 82px minmax(0, 1fr);
  gap: 8px;
  padding: 1px 0;
}
dt {
  color: var(--soft);
  font-size: 13px;
  padding-top: 3px;
}
.fact-line.is-long {
  grid-template-columns: minmax(0, 1fr);
  gap: 0;
}
.fold {
  min-height: 24px;
  color: var(--russet-ink);
  text-decoration: underline dotted;
  font-size: 13px;
}
</style>
