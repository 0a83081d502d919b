<script setup lang="ts">
import type { RouteLine } from '~~/core/ledger/answers'

/** Routes by what they brought for what they cost, with their odds of today and the course of those. */
const props = defineProps<{ routes: readonly RouteLine[]; from: number; to: number }>()
const { to: address } = useLedgerFilter()
const money = useMoney()
const SHOWN = 8
const isAll = ref(false)
const shown = computed(() => (isAll.value ? props.routes : props.routes.slice(0, SHOWN)))
const drifted = computed(() => props.routes.filter(({ drift }) => drift !== null))

function perSuccess({ tally }: RouteLine): string {
  if (tally.worked === 0) return 'none worked'
  const spent = tally.spent / tally.worked
  return `${minutesWords(tally.handsOn / tally.worked)}${spent >= 0.5 ? ` · ${money(spent)}` : ''}`
}
const runsSince = ({ key, drift }: RouteLine) => address('/ledger/runs', { kind: key, since: drift?.since })
</script>

<template>
  <table class="list-table min-w-[560px] text-[15px]">
    <thead>
      <tr>
        <th scope="col">route</th>
        <th scope="col" class="w-[52px]">runs</th>
        <th scope="col" class="w-[96px]">worked, share</th>
        <th scope="col" class="w-[104px]">odds now</th>
        <th scope="col" class="w-[112px]">per success</th>
        <th scope="col" class="w-[112px]">0 to 100%</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="route in shown" :key="route.key" data-test="ledger-route">
        <th scope="row" class="pr-3 font-head font-semibold leading-tight">
          <NuxtLink v-if="route.odds" :to="`/ledger/kinds/${route.key}`">{{ route.title }}</NuxtLink>
          <span v-else>{{ route.title }}</span>
        </th>
        <td class="figure text-[13px]">
          <NuxtLink :to="address('/ledger/runs', { kind: route.key })" class="underline decoration-dotted">
            {{ route.tally.runs }}
          </NuxtLink>
        </td>
        <td class="figure text-[13px]">
          <NuxtLink
            v-if="route.tally.worked > 0"
            :to="address('/ledger/runs', { kind: route.key, end: 'worked' })"
            class="underline decoration-dotted"
          >
            {{ route.tally.worked }}
          </NuxtLink>
          <template v-else>0</template>
          <span v-if="route.tally.decided > 0" class="ml-1.5 text-soft">
            {{ percent(route.tally.came / route.tally.decided) }}
          </span>
        </td>
        <td class="figure text-[13px]">
          <template v-if="route.odds">
            {{ percent(route.odds[1]) }}
            <span class="text-soft">{{ oddsRangeWords(route.odds) }}</span>
          </template>
        </td>
        <td class="figure text-[13px]">{{ perSuccess(route) }}</td>
        <td><CourseLine :course="route.course" :from="from" :to="to" :has-drifted="route.drift !== null" /></td>
      </tr>
    </tbody>
  </table>
  <ShowMore v-if="routes.length > SHOWN" v-model="isAll" :total="routes.length" what="routes" />
  <ul class="mt-2 space-y-1 text-[15px]" data-test="drifted">
    <li v-for="route in drifted" :key="route.key">
      <strong class="text-russet-ink">▲ Drifted:</strong>
      {{ route.title }} brought {{ route.drift!.came < route.drift!.expected ? 'less' : 'more' }} in the last
      {{ countOf(route.drift!.runs, 'run') }} than the odds say ({{ runsWords(route.drift!.came) }} for
      {{ runsWords(route.drift!.expected) }}).
      <NuxtLink :to="runsSince(route)" class="underline">See the runs</NuxtLink>
      ·
      <NuxtLink :to="`/ledger/kinds/${route.key}`" class="underline">what the odds learned</NuxtLink>
    </li>
  </ul>
</template>
