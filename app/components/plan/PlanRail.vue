<script setup lang="ts">
import type { RailPart } from '~~/core/ranking/explain/when-tried'

/** The rail beside one row of the plan: as wide as the chance that it comes so far; what has enough back leaves it. */
const props = defineProps<{ part: RailPart; isFirst: boolean }>()

/** The width of what is sure to be tried, in pixels. */
const WIDEST = 18
const wide = (chance: number) => `${Math.max(chance > 0 ? 1.5 : 0, chance * WIDEST)}px`
const style = computed(() => ({
  '--into': props.isFirst ? '0px' : wide(props.part.into),
  '--onward': wide(props.part.onward),
  '--stops': wide(props.part.stops),
}))
</script>

<template>
  <span class="rail" :style="style" aria-hidden="true">
    <span class="into" />
    <span class="onward" />
    <span v-if="part.stops >= 0.01 && part.onward > 0" class="stops" />
  </span>
</template>

<style scoped>
/* The number's middle lies 22.5 px below the top of its row and 18.5 px from its left. */
.rail {
  position: absolute;
  inset: 0 auto 0 6px;
  width: 25px;
  pointer-events: none;
}
.into,
.onward {
  position: absolute;
  left: calc(12.5px - var(--width) / 2);
  width: var(--width);
  background: color-mix(in srgb, var(--russet) 55%, var(--paper));
}
.into {
  --width: var(--into);
  top: -1px;
  height: 24px;
}
.onward {
  --width: var(--onward);
  top: 22.5px;
  bottom: -1px;
}
.stops {
  position: absolute;
  left: 12.5px;
  bottom: 5px;
  width: 16px;
  height: var(--stops);
  background: var(--held);
}
</style>
