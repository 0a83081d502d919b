<script setup lang="ts">
import { SECRET_KINDS } from '~~/core/bench/secret'
import { copyWords, deviceWords } from '~~/core/cases/telling/words'
import { isBeingWorked } from '~~/core/cases/shape/states'

/** Passcodes and passwords that the client left: encrypted, read at the bench only, and gone with the run that needed them. */
const store = useOpenCaseStore()
const session = useSessionStore()
const clock = useClockWords()
const { secrets, load, note, forget, look } = useSecrets(() => store.code)
const isNoting = ref(false)
const isBusy = ref(false)
const part = ref('')
const kind = ref<(typeof SECRET_KINDS)[number]>('passcode')
const value = ref('')
/** the one that is shown, until it is hidden or the page is left */
const shown = ref<{ id: number; value: string } | null>(null)
watch(
  () => store.code,
  () => (shown.value = null),
)
// A look is an entry in the history, which raises the version: what is shown stays until it is hidden, forgotten or replaced.
watch(() => [store.code, store.version], load, { immediate: true })
watch(secrets, (left) => {
  if (!left.some((one) => one.id === shown.value?.id)) shown.value = null
})
const parts = computed(() => [
  ...store.asItIs.devices.map((one) => ({ id: one.id, words: deviceWords(one) })),
  ...store.asItIs.copies.map((one) => ({ id: one.id, words: copyWords(one) })),
])
const wordsOf = (id: string) => parts.value.find((one) => one.id === id)?.words ?? id
const canNote = computed(() => isBeingWorked(store.asItIs.state.name) && parts.value.length > 0)

function begin() {
  part.value = parts.value[0]!.id
  value.value = ''
  isNoting.value = true
}
async function keep() {
  isBusy.value = true
  if (await note({ part: part.value, kind: kind.value, value: value.value })) isNoting.value = false
  isBusy.value = false
  value.value = ''
}
async function show(id: number) {
  const read = await look(id)
  shown.value = read === null ? null : { id, value: read }
}
</script>

<template>
  <section v-if="canNote || secrets.length > 0" aria-labelledby="secrets" data-test="secrets">
    <h2 id="secrets" class="text-[19px]">Passcodes left with us</h2>
    <ul v-if="secrets.length > 0">
      <li v-for="one in secrets" :key="one.id" class="border-t border-line py-1.5 text-[14.5px]">
        {{ one.kind }} of {{ wordsOf(one.part) }}
        <span class="text-[13px] text-soft">{{ one.by }}, {{ clock.momentOf(one.at) }}</span>
        <span v-if="shown?.id === one.id" class="figure ml-2 bg-sheet px-2 py-0.5" data-test="secret">
          {{ shown.value }}
        </span>
        <span class="mt-1 flex gap-2">
          <template v-if="session.may('work')">
            <button v-if="shown?.id !== one.id" type="button" class="quiet-action" @click="show(one.id)">Show</button>
            <button v-else type="button" class="quiet-action" @click="shown = null">Hide</button>
          </template>
          <button type="button" class="quiet-action" @click="forget(one.id)">Forget</button>
        </span>
      </li>
    </ul>
    <p class="text-[14px] text-soft">
      Encrypted, read at the bench only, each look in the history; gone once the run that needs it has ended.
    </p>
    <button v-if="canNote" type="button" class="quiet-action mt-2" data-test="note-secret" @click="begin">
      Note one …
    </button>
    <ShopDialog
      v-if="isNoting"
      title="Note a passcode or password"
      verb="Note it"
      :is-busy="isBusy"
      :is-ready="value !== ''"
      @close="isNoting = false"
      @done="keep"
    >
      <label class="block text-[15px] font-bold">
        Opens
        <select v-model="part" class="field mt-1">
          <option v-for="one in parts" :key="one.id" :value="one.id">{{ one.words }}</option>
        </select>
      </label>
      <fieldset class="flex gap-5">
        <legend class="sr-only">Kind</legend>
        <label v-for="one in SECRET_KINDS" :key="one" class="flex min-h-[30px] items-center gap-2.5">
          <input v-model="kind" type="radio" :value="one" class="size-4 accent-[var(--russet)]" />
          {{ one }}
        </label>
      </fieldset>
      <FormField v-model="value" label="As the client says it" hint="let them read it back" />
    </ShopDialog>
  </section>
</template>
