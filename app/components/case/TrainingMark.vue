<script setup lang="ts">
/** Whether somebody only practises on the case: then it never counts, in no odds and in no figure. */
const store = useOpenCaseStore()
const session = useSessionStore()
const isTraining = computed(() => store.current.isTraining)
const set = (is: boolean) => void store.set([{ fact: 'isTraining', is }])
</script>

<template>
  <span v-if="isTraining" class="bg-chosen px-1.5 text-ink">training, counts nowhere</span>
  <button
    v-if="session.may('log')"
    type="button"
    class="underline decoration-dotted"
    data-test="training"
    @click="set(!isTraining)"
  >
    {{ isTraining ? 'count it' : 'mark as training' }}
  </button>
</template>
