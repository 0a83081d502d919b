<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { scaleLinear } from 'd3-scale'
import type { LedgerAnswer } from '~~/core/ledger/answers'

/**
 * Ten lamps, one for each tenth of what was promised, each with the bracket in which chance alone would put it. A lamp inside
 * its bracket kept its word; one outside stands hollow.
 */
const props = defineProps<{ lamps: LedgerAnswer['lamps'] }>()
const { to } = useLedgerFilter()

const [HEIGHT, TOP, FLOOR, LEFT] = [312, 14, 272, 44]
const box = useTemplateRef<HTMLElement>('box')
const { width: measured } = useElementSize(box)
const width = computed(() => Math.max(320, measured.value))
const y = scaleLinear([0, 1], [FLOOR, TOP])
const step = computed(() => (width.value - LEFT - 8) / 10)
const lamps = computed(() =>
  props.lamps.map((lamp) => ({
    ...lamp,
    x: LEFT + (lamp.tenth + 0.5) * step.value,
    y: y(lamp.actual),
    radius: 5 + Math.min(9, Math.sqrt(lamp.count) / 2),
    low: y(lamp.bracket[0]),
    high: y(lamp.bracket[1]),
    range: `${lamp.tenth * 10}–${lamp.tenth * 10 + 10}`,
    // Narrow, only where each begins.
    label: step.value < 46 ? `${lamp.tenth * 10}` : `${lamp.tenth * 10}–${lamp.tenth * 10 + 10}`,
    says: says(lamp),
  })),
)
function says(lamp: LedgerAnswer['lamps'][number]): string {
  if (lamp.count === 0) return 'no runs'
  const [low, high] = lamp.bracket
  return `${countOf(lamp.count, 'run')}: promised ${percent(lamp.predicted)}, ${percent(lamp.actual)} came; chance alone puts it between ${percent(low)} and ${percent(high)}, ${lamp.isKept ? 'so it kept its word' : 'so it did not keep its word'}`
}
const open = (tenth: number) => navigateTo(to('/ledger/runs', { tenth }))
</script>

<template>
  <div ref="box">
    <svg :width="width" :height="HEIGHT" class="block" role="group" aria-label="Promised against what came">
      <g aria-hidden="true">
        <PercentAxis :left="LEFT" :width="width" :y="y" />
        <text
          v-for="lamp in lamps"
          :key="lamp.tenth"
          :x="lamp.x"
          :y="FLOOR + 20"
          text-anchor="middle"
          class="chart-text"
        >
          {{ lamp.label }}
        </text>
        <text
          v-for="lamp in lamps"
          :key="lamp.tenth"
          :x="lamp.x"
          :y="FLOOR + 36"
          text-anchor="middle"
          class="chart-text"
          fill-opacity="0.75"
        >
          {{ lamp.count }}
        </text>
      </g>
      <a
        v-for="lamp in lamps.filter(({ count }) => count > 0)"
        :key="lamp.tenth"
        :href="`/ledger/runs?tenth=${lamp.tenth}`"
        :aria-label="`Promised ${lamp.range}%: ${lamp.says}. Open these runs`"
        data-test="lamp"
        @click.prevent="open(lamp.tenth)"
      >
        <title>{{ lamp.says }}</title>
        <rect :x="lamp.x - step / 2" :y="TOP" :width="step" :height="FLOOR - TOP" fill="transparent" />
        <g stroke="var(--soft)" stroke-width="1.5">
          <line :x1="lamp.x" :x2="lamp.x" :y1="lamp.low" :y2="lamp.high" />
          <line :x1="lamp.x - 11" :x2="lamp.x + 11" :y1="lamp.low" :y2="lamp.low" />
          <line :x1="lamp.x - 11" :x2="lamp.x + 11" :y1="lamp.high" :y2="lamp.high" />
        </g>
        <circle
          :cx="lamp.x"
          :cy="lamp.y"
          :r="lamp.radius"
          :fill="lamp.isKept ? 'var(--held)' : 'var(--paper)'"
          :stroke="lamp.isKept ? 'var(--paper)' : 'var(--russet)'"
          :stroke-width="lamp.isKept ? 1.5 : 3"
        />
      </a>
    </svg>
  </div>
</template>
