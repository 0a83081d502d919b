<script setup lang="ts">
/** How much is back, and the mark up to which the plan expects it to come. */
const props = defineProps<{ back: number; expected: number }>()
const words = computed(() => `${percent(props.back)} back, ${percent(props.expected)} expected`)
</script>

<template>
  <span class="relative block h-[8px] bg-trough" role="img" :aria-label="words">
    <span class="absolute inset-y-0 left-0 bg-held" :style="{ width: `${back * 100}%` }" />
    <span
      class="absolute -bottom-[3px] -top-[3px] w-[2px] bg-ink"
      :style="{ left: `min(calc(100% - 2px), ${expected * 100}%)` }"
    />
  </span>
</template>
