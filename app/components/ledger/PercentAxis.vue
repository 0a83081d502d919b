<script setup lang="ts">
/** Lines at 0, 50 and 100 % across a picture, with their figures on the left. */
defineProps<{ left: number; width: number; y: (share: number) => number }>()
</script>

<template>
  <g v-for="at in [0, 0.5, 1]" :key="at" aria-hidden="true">
    <line :x1="left" :x2="width" :y1="y(at)" :y2="y(at)" stroke="var(--line)" />
    <text :x="left - 8" :y="y(at) + 4" text-anchor="end" class="chart-text">{{ at * 100 }}%</text>
  </g>
</template>
