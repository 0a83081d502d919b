<script setup lang="ts">
import { AfterwardsList } from '~~/core/afterwards/record'
import { PART_WORDS, recordWords, STOP_WORDS, WIPING_MEANS } from '~~/core/afterwards/words'

/** What is wiped next in the whole shop, what asks first, and what was wiped. */
const session = useSessionStore()
const clock = useClockWords()
const answer = shallowRef<AfterwardsList | null>(null)
const trouble = ref<string | null>(null)
async function load(method: 'GET' | 'POST' = 'GET', path = '/api/afterwards') {
  trouble.value = null
  try {
    answer.value = await api(AfterwardsList, method, path)
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
await load()
const trustClock = () => load('POST', '/api/afterwards/clock')
useHead({ title: 'Afterwards' })
</script>

<template>
  <div v-if="trouble" class="p-10"><ErrorNote :words="trouble" @again="load()" /></div>
  <div v-else-if="answer" class="mx-auto max-w-[980px] px-6 py-6">
    <h1 class="text-[26px]">Afterwards</h1>
    <p class="text-soft">What is kept of cases that have ended, until when, and what was wiped.</p>
    <div v-if="answer.clockJumpedFrom" role="alert" class="mt-4 border-l-4 border-russet bg-sheet p-4">
      <p class="font-bold">
        The clock of this machine has jumped ahead from {{ clock.dayOf(answer.clockJumpedFrom) }}.
      </p>
      <p class="mt-1">Nothing is wiped automatically until an owner confirms today’s date.</p>
      <button v-if="session.may('people')" type="button" class="quiet-action mt-2" @click="trustClock">
        The date is right
      </button>
    </div>
    <section aria-labelledby="asks" class="mt-5" data-test="wipe-asks">
      <h2 id="asks" class="text-[19px]">Ask first</h2>
      <ul v-if="answer.asks.length > 0">
        <li v-for="one in answer.asks" :key="one.code + one.part" class="border-t border-line py-2 text-[15px]">
          <NuxtLink :to="`/hand-over/${one.code}`" class="mr-3 underline decoration-dotted">
            <span class="figure text-[14px]">{{ one.code }}</span>
            {{ one.client }}
          </NuxtLink>
          {{ PART_WORDS[one.part] }}, since {{ clock.dayOf(one.at!) }}
          <WipeAsks :asks="one.asks" />
          <p v-if="one.stop" class="text-[14px] text-soft">{{ STOP_WORDS[one.stop] }}</p>
        </li>
      </ul>
      <p v-else class="mt-1 text-soft">Nothing waits for a decision.</p>
    </section>
    <section aria-labelledby="next" class="mt-6">
      <h2 id="next" class="text-[19px]">In the next 30 days</h2>
      <ul v-if="answer.next.length > 0">
        <li v-for="one in answer.next" :key="one.code + one.part" class="border-t border-line py-1.5 text-[15px]">
          <NuxtLink :to="`/hand-over/${one.code}`" class="mr-3 underline decoration-dotted">
            <span class="figure text-[14px]">{{ one.code }}</span>
            {{ one.client }}
          </NuxtLink>
          {{ PART_WORDS[one.part] }}, on {{ clock.dayOf(one.at!) }}
        </li>
      </ul>
      <p v-else class="mt-1 text-soft">Nothing is due.</p>
    </section>
    <section aria-labelledby="wiped" class="mt-6">
      <h2 id="wiped" class="text-[19px]">Wiped</h2>
      <ul v-if="answer.records.length > 0">
        <li v-for="record in answer.records" :key="record.id" class="border-t border-line py-1.5 text-[15px]">
          <span class="figure text-[13px] text-soft">{{ clock.momentOf(record.at) }}</span>
          {{ recordWords(record) }}; in backups until {{ clock.dayOf(record.backupsUntil) }}
        </li>
      </ul>
      <p v-else class="mt-1 text-soft">Nothing was wiped yet.</p>
      <p class="mt-2 text-[14px] text-soft">{{ WIPING_MEANS }}</p>
    </section>
  </div>
</template>
