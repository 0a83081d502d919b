<script setup lang="ts">
import type { NuxtError } from '#app'

const props = defineProps<{ error: NuxtError }>()
const isLost = computed(() => props.error.statusCode === 404)
</script>

<template>
  <div class="mx-auto max-w-xl p-10 pt-24">
    <h1 class="text-3xl">{{ isLost ? 'There is no such page' : 'This page cannot be shown' }}</h1>
    <p class="mt-3 text-[18px]">
      {{
        isLost
          ? 'What was saved is safe; find the case from the counter.'
          : error.statusMessage || 'What was saved is safe.'
      }}
    </p>
    <button type="button" class="main-action mt-6" @click="clearError({ redirect: '/' })">To the counter</button>
  </div>
</template>
