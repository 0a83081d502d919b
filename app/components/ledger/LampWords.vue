<script setup lang="ts">
import type { LedgerAnswer } from '~~/core/ledger/answers'

/** Whether the shop kept its word, in a sentence for each lamp that did not; and the same figures as a table. */
const props = defineProps<{ lamps: LedgerAnswer['lamps'] }>()
const { to } = useLedgerFilter()
const lit = computed(() => props.lamps.filter(({ count }) => count > 0))
const outside = computed(() => lit.value.filter(({ isKept }) => !isKept))
const headline = computed(() => {
  const kept = lit.value.length - outside.value.length
  if (outside.value.length === 0) return lit.value.length === 1 ? 'It kept its word.' : 'All kept their word.'
  return `${kept} of ${lit.value.length} kept their word.`
})
</script>

<template>
  <p class="text-[15px]">
    <strong class="text-held">{{ headline }}</strong>
    <template v-for="lamp in outside" :key="lamp.tenth">
      Where we said about {{ percent(lamp.predicted) }}, {{ percent(lamp.actual) }} came
      <template v-if="lamp.mostly">
        : mostly
        <NuxtLink :to="to('/ledger/runs', { tenth: lamp.tenth, kind: lamp.mostly.kind })" class="underline">
          {{ lamp.mostly.title }}
        </NuxtLink>
      </template>
      .
    </template>
  </p>
  <details class="mt-1 text-[14px]">
    <summary class="min-h-[24px] cursor-pointer text-soft">As a table</summary>
    <table class="list-table mt-1">
      <thead>
        <tr>
          <th scope="col">promised</th>
          <th scope="col">runs</th>
          <th scope="col">said</th>
          <th scope="col">came</th>
          <th scope="col">by chance alone</th>
          <th scope="col">word</th>
        </tr>
      </thead>
      <tbody class="figure text-[13px]">
        <tr v-for="lamp in lit" :key="lamp.tenth">
          <th scope="row">{{ lamp.tenth * 10 }}–{{ lamp.tenth * 10 + 10 }}%</th>
          <td>
            <NuxtLink :to="to('/ledger/runs', { tenth: lamp.tenth })" class="underline decoration-dotted">
              {{ lamp.count }}
            </NuxtLink>
          </td>
          <td>{{ percent(lamp.predicted) }}</td>
          <td>{{ percent(lamp.actual) }}</td>
          <td>{{ percent(lamp.bracket[0]) }} to {{ percent(lamp.bracket[1]) }}</td>
          <td>{{ lamp.isKept ? 'kept' : 'not kept' }}</td>
        </tr>
      </tbody>
    </table>
  </details>
</template>
