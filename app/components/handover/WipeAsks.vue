<script setup lang="ts">
import type { WipeAsk } from '~~/core/afterwards/standing'
import { ASK_WORDS } from '~~/core/afterwards/words'

/** What has to be decided before something is wiped. */
defineProps<{ asks: readonly WipeAsk[] }>()
</script>

<template>
  <p v-if="asks.length > 0" class="border-l-4 border-russet pl-3 text-[14.5px]">
    ▲ Ask first: {{ asks.map((one) => ASK_WORDS[one]).join('; ') }}.
  </p>
</template>
