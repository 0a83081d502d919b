<script setup lang="ts">
import type { LedgerAnswer } from '~~/core/ledger/answers'

/** What came first in each case, and whether it was right. */
const props = defineProps<{ firsts: LedgerAnswer['firsts'] }>()
const { to } = useLedgerFilter()
const sum = (of: (one: LedgerAnswer['firsts'][number]) => number) => props.firsts.reduce((so, one) => so + of(one), 0)
const total = computed(() => ({
  first: sum(({ first }) => first),
  worked: sum(({ worked }) => worked),
  asPlanned: sum(({ asPlanned }) => asPlanned),
  expected: sum(({ expected }) => expected),
}))
const isAll = ref(false)
const shown = computed(() => (isAll.value ? props.firsts : props.firsts.slice(0, 6)))
</script>

<template>
  <h2 class="text-[19px]">What came first</h2>
  <p class="text-[15px] text-soft">
    In {{ total.worked }} of {{ countOf(total.first, 'case') }} the first route brought something;
    {{ Math.round(total.expected) }} were expected to. {{ total.asPlanned }} began with the first of the plan.
  </p>
  <table class="list-table mt-1 text-[14.5px]">
    <thead>
      <tr>
        <th scope="col">first route</th>
        <th scope="col">cases</th>
        <th scope="col">was right</th>
        <th scope="col">expected</th>
      </tr>
    </thead>
    <tbody class="figure text-[13px]">
      <tr v-for="one in shown" :key="one.kind">
        <th scope="row" class="font-text text-[14.5px] font-normal">{{ one.title }}</th>
        <td>
          <NuxtLink :to="to('/ledger/runs', { first: '1', kind: one.kind })" class="underline decoration-dotted">
            {{ one.first }}
          </NuxtLink>
        </td>
        <td>{{ one.worked }}, {{ percent(one.worked / one.first) }}</td>
        <td>{{ percent(one.expected / one.first) }}</td>
      </tr>
    </tbody>
  </table>
  <ShowMore v-if="firsts.length > 6" v-model="isAll" :total="firsts.length" />
</template>
