<script setup lang="ts">
import { SHEET_SIZES, SheetSize } from '~~/core/playbook/printing'

/** A page to hold a ruler against: whether the printer scales it, and what it cuts off. */
const route = useRoute()
const playbooks = usePlaybookStore()
const trouble = ref<string | null>(null)
async function load() {
  trouble.value = null
  try {
    await playbooks.need()
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
await load()
const on = computed(() => SheetSize.safeParse(route.query.on).data ?? 'label')
const size = computed((): readonly [number, number] => {
  const printing = playbooks.playbook?.shop.printing
  if (on.value !== 'label') return SHEET_SIZES[on.value]
  return [printing?.labelWidth ?? 62, printing?.labelHeight ?? 29]
})
/** The frame keeps this far from the edge, mm. */
const inset = computed(() => (on.value === 'label' ? 2 : 10))
/** As much of a ruler as there is room for, mm. */
const ruler = computed(() => Math.floor((size.value[0] - 4 * inset.value) / 10) * 10)
const ticks = computed(() => Array.from({ length: ruler.value / 5 + 1 }, (_, at) => at * 5))
const isLabel = computed(() => on.value === 'label')
const print = () => window.print()
usePageSize(() => size.value, 0)
useHead({ title: 'Test page' })
</script>

<template>
  <div v-if="trouble" class="p-10"><ErrorNote :words="trouble" @again="load" /></div>
  <div v-else class="px-5 py-4 print:p-0">
    <div class="mb-4 flex flex-wrap items-center gap-3 print:hidden">
      <NuxtLink to="/settings" class="quiet-action">‹ Settings</NuxtLink>
      <button type="button" class="main-action" @click="print">Print</button>
      <span class="max-w-[62ch] text-[14.5px] text-soft">
        The frame has to be complete, and the line {{ ruler }} mm long. If it is not, turn off “fit to page” and headers
        where you print.
      </span>
    </div>
    <h1 class="sr-only">Test page, {{ on }}</h1>
    <svg
      :viewBox="`0 0 ${size[0]} ${size[1]}`"
      :style="{ width: `${size[0]}mm`, height: `${size[1]}mm` }"
      class="block bg-white text-black"
      role="img"
      :aria-label="`A frame ${inset} mm from the edge, and a ruler of ${ruler} mm`"
      data-test="test-page"
    >
      <rect
        :x="inset"
        :y="inset"
        :width="size[0] - 2 * inset"
        :height="size[1] - 2 * inset"
        fill="none"
        stroke="currentColor"
        stroke-width="0.3"
      />
      <g :transform="`translate(${2 * inset} ${isLabel ? size[1] - 8 : 40})`">
        <line x1="0" y1="0" :x2="ruler" y2="0" stroke="currentColor" stroke-width="0.3" />
        <line
          v-for="at in ticks"
          :key="at"
          :x1="at"
          :x2="at"
          y1="0"
          :y2="at % 10 === 0 ? -3 : -1.6"
          stroke="currentColor"
          stroke-width="0.3"
        />
        <text :x="ruler" y="3.6" text-anchor="end" font-size="3.2" fill="currentColor">{{ ruler }} mm</text>
      </g>
      <text :x="2 * inset" :y="isLabel ? inset + 6 : 26" :font-size="isLabel ? 4.4 : 7" fill="currentColor">
        {{ isLabel ? `label ${size[0]} × ${size[1]} mm` : `${on}, ${size[0]} × ${size[1]} mm` }}
      </text>
      <template v-if="!isLabel">
        <text
          v-for="(points, at) in [7, 9, 11, 14]"
          :key="points"
          :x="20"
          :y="60 + at * 9"
          :font-size="points * 0.3528"
          fill="currentColor"
        >
          {{ points }} points: 0 O 1 l I 8 B, as on a receipt
        </text>
        <rect
          v-for="grey in [0, 1, 2, 3, 4]"
          :key="`grey ${grey}`"
          :x="20 + grey * 20"
          y="100"
          width="20"
          height="12"
          :fill="`hsl(0 0% ${grey * 22}%)`"
        />
      </template>
    </svg>
  </div>
</template>
