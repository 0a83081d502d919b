<script setup lang="ts">
/** How brightly each slice of the items' time is lit, a band for each wanted set. The picture is for the eye; the figures stand beside it in words. */
defineProps<{ bands: readonly (readonly number[])[]; height?: number }>()
</script>

<template>
  <span class="strip" :style="{ height: `${height ?? 26}px` }" aria-hidden="true">
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
