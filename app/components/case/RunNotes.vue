<script setup lang="ts">
import { timeWords } from '~~/core/local/dates'
import type { Run } from '~~/core/cases/shape/run'

/** Notes and photos that were made while a run was open, and a field for the next note. */
const props = defineProps<{ run: Run }>()
const store = useOpenCaseStore()
const session = useSessionStore()
const context = useAnswerContext()
const words = ref('')
const isBusy = ref(false)

const notes = computed(() =>
  props.run.notes.map((note) => ({
    ...note,
    when: timeWords(note.at, context.value.zone, 'HH:mm'),
  })),
)
const shop = useHandoverStore()
onMounted(() => void shop.load())
const photos = computed(() =>
  (shop.answer?.attachments ?? []).filter(({ kind, part }) => kind === 'photo' && part === props.run.id),
)
async function photographed(event: Event) {
  const field = event.target as HTMLInputElement
  const [file] = field.files ?? []
  field.value = ''
  if (file) await shop.attach(file, 'photo', props.run.id)
}
async function add() {
  const note = words.value.trim()
  if (note === '' || isBusy.value) return
  isBusy.value = true
  if (await store.markRun(props.run.id, { note })) words.value = ''
  isBusy.value = false
}
</script>

<template>
  <section aria-label="Notes of the run" class="text-[14px]">
    <h3 class="section-name">Notes</h3>
    <ul v-if="notes.length > 0" class="mt-0.5 space-y-0.5">
      <li v-for="note in notes" :key="note.at + note.text" class="break-words">
        <span class="figure text-[12px] text-soft">{{ note.when }} {{ note.by }}</span>
        {{ note.text }}
      </li>
    </ul>
    <form v-if="session.may('work')" class="mt-1 flex gap-2" @submit.prevent="add">
      <input
        v-model="words"
        maxlength="1000"
        class="field min-w-0 flex-1"
        aria-label="What you see"
        placeholder="what you see"
      />
      <button type="submit" class="quiet-action" :disabled="words.trim() === '' || isBusy">Add</button>
    </form>
    <p class="mt-1 flex flex-wrap items-center gap-2">
      <a v-for="photo in photos" :key="photo.id" :href="shop.path(`/attachments/${photo.id}`)" target="_blank">
        <img :src="shop.path(`/attachments/${photo.id}`)" :alt="photo.name" class="h-[44px] w-[58px] object-cover" />
      </a>
      <label
        v-if="session.may('work')"
        class="inline-block min-h-[24px] cursor-pointer text-[13.5px] underline decoration-dotted focus-within:outline-2"
      >
        add a photo …
        <input
          type="file"
          accept="image/*"
          capture="environment"
          class="sr-only"
          data-test="run-photo"
          @change="photographed"
        />
      </label>
    </p>
  </section>
</template>
