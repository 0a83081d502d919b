<script setup lang="ts">
import { STATE_WORDS } from '~~/core/cases/telling/words'
import { AGE_BOUNDS, type LedgerAnswer } from '~~/core/ledger/answers'

/** Figures of cases: what was waived, deadlines, and how old the open ones are. */
const props = defineProps<{ ledger: LedgerAnswer }>()
const { filter } = useLedgerFilter()
const period = computed(() => ({ period: filter.value.period, from: filter.value.from, to: filter.value.to }))
const to = (more: Record<string, string | number | undefined>) => ({
  path: '/ledger/cases',
  query: Object.fromEntries(queryOf({ ...period.value, ...more })),
})
const share = (back: number | null) => (back === null ? 'not counted' : percent(back))
const ages = AGE_BOUNDS.map((bound, at) => {
  const next = AGE_BOUNDS[at + 1]
  return {
    bound,
    next,
    words: next === undefined ? `over ${bound} days` : next === 1 ? 'today' : `${bound} to ${next} days`,
  }
})
const deadlines = computed(() => props.ledger.deadlines)
</script>

<template>
  <section aria-labelledby="waived">
    <h2 id="waived" class="text-[19px]">Holds that were waived</h2>
    <p v-if="ledger.holds.length === 0" class="text-[15px] text-soft">No hold was waived in a case that has ended.</p>
    <table v-else class="list-table mt-1 text-[14.5px]">
      <thead>
        <tr>
          <th scope="col">hold</th>
          <th scope="col">waived in</th>
          <th scope="col">brought back</th>
          <th scope="col">kept in</th>
          <th scope="col">brought back</th>
        </tr>
      </thead>
      <tbody class="figure text-[13px]">
        <tr v-for="one in ledger.holds" :key="one.hold">
          <th scope="row" class="font-text text-[14.5px] font-normal">{{ one.hold.replaceAll('-', ' ') }}</th>
          <td>
            <NuxtLink :to="to({ waived: one.hold })" class="underline decoration-dotted">
              {{ countOf(one.waived, 'case') }}
            </NuxtLink>
          </td>
          <td>{{ share(one.waivedBack) }}</td>
          <td>
            <NuxtLink v-if="one.kept > 0" :to="to({ kept: one.hold })" class="underline decoration-dotted">
              {{ countOf(one.kept, 'case') }}
            </NuxtLink>
            <template v-else>none</template>
          </td>
          <td>{{ share(one.keptBack) }}</td>
        </tr>
      </tbody>
    </table>
  </section>
  <section aria-labelledby="deadlines" class="mt-5">
    <h2 id="deadlines" class="text-[19px]">Deadlines of clients</h2>
    <p class="text-[15px]" data-test="deadlines">
      <template v-for="which in ['kept', 'missed', 'ahead'] as const" :key="which">
        <NuxtLink v-if="deadlines[which] > 0" :to="to({ deadline: which })" class="mr-4 underline decoration-dotted">
          {{ deadlines[which] }} {{ which }}
        </NuxtLink>
        <span v-else class="mr-4 text-soft">none {{ which }}</span>
      </template>
    </p>
  </section>
  <section aria-labelledby="open" class="mt-5">
    <h2 id="open" class="text-[19px]">Open cases by age</h2>
    <p v-if="ledger.open.length === 0" class="text-[15px] text-soft">No case is open.</p>
    <table v-else class="list-table mt-1 text-[14.5px]">
      <thead>
        <tr>
          <th scope="col">state</th>
          <th v-for="age in ages" :key="age.bound" scope="col" class="font-normal">{{ age.words }}</th>
        </tr>
      </thead>
      <tbody class="figure text-[13px]">
        <tr v-for="line in ledger.open" :key="line.state">
          <th scope="row" class="font-text text-[14.5px] font-normal">{{ STATE_WORDS[line.state] }}</th>
          <td v-for="(age, at) in ages" :key="age.bound">
            <NuxtLink
              v-if="line.ages[at]! > 0"
              :to="to({ state: line.state, older: age.bound, younger: age.next })"
              class="underline decoration-dotted"
            >
              {{ line.ages[at] }}
            </NuxtLink>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>
