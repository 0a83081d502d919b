<script setup lang="ts">
import { DATA_TYPES } from '~~/core/cases/shape/data-types'
import { DEVICE_KINDS } from '~~/core/cases/shape/device'
import { LOSS_KINDS } from '~~/core/cases/shape/loss'
import { DEVICE_KIND_WORDS, LOSS_WORDS, TYPE_WORDS } from '~~/core/cases/telling/words'
import { PERIOD_WORDS, type LedgerFilter } from '~~/core/ledger/filter'

/** Which runs the ledger counts, as a sentence whose words are choices. */
const props = defineProps<{ runs: number; people: readonly string[] }>()
const { filter, set } = useLedgerFilter()

type Key = 'device' | 'type' | 'loss' | 'by'
const ANY = 'any'
function word(key: Key) {
  return computed({
    get: () => filter.value[key] ?? ANY,
    set: (value: string) => void set({ [key]: value === ANY ? undefined : value }),
  })
}
const period = computed({
  get: () => filter.value.period,
  set: (value: LedgerFilter['period']) => void set({ period: value }),
})
const [device, type, loss, by] = [word('device'), word('type'), word('loss'), word('by')]
const PERIOD_CHOICES = [
  ...(['30', '90', '365', 'all'] as const).map((value) => ({ value, words: PERIOD_WORDS[value] })),
  { value: 'days' as const, words: 'certain days' },
]
const choices = (any: string, values: readonly string[], words: Record<string, string>) => [
  { value: ANY, words: any },
  ...values.map((value) => ({ value, words: words[value] ?? value })),
  { value: 'unknown', words: 'not known' },
]
const DEVICES = choices('any device', DEVICE_KINDS, DEVICE_KIND_WORDS)
const TYPES = choices('any data', DATA_TYPES, TYPE_WORDS)
const LOSSES = choices('any loss', LOSS_KINDS, LOSS_WORDS)
const people = computed(() => [
  { value: ANY, words: 'anybody' },
  ...[...new Set([...props.people, ...(filter.value.by ? [filter.value.by] : [])])].map((value) => ({
    value,
    words: value,
  })),
])
const day = (which: 'from' | 'to') =>
  computed({
    get: () => filter.value[which] ?? '',
    set: (value: string) => void set({ [which]: value === '' ? undefined : value }),
  })
const [from, to] = [day('from'), day('to')]
</script>

<template>
  <p class="flex flex-wrap items-baseline gap-x-1.5 gap-y-1 text-[16px] text-soft">
    {{ countOf(runs, 'run') }} of
    <SentenceWord v-model="period" label="Period" :choices="PERIOD_CHOICES" class="text-ink" />
    <template v-if="filter.period === 'days'">
      from
      <input v-model="from" type="date" aria-label="First day" class="day-field" />
      to
      <input v-model="to" type="date" aria-label="Last day" class="day-field" />
    </template>
    on
    <SentenceWord v-model="device" label="Device" :choices="DEVICES" class="text-ink" />
    for
    <SentenceWord v-model="type" label="Data" :choices="TYPES" class="text-ink" />
    after
    <SentenceWord v-model="loss" label="Loss" :choices="LOSSES" class="text-ink" />
    <template v-if="people.length > 1">
      by
      <SentenceWord v-model="by" label="Technician" :choices="people" class="text-ink" />
    </template>
  </p>
</template>

<style scoped>
.day-field {
  min-height: 28px;
  border-bottom: 2px solid var(--russet);
  background: transparent;
  color: var(--ink);
}
</style>
