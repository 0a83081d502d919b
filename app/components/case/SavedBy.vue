<script setup lang="ts">
import { wouldHaveSaved } from '~~/core/handover/saved'

/** What would have saved this case, to be said at the return; the report takes it over. */
const store = useOpenCaseStore()
const MOST = 3
const words = computed(() => wouldHaveSaved(store.current).slice(0, MOST))
</script>

<template>
  <section v-if="words.length > 0" aria-label="What would have saved this" data-test="saved-by">
    <h2 class="section-name">What would have saved this</h2>
    <ul class="mt-1 space-y-1.5 text-[14px]">
      <li v-for="sentence in words" :key="sentence">{{ sentence }}</li>
    </ul>
  </section>
</template>
