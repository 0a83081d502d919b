<script setup lang="ts">
import { scaleLinear } from 'd3-scale'

/** The course of one kind’s odds over a period, small; every line has the same scale, from 0 to 100 %. */
const props = defineProps<{
  course: readonly (readonly [at: number, odds: number])[]
  from: number
  to: number
  hasDrifted: boolean
}>()
const [WIDTH, HEIGHT] = [104, 30]
const path = computed(() => {
  const x = scaleLinear([props.from, props.to], [1, WIDTH - 1]).clamp(true)
  const y = scaleLinear([0, 1], [HEIGHT - 2, 2])
  return props.course.map(([at, odds], index) => `${index === 0 ? 'M' : 'L'}${x(at)} ${y(odds)}`).join('')
})
</script>

<template>
  <svg :width="WIDTH" :height="HEIGHT" aria-hidden="true" class="block">
    <line x1="0" :x2="WIDTH" y1="2" y2="2" stroke="var(--line)" />
    <line x1="0" :x2="WIDTH" :y1="HEIGHT - 2" :y2="HEIGHT - 2" stroke="var(--line)" />
    <path
      v-if="course.length > 1"
      :d="path"
      fill="none"
      :stroke="hasDrifted ? 'var(--russet)' : 'var(--soft)'"
      stroke-width="2"
    />
  </svg>
</template>
