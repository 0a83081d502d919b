<script setup lang="ts">
import { KindAnswer } from '~~/core/ledger/answers'
import { FAMILY_WORDS } from '~~/core/playbook/family-words'

/** What the odds of one kind of route have learned, run by run. */
const route = useRoute()
const clock = useClockWords()
const kind = shallowRef<KindAnswer | null>(null)
const trouble = ref<string | null>(null)
async function load() {
  trouble.value = null
  try {
    kind.value = await api(KindAnswer, 'GET', `/api/ledger/kinds/${encodeURIComponent(String(route.params.kind))}`)
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
await load()
const family = computed(() => (FAMILY_WORDS as Record<string, string>)[kind.value?.family ?? ''] ?? '')
const newest = computed(() => [...(kind.value?.course ?? [])].reverse().slice(0, 200))
useHead({ title: () => kind.value?.title ?? 'Odds' })
</script>

<template>
  <div v-if="trouble" class="p-10"><ErrorNote :words="trouble" @again="load" /></div>
  <div v-else-if="kind" class="mx-auto max-w-[1100px] px-6 py-4">
    <NuxtLink to="/ledger/odds" class="text-[14.5px] underline decoration-dotted print:hidden">← All odds</NuxtLink>
    <h1 class="text-[26px]">{{ kind.title }}</h1>
    <p class="text-soft">{{ family }}</p>
    <p v-if="kind.drift" role="status" class="mt-3 border-l-4 border-russet bg-sheet p-3 text-[15.5px]">
      <strong>Recent runs disagree with the odds.</strong>
      The last {{ countOf(kind.drift.runs, 'run') }}, since {{ clock.dayOf(kind.drift.since) }}, brought
      {{ runsWords(kind.drift.came) }}; the odds before them promised {{ runsWords(kind.drift.expected) }}. Ask what
      changed: a device, an update, a way of working. Runs on the wrong device can be
      <NuxtLink :to="`/ledger/runs?kind=${kind.kind}&since=${kind.drift.since}`" class="underline">left out</NuxtLink>
      .
    </p>
    <dl class="mt-4 grid max-w-[860px] grid-cols-2 gap-x-8 gap-y-3 md:grid-cols-4" data-test="learned">
      <div>
        <dt class="text-[14px] text-soft">The playbook assumed</dt>
        <dd class="text-[19px]">{{ percent(kind.prior[1]) }}</dd>
        <dd class="text-[14px] text-soft">
          {{ oddsRangeWords(kind.prior) }}, worth {{ countOf(kind.priorWeight, 'run') }}
        </dd>
      </div>
      <div>
        <dt class="text-[14px] text-soft">Your runs</dt>
        <dd class="text-[19px]">{{ kind.runs === 0 ? 'none yet' : `${runsWords(kind.came)} of ${kind.runs}` }}</dd>
        <dd class="text-[14px] text-soft">
          <NuxtLink :to="`/ledger/runs?kind=${kind.kind}&period=all`" class="underline decoration-dotted">
            See the runs
          </NuxtLink>
        </dd>
      </div>
      <div>
        <dt class="text-[14px] text-soft">Odds now</dt>
        <dd class="text-[19px] font-bold">{{ percent(kind.odds[1]) }}</dd>
        <dd class="text-[14px] text-soft">{{ oddsRangeWords(kind.odds) }}</dd>
      </div>
      <div>
        <dt class="text-[14px] text-soft">The next run makes it</dt>
        <dd class="text-[19px]">{{ percent(kind.next[0]) }} or {{ percent(kind.next[1]) }}</dd>
        <dd class="text-[14px] text-soft">if it works, if it does not</dd>
      </div>
    </dl>
    <p class="mt-3 max-w-[74ch] text-[15px] text-soft">The playbook’s reason: {{ kind.note }}</p>
    <section v-if="kind.runs > 0" aria-labelledby="course" class="mt-4">
      <h2 id="course" class="text-[19px]">The course of the odds</h2>
      <KindCourse :kind="kind" />
      <details class="mt-2 text-[14.5px]">
        <summary class="min-h-[24px] cursor-pointer text-soft">As a list, newest first</summary>
        <table class="list-table mt-1 max-w-[620px]">
          <thead>
            <tr>
              <th scope="col">ended</th>
              <th scope="col">came</th>
              <th scope="col">odds after it</th>
            </tr>
          </thead>
          <tbody class="figure text-[13px]">
            <tr v-for="(point, at) in newest" :key="at">
              <td>{{ clock.dayOf(point.at) }}</td>
              <td>{{ point.came === 0 ? 'nothing' : percent(point.came) }}</td>
              <td>{{ percent(point.odds[1]) }}, {{ oddsRangeWords(point.odds) }}</td>
            </tr>
          </tbody>
        </table>
      </details>
    </section>
    <p v-else class="mt-6 text-soft">No run of this kind has counted yet, so that the playbook’s figure stands.</p>
  </div>
</template>
