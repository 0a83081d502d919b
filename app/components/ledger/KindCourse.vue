<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { scaleLinear } from 'd3-scale'
import { timeWords } from '~~/core/local/dates'
import type { KindAnswer } from '~~/core/ledger/answers'

/** The course of one kind’s odds with its range, and its runs as they came in. */
const props = defineProps<{ kind: KindAnswer }>()
const session = useSessionStore()
const [HEIGHT, TOP, FLOOR, LEFT] = [290, 22, 240, 44]
const box = useTemplateRef<HTMLElement>('box')
const { width: measured } = useElementSize(box)
const width = computed(() => Math.max(320, measured.value))
const span = computed(() => {
  const { course } = props.kind
  const [first, last] = [course[0]?.at ?? 0, course.at(-1)?.at ?? 1]
  return first === last ? [first - 86_400_000, last + 86_400_000] : [first, last]
})
const x = computed(() => scaleLinear(span.value, [LEFT + 6, width.value - 8]))
const y = scaleLinear([0, 1], [FLOOR, TOP])
const line = computed(() =>
  props.kind.course.map(({ at, odds }, index) => `${index === 0 ? 'M' : 'L'}${x.value(at)} ${y(odds[1])}`).join(''),
)
const area = computed(() => {
  const { course } = props.kind
  const upper = course.map(({ at, odds }) => `${x.value(at)} ${y(odds[2])}`)
  const lower = course.map(({ at, odds }) => `${x.value(at)} ${y(odds[0])}`).reverse()
  return `M${[...upper, ...lower].join('L')}Z`
})
const ticks = computed(() =>
  x.value
    .ticks(6)
    .filter((at) => x.value(at) < width.value - 30)
    .map((at) => ({ at, words: timeWords(at, session.shop.zone, 'd MMM') })),
)
const drift = computed(() => props.kind.drift)
</script>

<template>
  <div ref="box">
    <svg
      :width="width"
      :height="HEIGHT"
      class="block"
      role="img"
      aria-label="Course of the odds; the same as a list below"
    >
      <PercentAxis :left="LEFT" :width="width" :y="y" />
      <text
        v-for="tick in ticks"
        :key="tick.at"
        :x="x(tick.at)"
        :y="FLOOR + 40"
        text-anchor="middle"
        class="chart-text"
      >
        {{ tick.words }}
      </text>
      <rect
        v-if="drift"
        :x="x(drift.since)"
        :y="TOP - 12"
        :width="Math.max(2, width - 8 - x(drift.since))"
        :height="FLOOR - TOP + 30"
        fill="var(--chosen)"
      />
      <text v-if="drift" :x="x(drift.since) + 4" :y="FLOOR - 8" class="chart-text">drifted since</text>
      <path v-if="kind.course.length > 1" :d="area" fill="var(--held)" opacity="0.16" />
      <path :d="line" fill="none" stroke="var(--held)" stroke-width="2.5" />
      <line
        :x1="LEFT"
        :x2="width"
        :y1="y(kind.prior[1])"
        :y2="y(kind.prior[1])"
        stroke="var(--soft)"
        stroke-dasharray="3 4"
      />
      <circle
        v-for="(point, at) in kind.course"
        :key="at"
        :cx="x(point.at)"
        :cy="y(point.came)"
        r="3.5"
        :fill="point.came > 0 ? 'var(--ink)' : 'var(--paper)'"
        stroke="var(--ink)"
        stroke-width="1.5"
      />
    </svg>
    <p class="text-[14px] text-soft">
      Each dot is a run, as high as the share of what was in reach that it brought; hollow ones brought nothing. The
      dashed line is what the playbook assumed; the band holds the true odds four times out of five.
    </p>
  </div>
</template>
