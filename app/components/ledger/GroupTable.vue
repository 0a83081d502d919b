<script setup lang="ts">
import { type Grouping, type LedgerAnswer, type LedgerGroup, GROUPINGS } from '~~/core/ledger/answers'
import type { LedgerFilter } from '~~/core/ledger/filter'

/** The same runs grouped in another way, chosen by a word. */
const props = defineProps<{ groups: LedgerAnswer['groups'] }>()
const { to } = useLedgerFilter()
const money = useMoney()
const WORDS: Record<Grouping, string> = {
  family: 'family of routes',
  platform: 'device family',
  device: 'kind of device',
  type: 'kind of data',
  loss: 'kind of loss',
  by: 'technician',
}
const by = ref<Grouping>('family')
const choices = computed(() =>
  GROUPINGS.filter((one) => props.groups[one].length > 0).map((value) => ({ value, words: WORDS[value] })),
)
const behind = ({ key }: LedgerGroup, more: Partial<LedgerFilter> = {}) =>
  to('/ledger/runs', { [by.value]: key, ...more })
const perSuccess = ({ tally }: LedgerGroup, sum: number, words: (each: number) => string) =>
  tally.worked === 0 ? '–' : words(sum / tally.worked)
</script>

<template>
  <div class="flex items-baseline gap-2">
    <h2 class="text-[19px]">By</h2>
    <SentenceWord v-model="by" label="Grouped by" :choices="choices" />
  </div>
  <div class="overflow-x-auto">
    <table class="list-table mt-1 min-w-[760px] text-[14.5px]">
      <thead>
        <tr>
          <th scope="col">{{ WORDS[by] }}</th>
          <th scope="col">runs</th>
          <th scope="col">worked</th>
          <th scope="col">brought back</th>
          <th scope="col">items</th>
          <th scope="col">damaged</th>
          <th scope="col">hands-on</th>
          <th scope="col">each success</th>
          <th scope="col">charged</th>
          <th scope="col">spent</th>
          <th scope="col">each success</th>
        </tr>
      </thead>
      <tbody class="figure text-[13px]">
        <tr v-for="group in groups[by]" :key="group.key">
          <th scope="row" class="font-text text-[14.5px] font-normal">{{ group.title }}</th>
          <td>
            <NuxtLink :to="behind(group)" class="underline decoration-dotted">{{ group.tally.runs }}</NuxtLink>
          </td>
          <td>
            <NuxtLink :to="behind(group, { end: 'worked' })" class="underline decoration-dotted">
              {{ group.tally.worked }}
            </NuxtLink>
          </td>
          <td>{{ group.tally.decided === 0 ? '–' : percent(group.tally.came / group.tally.decided) }}</td>
          <td>{{ numberWords(group.tally.back) }}</td>
          <td>
            <NuxtLink
              v-if="group.tally.damaged > 0"
              :to="behind(group, { damaged: '1' })"
              class="underline decoration-dotted"
            >
              {{ numberWords(group.tally.damaged) }}
            </NuxtLink>
            <template v-else>0</template>
          </td>
          <td>{{ minutesWords(group.tally.handsOn) }}</td>
          <td>{{ perSuccess(group, group.tally.handsOn, minutesWords) }}</td>
          <td>{{ money(group.tally.charged) }}</td>
          <td>{{ money(group.tally.spent) }}</td>
          <td>{{ perSuccess(group, group.tally.spent, money) }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
