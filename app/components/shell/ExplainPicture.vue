<script setup lang="ts">
/** A sentence that explains a picture, for whoever asks. */
defineProps<{ picture: string; words: string }>()
const isOpen = ref(false)
const id = useId()
</script>

<template>
  <span class="print:hidden">
    <button
      type="button"
      class="min-h-[24px] text-[13.5px] text-soft underline decoration-dotted"
      :aria-expanded="isOpen"
      :aria-controls="id"
      :aria-label="`How to read ${picture}`"
      @click="isOpen = !isOpen"
    >
      How to read it
    </button>
    <span v-if="isOpen" :id="id" role="note" class="mt-1 block max-w-[74ch] text-[14.5px] text-soft">{{ words }}</span>
  </span>
</template>
