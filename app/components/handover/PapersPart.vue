<script setup lang="ts">
import type { PaperKind } from '~~/core/handover/paper'

/** The sheets of the case: printed, as PDF, and made anew. */
const store = useOpenCaseStore()
const session = useSessionStore()
const shop = useHandoverStore()
const clock = useClockWords()
const WORDS: Record<PaperKind, string> = {
  received: 'receipt, handed in',
  returned: 'receipt, given back',
  options: 'what can be tried',
  paid: 'receipt, money',
  report: 'report',
  annex: 'report with annex',
}
async function make(kind: 'options' | 'report' | 'annex') {
  const id = await shop.make(kind)
  if (id !== null) await navigateTo(`/print/${store.code}/${id}`)
}
</script>

<template>
  <section aria-labelledby="papers" data-test="papers">
    <h2 id="papers" class="text-[19px]">Sheets</h2>
    <ul
      v-if="shop.answer && shop.answer.papers.length > 0"
      class="mt-1 max-h-[190px] overflow-y-auto"
      tabindex="0"
      aria-label="Sheets that were made"
    >
      <li
        v-for="paper in shop.answer.papers"
        :key="paper.id"
        class="flex items-baseline gap-3 border-t border-line py-1 text-[14.5px]"
      >
        <NuxtLink :to="`/print/${store.code}/${paper.id}`" class="min-w-0 flex-1 truncate underline decoration-dotted">
          {{ WORDS[paper.kind] }}
          <span class="figure text-[13px]">{{ paper.number }}</span>
        </NuxtLink>
        <span class="text-[13px] text-soft">{{ clock.momentOf(paper.at) }}</span>
        <a
          :href="shop.path(`/papers/${paper.id}/pdf`)"
          download
          class="text-[13.5px] text-russet-ink underline decoration-dotted"
          :aria-label="`${paper.number} as PDF`"
        >
          PDF
        </a>
      </li>
    </ul>
    <p v-else class="mt-1 text-[14.5px] text-soft">Receipts appear here by themselves.</p>
    <div class="mt-2 flex flex-wrap gap-2">
      <button
        type="button"
        class="quiet-action"
        :disabled="shop.isBusy"
        data-test="make-options"
        @click="make('options')"
      >
        Options sheet
      </button>
      <button
        type="button"
        class="quiet-action"
        :disabled="shop.isBusy"
        data-test="make-report"
        @click="make('report')"
      >
        Report
      </button>
      <button
        v-if="session.may('work')"
        type="button"
        class="quiet-action"
        :disabled="shop.isBusy"
        data-test="make-annex"
        @click="make('annex')"
      >
        Report with annex
      </button>
    </div>
  </section>
</template>
