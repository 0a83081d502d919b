<script setup lang="ts">
/** A chance with its range, on a scale from 0 to 100 %; and, hollow, what it was before. */
defineProps<{ odds: readonly [number, number, number]; before: number }>()
</script>

<template>
  <span class="relative inline-block h-[16px] w-[150px] align-middle" aria-hidden="true">
    <span class="absolute inset-x-0 top-[7px] h-[2px] bg-trough" />
    <span
      class="absolute top-[5px] h-[6px] bg-held opacity-40"
      :style="{ left: `${odds[0] * 100}%`, width: `${(odds[2] - odds[0]) * 100}%` }"
    />
    <span class="absolute top-[2px] h-[12px] w-[3px] bg-held" :style="{ left: `calc(${odds[1] * 100}% - 1px)` }" />
    <span
      class="absolute top-[4px] size-[8px] rounded-full border-[1.5px] border-soft bg-paper"
      :style="{ left: `calc(${before * 100}% - 4px)` }"
    />
  </span>
</template>
