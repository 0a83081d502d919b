<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { scaleLinear } from 'd3-scale'
import { SECTION_PARTS, type MediumShape, type PassShape } from '~~/core/bench/medium'

/**
 * The section of a medium, from its first byte to its last: dark until it is read; below, what is in use; above, in
 * light, where items that match the filter were found; hatched, what cannot be read; the lamp, where it is being read.
 * Brushing a range filters the list by it.
 */
const props = defineProps<{ medium: MediumShape; pass: PassShape | null; found: number[] | null }>()
/** the brushed range, in bytes */
const brushed = defineModel<readonly [from: number, to: number] | null>({ required: true })

const HEIGHT = 112
const FLOOR = 93
const FOUND_FLOOR = 62
const FOUND_HEIGHT = 44
const USED_HEIGHT = 26

const box = useTemplateRef<HTMLElement>('box')
const { width: measured } = useElementSize(box)
const width = computed(() => Math.max(200, measured.value))
const x = computed(() => scaleLinear([0, props.medium.bytes], [0, width.value]).clamp(true))
const partWidth = computed(() => width.value / SECTION_PARTS)

const progress = computed(() => props.pass?.progress ?? null)
const isReading = computed(() => props.pass?.state === 'running' && progress.value?.phase === 'content')
/** how far the content was scanned; all of it once a deep scan has ended */
const readTo = computed(() => {
  if (!props.pass || props.pass.options.pass === 'quick') return 0
  return props.pass.state === 'done' ? props.medium.bytes : (progress.value?.at ?? 0)
})
const used = computed(() =>
  props.medium.inUse.map((part, at) => ({
    x: at * partWidth.value,
    height: (part ?? 0) * USED_HEIGHT,
    isRead: ((at + 0.5) / SECTION_PARTS) * props.medium.bytes <= readTo.value,
  })),
)
const light = computed(() => {
  const most = Math.max(1, ...(props.found ?? []))
  return (props.found ?? []).flatMap((count, at) =>
    count === 0
      ? []
      : [
          {
            x: at * partWidth.value,
            height: 5 + (FOUND_HEIGHT - 5) * Math.sqrt(count / most),
            isMany: count > most / 3,
          },
        ],
  )
})
const dead = computed(() =>
  (progress.value?.unreadable ?? []).map(([offset, length]) => ({
    x: x.value(offset) - 2,
    width: Math.max(5, x.value(offset + length) - x.value(offset) + 4),
  })),
)
const deadWords = computed(() => {
  const sectors = Math.ceil((progress.value?.unreadableBytes ?? 0) / 512)
  if (sectors === 0) return null
  return `${countOf(sectors, 'sector')} unreadable${props.pass?.state === 'done' ? '' : ', retried at the end'}`
})
const boundaries = computed(() =>
  props.medium.volumes.length > 1 ? props.medium.volumes.map(({ offset }) => x.value(offset)) : [],
)
const summary = computed(() => {
  const all = (props.found ?? []).reduce((sum, part) => sum + part, 0)
  return [
    `${sizeWords(props.medium.bytes)} from left to right`,
    `${countOf(all, 'item')} of the list start on it`,
    readTo.value > 0 ? `content scanned up to ${sizeWords(readTo.value)}` : 'content not scanned',
    deadWords.value,
    brushed.value && `only ${sizeWords(brushed.value[0])} to ${sizeWords(brushed.value[1])} is shown in the list`,
  ]
    .filter((one) => one)
    .join('; ')
})

/** Where a brush began, in parts of the section; pointer and keys move the other end. */
const anchor = ref<number | null>(null)
const cursor = ref(0)
const partAt = (event: PointerEvent) => {
  const { left } = box.value!.getBoundingClientRect()
  return Math.max(0, Math.min(SECTION_PARTS - 1, Math.floor((event.clientX - left) / partWidth.value)))
}
const byteOf = (part: number) => Math.round((part * props.medium.bytes) / SECTION_PARTS)
const brush = (from: number, to: number) =>
  (brushed.value = [byteOf(Math.min(from, to)), byteOf(Math.max(from, to) + 1)])

function down(event: PointerEvent) {
  if (event.button !== 0) return
  box.value!.setPointerCapture(event.pointerId)
  anchor.value = partAt(event)
  cursor.value = anchor.value
}
function move(event: PointerEvent) {
  if (anchor.value === null) return
  cursor.value = partAt(event)
  if (cursor.value !== anchor.value) brush(anchor.value, cursor.value)
}
function up() {
  // A click without a drag removes the brush.
  if (anchor.value !== null && anchor.value === cursor.value) brushed.value = null
  anchor.value = null
}
const keyAnchor = ref<number | null>(null)
function keys(event: KeyboardEvent) {
  const by = { ArrowLeft: -1, ArrowRight: 1, PageUp: -10, PageDown: 10, Home: -SECTION_PARTS, End: SECTION_PARTS }[
    event.key
  ]
  if (event.key === 'Escape' && brushed.value) {
    brushed.value = null
    keyAnchor.value = null
    event.stopPropagation()
  }
  if (by === undefined) return
  event.preventDefault()
  if (event.shiftKey) keyAnchor.value ??= cursor.value
  else keyAnchor.value = null
  cursor.value = Math.max(0, Math.min(SECTION_PARTS - 1, cursor.value + by))
  if (keyAnchor.value !== null) brush(keyAnchor.value, cursor.value)
}
const hasFocus = ref(false)
</script>

