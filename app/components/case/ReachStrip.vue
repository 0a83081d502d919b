<script setup lang="ts">
/** How brightly each slice of the items' time is lit. The picture is for the eye; the figures stand beside it in words. */
defineProps<{ reach: readonly number[]; height?: number }>()
</script>

<template>
  <span class="strip" :style="{ height: `${height ?? 26}px` }" aria-hidden="true">
    <span v-for="(value, index) in reach" :key="index" :style="{ background: reachColour(value) }" />
  </span>
</template>

<style scoped>
.strip {
  display: flex;
  width: 100%;
  gap: 0;
  padding: 1px;
  background: #302520;
}
.strip > span {
  flex: 1;
  box-shadow: inset -0.5px 0 0 rgb(48 37 32 / 0.7);
  transition: background 0.25s;
}
</style>
