<script setup lang="ts">
import { toString as qrSvg } from 'qrcode'
import { heldFor } from '~~/core/cases/shape/custody'

/** Tags for the things of a case at the width of a label: what it is, and a code that opens the case after signing in. */
const route = useRoute()
const store = useOpenCaseStore()
const playbooks = usePlaybookStore()
const code = String(route.params.code)
const trouble = ref<string | null>(null)
const picture = ref('')
async function load() {
  trouble.value = null
  try {
    await Promise.all([store.open(code), playbooks.need()])
    const svg = await qrSvg(`${location.origin}/cases/${encodeURIComponent(code)}`, { type: 'svg', margin: 0 })
    picture.value = `data:image/svg+xml,${encodeURIComponent(svg)}`
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
await load()
const clock = useClockWords()
const things = computed(() => heldFor(store.asItIs.things))
/** mm */
const label = computed((): readonly [number, number] => {
  const printing = playbooks.playbook?.shop.printing
  return [printing?.labelWidth ?? 62, printing?.labelHeight ?? 29]
})
const square = computed(() => Math.min(label.value[1] - 8, label.value[0] * 0.36))
usePageSize(() => label.value, 0)
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
    <div
      v-for="thing in things"
      :key="thing.id"
      class="tag"
      :style="{ width: `${label[0]}mm`, height: `${label[1] - 2}mm` }"
      data-test="tag-label"
    >
      <img :src="picture" alt="" class="shrink-0" :style="{ width: `${square}mm`, height: `${square}mm` }" />
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
