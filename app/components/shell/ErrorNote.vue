<script setup lang="ts">
/** The failure of a whole page: what happened, what is safe, and what to do. */
defineProps<{ words: string }>()
defineEmits<{ again: [] }>()
</script>

<template>
  <div role="alert" class="max-w-xl border-l-4 border-russet bg-sheet p-5">
    <p class="text-[18px]">{{ words }}</p>
    <div class="mt-4 flex gap-3">
      <button type="button" class="quiet-action" @click="$emit('again')">Try again</button>
      <NuxtLink to="/" class="quiet-action">To the counter</NuxtLink>
    </div>
  </div>
</template>
