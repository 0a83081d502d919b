<script setup lang="ts">
/** How brightly each slice of the items' time is lit, a band for each wanted set. The picture is for the eye; the figures stand beside it in words. */
const props = defineProps<{ bands: readonly (readonly number[])[]; height?: number }>()

/** A row that reaches little is a thin line: the lit ones draw the eye, not the dark ones. */
const LEAST = 0.3
const tall = computed(() => {
  const brightest = Math.max(0, ...props.bands.flat())
  return Math.round((props.height ?? 26) * (LEAST + (1 - LEAST) * Math.sqrt(brightest)))
})
</script>

<template>
  <span class="strip" :style="{ height: `${tall}px` }" aria-hidden="true">
    <span v-for="(band, at) in bands" :key="at" class="band">
      <span v-for="(value, index) in band" :key="index" class="cell" :style="{ background: reachColour(value) }" />
    </span>
  </span>
</template>

<style scoped>
.strip {
  display: flex;
  width: 100%;
  gap: 4px;
}
.band {
  display: flex;
  flex: 1;
  padding: 1px;
  background: #302520;
}
.cell {
  flex: 1;
  box-shadow: inset -0.5px 0 0 rgb(48 37 32 / 0.7);
  transition: background 0.25s;
}
</style>
