<script setup lang="ts">
import type { MediumShape } from '~~/core/bench/medium'

/** What has to be known of the volumes of a medium before a scan: lost, damaged, encrypted, cut short, or not read. */
const props = defineProps<{ medium: MediumShape }>()
const lines = computed(() => volumeSays(props.medium))
</script>

<template>
  <ul v-if="lines.length > 0" aria-label="The volumes" class="px-5 pt-1.5" data-test="volumes">
    <li
      v-for="{ key, says, isGrave } in lines"
      :key="key"
      class="border-l-4 py-0.5 pl-2.5 text-[14px]"
      :class="isGrave ? 'border-russet font-semibold text-russet-ink' : 'border-line text-soft'"
    >
      {{ says }}
    </li>
  </ul>
</template>
