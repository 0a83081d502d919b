<script setup lang="ts">
import { ASK_WORDS, heldWords, PART_WORDS, STOP_WORDS } from '~~/core/afterwards/words'
import { ClientAnswer, ErasedAnswer } from '~~/core/exchange/client-answer'

/** All about one client: their cases, what is held of each, one file of it for them, and erasing it. */
type Line = ClientAnswer['cases'][number]
const route = useRoute()
const session = useSessionStore()
const clock = useClockWords()
const answer = shallowRef<ClientAnswer | null>(null)
const trouble = ref<string | null>(null)
const isErasing = ref(false)
const isBusy = ref(false)
const name = ref('')
const path = computed(() => `/api/clients/${encodeURIComponent(String(route.params.client))}`)

async function load() {
  trouble.value = null
  try {
    answer.value = await api(ClientAnswer, 'GET', path.value)
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
await load()

async function erase() {
  isBusy.value = true
  try {
    const { wiped, left } = await api(ErasedAnswer, 'POST', `${path.value}/erase`, { name: name.value })
    isErasing.value = false
    tellDone(wiped === 0 ? 'Nothing could be erased: see why below.' : 'Erased what can be erased.')
    if (left === null) await navigateTo('/')
    else answer.value = left
  } catch (error) {
    tellFailure(error)
  } finally {
    isBusy.value = false
  }
}

function partWords({ part, does, why, until }: Line['erasing'][number]): string {
  const what = PART_WORDS[part]
  if (does === 'gone') return `${what}: wiped`
  if (does === 'wipe') return `${what}: can be erased`
  if (why === 'receipts') return `${what}: kept until ${clock.dayOf(until!)}, since receipts have to be`
  if (why === 'unpaid' || why === 'things-here' || why === 'loan-out') return `${what}: kept, since ${ASK_WORDS[why]}`
  return `${what}: kept. ${why ? STOP_WORDS[why] : ''}`
}
const canErase = computed(() => answer.value?.cases.some(({ erasing }) => erasing.some(({ does }) => does === 'wipe')))
useHead({ title: () => answer.value?.client.name ?? 'Client' })
</script>

<template>
  <div v-if="trouble" class="p-10"><ErrorNote :words="trouble" @again="load" /></div>
  <div v-else-if="answer" class="mx-auto max-w-[980px] px-6 py-6">
    <div class="flex flex-wrap items-start justify-between gap-4">
      <div class="min-w-0">
        <h1 class="break-words text-[26px]">{{ answer.client.name }}</h1>
        <p class="figure text-[14px] text-soft">
          {{ [answer.client.phone, answer.client.mail].filter(Boolean).join(' · ') || 'no way to reach them is noted' }}
        </p>
      </div>
      <div v-if="session.may('people')" class="flex flex-wrap gap-2">
        <a :href="`${path}/file`" download class="quiet-action" data-test="client-file">
          All that is held, as one file
        </a>
        <button type="button" class="quiet-action" :disabled="!canErase" @click="isErasing = true">
          Erase at their wish …
        </button>
      </div>
      <p v-else class="text-[14px] text-soft">An owner gives out or erases what is held.</p>
    </div>
    <h2 class="mt-6 text-[19px]">{{ answer.cases.length === 1 ? 'One case' : `${answer.cases.length} cases` }}</h2>
    <ul>
      <li v-for="one in answer.cases" :key="one.code" class="border-t border-line py-2.5 text-[15px]">
        <div class="flex items-baseline gap-3">
          <NuxtLink :to="`/cases/${one.code}`" class="figure text-[14px] underline decoration-dotted">
            {{ one.code }}
          </NuxtLink>
          <span class="min-w-0 flex-1 truncate">{{ one.what }}</span>
          <span class="text-[13px] text-soft">{{ one.state }}</span>
          <span v-if="one.logged" class="figure text-[13px] text-soft">{{ clock.dayOf(one.logged) }}</span>
        </div>
        <p class="text-[14px] text-soft">Held: {{ heldWords(one.held) }}.</p>
        <p v-if="one.isStopped" class="border-l-4 border-russet pl-3 text-[14px]">
          ■ Stopped: it is not in the file, and nothing of it is erased. Do not tell the client.
        </p>
        <ul v-else class="text-[14px]">
          <li v-for="part in one.erasing" :key="part.part">{{ partWords(part) }}</li>
        </ul>
      </li>
    </ul>
    <ShopDialog
      v-if="isErasing"
      title="Erase at the client’s wish"
      verb="Erase it for good"
      :is-busy="isBusy"
      :is-ready="name.trim() !== ''"
      @close="isErasing = false"
      @done="erase"
    >
      <p class="text-[14.5px]">
        What “can be erased” in the list is wiped now. Whatever is kept says why, and is wiped automatically on its
        date. Give the client their file first, if they want it. This cannot be undone.
      </p>
      <FormField v-model="name" label="Type the name of the client" />
    </ShopDialog>
  </div>
</template>
