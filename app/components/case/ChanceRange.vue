<script setup lang="ts">
/** A chance with its range on a line from 0 to 1. */
const props = defineProps<{ chance: readonly [number, number, number] }>()
const words = computed(() => `between ${percent(props.chance[0])} and ${percent(props.chance[2])}`)
</script>

<template>
  <span class="relative mt-1 block h-[6px] w-full bg-trough" role="img" :aria-label="words" :title="words">
    <span
      class="absolute inset-y-0 bg-soft/60"
      :style="{ left: `${chance[0] * 100}%`, right: `${100 - chance[2] * 100}%` }"
    />
    <span
      class="absolute -bottom-[3px] -top-[3px] w-[2px] bg-ink"
      :style="{ left: `min(calc(100% - 2px), ${chance[1] * 100}%)` }"
    />
  </span>
</template>
