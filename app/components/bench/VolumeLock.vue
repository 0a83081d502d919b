<script setup lang="ts">
/**
 * Opens the encrypted volumes of a medium with their passphrase, or closes them again. What the client left for the part is
 * filled in when asked for.
 */
const props = defineProps<{ link: string; part: string | null; isClosed: boolean; isOpened: boolean }>()
const store = useBenchStore()
const { typed, noted, fillIn } = useNotedSecret(() => ({ part: props.part, kind: 'password' }))
const field = useTemplateRef<HTMLInputElement>('field')
const isTrying = ref(false)
async function open() {
  if (typed.value === '') return field.value?.focus()
  isTrying.value = true
  const isOpen = await store.answer(props.link, 'password', typed.value)
  isTrying.value = false
  typed.value = ''
  if (!isOpen) void nextTick(() => field.value?.focus())
}
</script>

<template>
  <form v-if="isClosed" class="flex flex-wrap items-center gap-x-3 gap-y-1.5 pt-1.5" @submit.prevent="open">
    <input
      ref="field"
      v-model="typed"
      type="password"
      autocomplete="off"
      maxlength="512"
      aria-label="Passphrase of the encrypted volume"
      placeholder="passphrase"
      class="field w-64"
      :disabled="isTrying"
    />
    <button type="submit" class="main-action" :disabled="isTrying" data-test="open-volume">
      {{ isTrying ? 'Trying the passphrase …' : 'Open it, read only' }}
    </button>
    <button
      v-if="noted"
      type="button"
      class="text-[14px] text-russet-ink underline decoration-dotted"
      @click="fillIn().then(() => field?.focus())"
    >
      Fill in what the client left
    </button>
    <span class="text-[13px] text-soft" role="status">
      {{ isTrying ? 'A passphrase is slow to try, by design: up to a minute.' : 'What is typed here is not stored.' }}
    </span>
  </form>
  <button v-if="isOpened" type="button" class="quiet-action mt-1.5" @click="store.answer(link, 'sign-out')">
    Close the encrypted volume
  </button>
</template>
