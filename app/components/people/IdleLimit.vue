<script setup lang="ts">
/** After how long without use the pages of this shop lock. */
const session = useSessionStore()
const minutes = ref(String(session.idleMinutes))
const { isBusy, send, problem, problemOf } = useSending()

async function save() {
  if (!(await send(() => apiDo('PUT', '/api/people/idle', { minutes: Number(minutes.value) })))) return
  await session.load()
  tellDone(`Pages lock after ${minutes.value} minutes without use.`)
}
</script>

<template>
  <section aria-label="Idle limit">
    <h2 class="text-xl">Idle limit</h2>
    <p class="mt-1 text-soft">
      A page that nobody uses locks. Scans, copies and uploads continue, and what was typed stays.
    </p>
    <form class="mt-3 flex items-start gap-4" novalidate @submit.prevent="save">
      <FormField v-model="minutes" label="Minutes without use" inputmode="numeric" :problem="problemOf('minutes')" />
      <button type="submit" class="quiet-action mt-7" :disabled="isBusy || minutes === String(session.idleMinutes)">
        Save
      </button>
    </form>
    <p v-if="problem" role="alert" class="font-bold text-russet-ink">{{ problem }}</p>
  </section>
</template>
