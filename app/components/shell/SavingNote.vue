<script setup lang="ts">
/** Whether what was typed is kept, in words. */
const store = useOpenCaseStore()
const words = computed(
  () =>
    ({ kept: 'everything kept', saving: 'keeping …', offline: 'the server is away; kept on this machine' })[
      store.saving
    ],
)
</script>

<template>
  <span role="status" :class="store.saving === 'offline' ? 'font-bold text-russet-ink' : 'text-soft'">{{ words }}</span>
</template>
