<script setup lang="ts">
/** A line of a run sheet to tick; the whole line is the target. */
defineProps<{ isDone: boolean; isDisabled?: boolean }>()
defineEmits<{ tick: [] }>()
</script>

<template>
  <label class="line" :class="{ 'is-done': isDone }">
    <input type="checkbox" :checked="isDone" class="box" :disabled="isDisabled" @change.prevent="$emit('tick')" />
    <span><slot /></span>
  </label>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: 20px 1fr;
  gap: 6px;
  margin-top: 3px;
  cursor: pointer;
}
.line.is-done {
  color: var(--soft);
}
.box {
  width: 17px;
  height: 17px;
  margin-top: 1px;
  accent-color: var(--held);
}
</style>
