<script setup lang="ts">
/** Whether everything typed is saved, in words. */
const store = useOpenCaseStore()
const words = computed(
  () => ({ kept: 'all saved', saving: 'saving …', offline: 'server unreachable; kept on this machine' })[store.saving],
)
</script>

<template>
  <span role="status" :class="store.saving === 'offline' ? 'font-bold text-russet-ink' : 'text-soft'">{{ words }}</span>
</template>
