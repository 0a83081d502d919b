<script setup lang="ts">
import { STATE_WORDS } from '~~/core/cases/telling/words'
import { CasesAnswer } from '~~/core/ledger/answers'
import { CaseFilter, PERIOD_WORDS } from '~~/core/ledger/filter'

/** The cases behind a figure of the ledger. */
const route = useRoute()
const clock = useClockWords()
const filter = computed(() => {
  const read = CaseFilter.safeParse(route.query)
  return read.success ? read.data : CaseFilter.parse({})
})
const answer = shallowRef<CasesAnswer | null>(null)
const trouble = ref<string | null>(null)
async function load() {
  trouble.value = null
  try {
    answer.value = await api(CasesAnswer, 'GET', `/api/ledger/cases?${queryOf(filter.value)}`)
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
await load()
watch(filter, load)
const plain = (hold: string) => hold.replaceAll('-', ' ')
const title = computed(() => {
  const { waived, kept, deadline, state, older, younger } = filter.value
  if (waived) return `Cases in which “${plain(waived)}” was waived`
  if (kept) return `Cases in which “${plain(kept)}” was kept`
  if (deadline)
    return { kept: 'Deadlines that were kept', missed: 'Deadlines that were missed', ahead: 'Deadlines ahead' }[
      deadline
    ]
  const words = state ? (STATE_WORDS as Record<string, string>)[state] : undefined
  const age =
    younger === undefined ? `for over ${older} days` : younger === 1 ? 'today' : `${older} to ${younger} days ago`
  return words ? `Cases ${words}, logged ${age}` : 'Cases'
})
const period = computed(() =>
  filter.value.state !== undefined || filter.value.period === 'days' ? '' : PERIOD_WORDS[filter.value.period],
)
const day = (at: number | null) => (at === null ? '–' : clock.dayOf(at))
useHead({ title: () => title.value })
</script>

<template>
  <div v-if="trouble" class="p-10"><ErrorNote :words="trouble" @again="load" /></div>
  <div v-else-if="answer" class="mx-auto max-w-[1100px] px-6 py-4">
    <NuxtLink to="/ledger" class="text-[14.5px] underline decoration-dotted print:hidden">← Ledger</NuxtLink>
    <h1 class="text-[26px]">{{ title }}</h1>
    <p class="text-soft">{{ countOf(answer.total, 'case') }}{{ period ? `, ${period}` : '' }}</p>
    <table v-if="answer.total > 0" class="list-table mt-3 text-[15px]">
      <thead>
        <tr>
          <th scope="col">case</th>
          <th scope="col">state</th>
          <th scope="col">logged</th>
          <th scope="col">deadline</th>
          <th scope="col">ready</th>
          <th scope="col">brought back</th>
          <th scope="col">waived</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in answer.cases" :key="one.code" data-test="case-line">
          <td>
            <NuxtLink :to="`/cases/${one.code}`" class="figure text-[13px] underline decoration-dotted">
              {{ one.code }}
            </NuxtLink>
          </td>
          <td>{{ STATE_WORDS[one.state] }}</td>
          <td class="figure text-[13px]">{{ day(one.logged) }}</td>
          <td class="figure text-[13px]">{{ day(one.deadline) }}</td>
          <td class="figure text-[13px]">{{ day(one.done) }}</td>
          <td class="figure text-[13px]">{{ one.back === null ? 'not counted' : percent(one.back) }}</td>
          <td>{{ one.waived.map(plain).join(', ') || '–' }}</td>
        </tr>
      </tbody>
    </table>
    <p v-else class="mt-8 text-[17px] text-soft">No case matches this.</p>
    <p v-if="answer.cases.length < answer.total" class="mt-3 text-soft">
      The newest {{ answer.cases.length }} of {{ numberWords(answer.total) }}.
    </p>
  </div>
</template>
