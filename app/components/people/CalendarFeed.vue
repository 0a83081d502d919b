<script setup lang="ts">
import { FeedAnswer } from '~~/core/calendar/feed'

/** One's own dates: as a file, and at a secret address that a calendar program reads. */
const clock = useClockWords()
const feed = shallowRef<FeedAnswer | null>(null)
const trouble = ref<string | null>(null)
async function ask(method: 'GET' | 'POST' | 'DELETE') {
  trouble.value = null
  try {
    feed.value = await api(FeedAnswer, method, '/api/calendar/feed')
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
await ask('GET')
const address = computed(() => (feed.value?.path ? location.origin + feed.value.path : null))
async function copy() {
  await navigator.clipboard.writeText(address.value!)
  tellDone('The address is copied.')
}
</script>

<template>
  <section aria-labelledby="calendar" data-test="calendar">
    <h2 id="calendar" class="text-xl">Your calendar</h2>
    <p class="mt-1 text-[15px] text-soft">
      Follow-ups, deadlines, what closes, arrives or expires, and when cases are wiped, of the cases with you or with
      nobody. It says codes, never names.
    </p>
    <p v-if="trouble" role="alert" class="mt-2 text-russet-ink">{{ trouble }}</p>
    <div class="mt-3 flex flex-wrap gap-2">
      <a href="/api/calendar" download="cases.ics" class="quiet-action">As a file</a>
      <button type="button" class="quiet-action" @click="ask('POST')">
        {{ feed?.since ? 'New address' : 'Open an address for a calendar program' }}
      </button>
      <button v-if="feed?.since" type="button" class="quiet-action" @click="ask('DELETE')">Close the address</button>
    </div>
    <div v-if="address" class="mt-3 border-l-4 border-russet pl-3">
      <p class="text-[15px]">Shown this once. Whoever has it reads your dates:</p>
      <p class="figure break-all text-[13px]" data-test="feed-address">{{ address }}</p>
      <button type="button" class="quiet-action mt-2" @click="copy">Copy the address</button>
    </div>
    <p v-else-if="feed?.since" class="mt-2 text-[15px] text-soft">
      An address is open since {{ clock.momentOf(feed.since) }}. A new one ends it.
    </p>
  </section>
</template>
