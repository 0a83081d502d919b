<script setup lang="ts">
import { sliceAt, stretchesOf, type ReachMap } from '~~/core/pictures/reach-map'

/**
 * One row of the reach map: how brightly each slice of the items' time is lit, in one band per wanted set. The picture
 * is for the eye; the same figures are given in words and in the table.
 */
const props = defineProps<{
  map: ReachMap
  /** by band of the map and slice, 0 to 1 */
  lit: readonly (readonly number[])[]
  width: number
  height?: number
  /** a time (ms) whose slice is pointed at, in all rows at once */
  cursor?: number | null
}>()
const emit = defineEmits<{ point: [time: number | null] }>()

/** A row that reaches little is a thin line: the lit ones draw the eye, not the dark ones. */
const LEAST = 0.3
/** A stretch this wide (px) has room for its figure. */
const ROOM_FOR_FIGURE = 34

const scale = computed(() => reachScale(props.map, props.width))
const tall = computed(() => {
  const brightest = Math.max(0, ...props.lit.flat())
  return Math.round((props.height ?? 28) * (LEAST + (1 - LEAST) * Math.sqrt(brightest)))
})
const end = computed(() => (scale.value && props.map.made ? scale.value(props.map.made.to) : props.width))
const bands = computed(() => {
  const gap = 2
  const high = (tall.value - gap * (props.map.bands.length - 1)) / Math.max(1, props.map.bands.length)
  return props.map.bands.map((band, at) => {
    const values = props.lit[at] ?? []
    const x = (index: number) =>
      band.edges && scale.value ? scale.value(band.edges[index]!) : index === 0 ? 0 : end.value
    const stretches = stretchesOf(values).map((stretch) => ({
      ...stretch,
      x: x(stretch.from),
      width: x(stretch.to) - x(stretch.from),
    }))
    const pointed = props.cursor != null && values.length > 0 ? sliceAt(band, props.cursor) : null
    return {
      key: band.wanted,
      y: at * (high + gap),
      high,
      from: x(0),
      to: x(values.length),
      cells: values.map((value, index) => ({ value, x: x(index), width: x(index + 1) - x(index) })),
      figures: high >= 13 ? stretches.filter((one) => one.width > ROOM_FOR_FIGURE && one.value >= 0.005) : [],
      pointed: pointed === null ? null : { x: x(pointed), width: x(pointed + 1) - x(pointed) },
    }
  })
})
/** Between narrow cells a seam would be darker than the light. */
const seam = computed(() => ((bands.value[0]?.cells[0]?.width ?? 0) < 5 ? 0 : 1))
const loss = computed(() => {
  const mark = props.map.marks.find((one) => one.kind === 'loss')
  if (!mark || !scale.value) return null
  const x = scale.value(mark.from)
  return { x, width: Math.max(2, scale.value(mark.to) - x) }
})

function point(event: PointerEvent) {
  if (!scale.value || !props.map.made) return
  const box = (event.currentTarget as SVGElement).getBoundingClientRect()
  emit('point', Math.min(props.map.made.to - 1, scale.value.invert(event.clientX - box.left)))
}
</script>

<template>
  <svg
    v-if="width > 0"
    :width="width"
    :height="tall"
    class="block"
    aria-hidden="true"
    @pointermove="point"
    @pointerleave="emit('point', null)"
  >
    <line v-if="map.made" :x1="end" :x2="width" :y1="tall / 2" :y2="tall / 2" class="after" />
    <rect v-if="loss" :x="loss.x" y="0" :width="loss.width" :height="tall" class="loss" />
    <g v-for="band in bands" :key="band.key" :transform="`translate(0 ${band.y})`">
      <rect :x="band.from" y="0" :width="Math.max(0, band.to - band.from)" :height="band.high" class="ground" />
      <rect
        v-for="(cell, index) in band.cells"
        :key="index"
        :x="cell.x + seam / 2"
        y="1"
        :width="Math.max(0.5, cell.width - seam)"
        :height="Math.max(1, band.high - 2)"
        :fill="reachColour(cell.value)"
        class="cell"
      />
      <text
        v-for="one in band.figures"
        :key="`f${one.from}`"
        :x="one.x + one.width / 2"
        :y="band.high / 2"
        class="figure-in"
        :class="one.value >= 0.5 ? 'on-light' : 'on-dark'"
        :stroke="reachColour(one.value)"
      >
        {{ Math.round(one.value * 100) }}
      </text>
      <rect
        v-if="band.pointed"
        :x="band.pointed.x"
        y="0"
        :width="band.pointed.width"
        :height="band.high"
        class="pointed"
      />
    </g>
  </svg>
</template>

<style scoped>
.ground {
  fill: #302520;
}
.cell {
  transition: fill 0.25s;
}
.after {
  stroke: var(--line);
  stroke-width: 1;
}
.loss {
  fill: var(--russet);
  opacity: 0.22;
}
.figure-in {
  font-family: var(--font-mono);
  font-size: 11px;
  font-weight: 600;
  text-anchor: middle;
  dominant-baseline: central;
  pointer-events: none;
  paint-order: stroke;
  stroke-width: 5px;
  stroke-linejoin: round;
}
.on-light {
  fill: #2a1f1a;
}
.on-dark {
  fill: #ffe9c4;
}
.pointed {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
@media (prefers-reduced-motion: reduce) {
  .cell {
    transition: none;
  }
}
</style>
