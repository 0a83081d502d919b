<script setup lang="ts">
import { CONTACT_WAYS, type ContactWay } from '~~/core/cases/shape/contact'
import { CONTACT_WORDS } from '~~/core/handover/words'
import { reminderOf, reminderText, uncollectedFrom } from '~~/core/handover/next'

/** Each time that shop and client spoke, and the reminders while it is ready. Nothing is sent from here. */
defineProps<{ isNext: boolean }>()
const store = useOpenCaseStore()
const shop = useHandoverStore()
const playbooks = usePlaybookStore()
const clock = useClockWords()
const now = useServerNow()
const way = ref<ContactWay>('called')
const says = ref('')
const contacts = computed(() => store.asItIs.contacts.toReversed())
const terms = computed(() => playbooks.playbook?.shop ?? null)
const reminder = computed(() => (terms.value ? reminderOf(store.asItIs, terms.value, now.value) : null))
const text = computed(() =>
  terms.value && reminder.value ? reminderText(store.asItIs, terms.value, reminder.value.number) : '',
)
const left = computed(() => {
  const from = terms.value ? uncollectedFrom(store.asItIs, terms.value) : null
  return from !== null && from <= now.value ? clock.momentOf(new Date(from).toISOString()) : null
})

async function note() {
  if (await shop.act({ do: 'contact', way: way.value, says: says.value.trim() })) says.value = ''
}
async function copy() {
  await navigator.clipboard.writeText(text.value)
  tellDone('The text is copied.')
}
</script>

<template>
  <section aria-labelledby="contact" data-test="contact">
    <h2 id="contact" class="text-[19px]">Contact</h2>
    <div
      v-if="reminder"
      class="mt-1 border-l-4 pl-3 text-[14.5px]"
      :class="reminder.isDue ? 'border-russet' : 'border-line'"
    >
      <p :class="{ 'font-bold': reminder.isDue }">
        {{ reminder.number === 1 ? 'Tell the client that it is ready' : `Reminder ${reminder.number - 1}` }}:
        {{ reminder.isDue ? 'due now' : `due ${clock.momentOf(new Date(reminder.at).toISOString())}` }}
      </p>
      <details>
        <summary class="min-h-[24px] cursor-pointer text-russet-ink underline decoration-dotted">
          the text to write
        </summary>
        <p class="mt-1 whitespace-pre-line">{{ text }}</p>
        <button type="button" class="quiet-action mt-1" @click="copy">Copy the text</button>
      </details>
    </div>
    <p v-if="left" class="mt-1 border-l-4 border-russet pl-3 text-[14.5px]">
      ▲ Not collected since {{ left }}: ask in writing what shall be done. Nothing is sold or thrown away by itself.
    </p>
    <form class="mt-2 flex flex-wrap gap-2" @submit.prevent="note">
      <select v-model="way" class="field !w-[150px]" aria-label="How">
        <option v-for="one in CONTACT_WAYS" :key="one" :value="one">{{ CONTACT_WORDS[one] }}</option>
      </select>
      <input
        v-model="says"
        class="field min-w-[160px] flex-1"
        aria-label="What was said"
        placeholder="what was said"
        maxlength="1000"
      />
      <button
        type="submit"
        :class="isNext && says.trim() ? 'main-action' : 'quiet-action'"
        :disabled="says.trim() === '' || shop.isBusy"
        data-test="note-contact"
      >
        Note
      </button>
    </form>
    <ul
      v-if="contacts.length > 0"
      class="mt-2 max-h-[180px] overflow-y-auto"
      tabindex="0"
      aria-label="Earlier contacts"
    >
      <li v-for="(one, at) in contacts" :key="at" class="border-t border-line py-1 text-[14px]">
        <span class="text-soft">{{ clock.momentOf(one.at) }}, {{ one.by }}, {{ CONTACT_WORDS[one.way] }}:</span>
        {{ one.says }}
      </li>
    </ul>
  </section>
</template>
