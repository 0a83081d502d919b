<script setup lang="ts">
import { LearnedAnswer } from '~~/core/ledger/answers'
import { FAMILIES } from '~~/core/playbook/kinds/route-kind'
import { FAMILY_WORDS } from '~~/core/playbook/family-words'

/** What the shop's runs have taught about every kind of route. */
const answer = shallowRef<LearnedAnswer | null>(null)
const trouble = ref<string | null>(null)
async function load() {
  trouble.value = null
  try {
    answer.value = await api(LearnedAnswer, 'GET', '/api/ledger/kinds')
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
await load()
const groups = computed(() =>
  FAMILIES.map((family) => ({
    family,
    kinds: (answer.value ?? []).filter((one) => one.family === family),
  })).filter(({ kinds }) => kinds.length > 0),
)
useHead({ title: 'Odds' })
</script>

<template>
  <div v-if="trouble" class="p-10"><ErrorNote :words="trouble" @again="load" /></div>
  <div v-else-if="answer" class="mx-auto max-w-[1100px] px-6 py-4">
    <NuxtLink to="/ledger" class="text-[14.5px] underline decoration-dotted print:hidden">← Ledger</NuxtLink>
    <h1 class="text-[26px]">What the odds have learned</h1>
    <p class="max-w-[74ch] text-soft">
      How likely each kind of route works when everything is in place, over all devices. The ring is what the playbook
      assumed; the bar is what your runs made of it, with its range four times out of five.
    </p>
    <table class="list-table mt-4 text-[14.5px]">
      <thead>
        <tr>
          <th scope="col">route</th>
          <th scope="col">playbook says</th>
          <th scope="col">your runs</th>
          <th scope="col">odds now</th>
          <th scope="col"><span class="sr-only">as a picture</span></th>
          <th scope="col">if the next works</th>
          <th scope="col">if it does not</th>
        </tr>
      </thead>
      <tbody v-for="group in groups" :key="group.family">
        <tr>
          <th colspan="7" scope="rowgroup" class="section-name pt-4">{{ FAMILY_WORDS[group.family] }}</th>
        </tr>
        <tr v-for="one in group.kinds" :key="one.kind" data-test="odds-line">
          <th scope="row" class="pr-3 font-normal">
            <NuxtLink :to="`/ledger/kinds/${one.kind}`" class="underline decoration-dotted">{{ one.title }}</NuxtLink>
            <span v-if="one.drift" class="ml-2 text-russet-ink">▲ drifted</span>
          </th>
          <td class="figure whitespace-nowrap text-[13px]">
            {{ percent(one.prior[1]) }}
            <span class="text-soft">{{ countOf(one.priorWeight, 'run') }}</span>
          </td>
          <td class="figure whitespace-nowrap text-[13px]">
            {{ one.runs === 0 ? 'none' : `${runsWords(one.came)} of ${one.runs}` }}
          </td>
          <td class="figure whitespace-nowrap text-[13px]">
            {{ percent(one.odds[1]) }}
            <span class="text-soft">{{ oddsRangeWords(one.odds) }}</span>
          </td>
          <td class="pr-5"><OddsRange :odds="one.odds" :before="one.prior[1]" /></td>
          <td class="figure whitespace-nowrap text-[13px]">{{ percent(one.next[0]) }}</td>
          <td class="figure whitespace-nowrap text-[13px]">{{ percent(one.next[1]) }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
