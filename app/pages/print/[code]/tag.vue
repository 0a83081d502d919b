<script setup lang="ts">
import { toString as qrSvg } from 'qrcode'
import { heldFor } from '~~/core/cases/shape/custody'

/** Tags for the things of a case at the width of a label: what it is, and a code that opens the case after signing in. */
const route = useRoute()
const store = useOpenCaseStore()
const code = String(route.params.code)
const trouble = ref<string | null>(null)
const picture = ref('')
async function load() {
  trouble.value = null
  try {
    await store.open(code)
    const svg = await qrSvg(`${location.origin}/cases/${encodeURIComponent(code)}`, { type: 'svg', margin: 0 })
    picture.value = `data:image/svg+xml,${encodeURIComponent(svg)}`
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
await load()
const clock = useClockWords()
const things = computed(() => heldFor(store.asItIs.things))
const print = () => window.print()
useHead({ title: `Tag ${code}` })
</script>

<template>
  <div v-if="trouble" class="p-10"><ErrorNote :words="trouble" @again="load" /></div>
  <div v-else class="px-5 py-4 print:p-0">
    <div class="mb-4 flex gap-3 print:hidden">
      <NuxtLink :to="`/hand-over/${code}`" class="quiet-action">‹ {{ code }}</NuxtLink>
      <button type="button" class="main-action" @click="print">Print</button>
    </div>
    <h1 class="sr-only">Tags of {{ code }}</h1>
    <p v-if="things.length === 0" class="text-soft">Nothing of this case is in the shop.</p>
    <div v-for="thing in things" :key="thing.id" class="tag" data-test="tag-label">
      <img :src="picture" alt="" class="h-[21mm] w-[21mm] shrink-0" />
      <div class="min-w-0">
        <p class="figure text-[15pt] font-bold leading-none">{{ code }}</p>
        <p class="mt-1 line-clamp-2 text-[9pt] leading-tight">{{ thing.words }}</p>
        <p v-if="thing.serial" class="figure text-[7.5pt] leading-tight">{{ thing.serial }}</p>
        <p class="text-[7.5pt] leading-tight">
          {{ clock.dayOf(thing.steps[0]!.at) }} · {{ things.indexOf(thing) + 1 }} of {{ things.length }}
        </p>
      </div>
    </div>
  </div>
</template>

<style scoped>
.tag {
  display: flex;
  gap: 3mm;
  align-items: center;
  width: 62mm;
  height: 27mm;
  padding: 2mm;
  margin-bottom: 4mm;
  background: #fff;
  color: #000;
  border: 1px dashed #999;
  overflow: hidden;
}
@media print {
  .tag {
    border: 0;
    margin: 0;
  }
  .tag + .tag {
    break-before: page;
  }
}
</style>

<style>
@page tag {
  size: 62mm 29mm;
  margin: 0;
}
@media print {
  .tag {
    page: tag;
  }
}
</style>