<template>
  <div class="relative px-5">
    <div
      ref="box"
      role="group"
      tabindex="0"
      class="section"
      :aria-label="`Section of the medium: ${summary}. Arrow keys move; with Shift they select a range; Escape clears it.`"
      data-test="section"
      @pointerdown="down"
      @pointermove="move"
      @pointerup="up"
      @pointercancel="anchor = null"
      @keydown="keys"
      @focus="hasFocus = true"
      @blur="hasFocus = false"
    >
      <svg :width="width" :height="HEIGHT" aria-hidden="true" class="block">
        <defs>
          <pattern id="hatch" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <rect width="5" height="5" fill="#2b211d" />
            <line x1="0" y1="0" x2="0" y2="5" stroke="#d9c9b6" stroke-width="2" />
          </pattern>
          <radialGradient id="lamp">
            <stop offset="0" stop-color="#ffe296" stop-opacity="0.95" />
            <stop offset="0.35" stop-color="#f2ae3d" stop-opacity="0.5" />
            <stop offset="1" stop-color="#f2ae3d" stop-opacity="0" />
          </radialGradient>
        </defs>
        <rect :width="x(readTo)" :height="HEIGHT" fill="#3d2f27" />
        <rect
          v-for="bar in used"
          :key="`used ${bar.x}`"
          :x="bar.x"
          :y="FLOOR - bar.height"
          :width="Math.max(1, partWidth - 0.7)"
          :height="bar.height"
          :fill="bar.isRead ? '#8b6f5d' : '#5d4a3e'"
        />
        <line v-for="at in boundaries" :key="`volume ${at}`" :x1="at" :x2="at" y1="0" :y2="HEIGHT" stroke="#8b6f5d" />
        <circle v-if="isReading" :cx="x(readTo)" :cy="HEIGHT / 2" r="74" fill="url(#lamp)" />
        <rect
          v-for="bar in light"
          :key="`light ${bar.x}`"
          :x="bar.x"
          :y="FOUND_FLOOR - bar.height"
          :width="Math.max(2, partWidth - 0.7)"
          :height="bar.height"
          :fill="bar.isMany ? '#ffe296' : '#e89e38'"
        />
        <rect
          v-for="place in dead"
          :key="`dead ${place.x}`"
          :x="place.x"
          y="16"
          :width="place.width"
          :height="FLOOR - 16"
          fill="url(#hatch)"
        />
        <line v-if="isReading" :x1="x(readTo)" :x2="x(readTo)" y1="0" :y2="HEIGHT" stroke="#fff1c9" stroke-width="2" />
        <template v-if="brushed">
          <rect :width="x(brushed[0])" :height="HEIGHT" fill="#1a120e" fill-opacity="0.62" />
          <rect :x="x(brushed[1])" :width="width - x(brushed[1])" :height="HEIGHT" fill="#1a120e" fill-opacity="0.62" />
          <rect
            :x="x(brushed[0])"
            y="1"
            :width="Math.max(2, x(brushed[1]) - x(brushed[0]))"
            :height="HEIGHT - 2"
            fill="none"
            stroke="#fff1c9"
            stroke-width="1.5"
          />
        </template>
        <line
          v-if="hasFocus"
          :x1="(cursor + 0.5) * partWidth"
          :x2="(cursor + 0.5) * partWidth"
          y1="0"
          :y2="HEIGHT"
          stroke="#fff1c9"
          stroke-dasharray="3 3"
        />
      </svg>
      <span class="note left-2 top-1">{{ found ? 'matching items' : 'not read yet' }}</span>
      <span v-if="deadWords" class="note right-2 top-1">{{ deadWords }}</span>
      <span class="note bottom-0.5 left-2">in use</span>
      <span
        v-if="pass?.options.pass === 'both' && readTo < medium.bytes && x(readTo) < width - 170"
        class="note bottom-0.5 right-2"
      >
        not read yet
      </span>
      <span v-else-if="pass && pass.options.pass === 'quick'" class="note bottom-0.5 right-2">
        records only; content not scanned
      </span>
    </div>
    <button
      v-if="brushed"
      type="button"
      class="absolute right-7 top-[38px] min-h-[26px] bg-[#fff1c9] px-2 text-[13px] text-[#2b211d]"
      @click="brushed = null"
    >
      Clear the range
    </button>
    <ExplainPicture
      picture="the section of the medium"
      words="The medium from its first byte on the left to its last on the right, dark until it is read. Below: what is in use. Above, in light: where items that match the sentence were found. Hatched: what cannot be read. Drag across it to see only what lies there."
    />
  </div>
</template>

<style scoped>
.section {
  position: relative;
  overflow: hidden;
  background: #2b211d;
  cursor: crosshair;
  touch-action: pan-y;
  user-select: none;
}
.section:focus-visible {
  outline: 2px solid var(--russet);
  outline-offset: -2px;
}
.note {
  position: absolute;
  padding: 0 3px;
  font-size: 12.5px;
  color: #f0e2cf;
  background: rgb(43 33 29 / 72%);
  pointer-events: none;
}
</style>
