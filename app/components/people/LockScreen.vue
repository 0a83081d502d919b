<script setup lang="ts">
/**
 * Covers the page while nobody may see it, or while the person at the bench changes: name and password. The browser's
 * own modal dialog opens above any other dialog and leaves that one unchanged.
 */
const session = useSessionStore()
const SOMEBODY_ELSE = ''
const dialog = useTemplateRef<HTMLDialogElement>('dialog')
const known = ref<KnownPerson[]>([])
const waiting = ref(new Map<number, number>())
const chosen = ref(SOMEBODY_ELSE)
const signIn = ref('')
const password = ref('')
const { isBusy, send, problem, problemOf, error } = useSending()
const isChange = computed(() => session.lock?.why === 'change')
const person = computed(() => known.value.find((one) => one.signIn === chosen.value) ?? null)
const note = (id: number) => {
  const count = waiting.value.get(id) ?? 0
  return count === 0 ? '' : count === 1 ? '1 fact not sent yet' : `${count} facts not sent yet`
}
const isOwn = computed(() => person.value !== null && person.value.id === session.person?.id)

watch(
  () => session.lock,
  (lock, before) => {
    if (!lock || before) return
    known.value = knownPeople()
    const others = known.value.filter((one) => one.id !== session.person?.id)
    chosen.value = (lock.why === 'change' ? others[0]?.signIn : session.person?.signIn) ?? SOMEBODY_ELSE
    password.value = signIn.value = ''
    error.value = null
    // A closing menu takes the focus back first.
    setTimeout(() => {
      dialog.value?.showModal()
      dialog.value?.querySelector<HTMLInputElement>('input.field')?.focus()
      // The word being typed is committed when it loses the focus, and waits with the others.
      waiting.value = countWaiting()
    })
  },
  { immediate: true },
)

async function enter() {
  const name = person.value?.signIn ?? signIn.value
  if (!(await send(() => session.unlock(name, password.value)))) password.value = ''
}
const close = () => {
  if (isChange.value) session.lock = null
}
</script>

<template>
  <Teleport to="body">
    <dialog
      v-if="session.lock"
      ref="dialog"
      role="dialog"
      aria-labelledby="lock-title"
      class="lock"
      :class="{ 'covers-all': !isChange }"
      @cancel.prevent="close"
      @keydown.stop
    >
      <form
        class="mx-auto mt-[8vh] w-full max-w-[31rem] space-y-4 border border-line bg-paper p-7"
        novalidate
        @submit.prevent="enter"
      >
        <h2 id="lock-title" class="text-xl">{{ isChange ? 'Who is at the bench?' : session.lock.words }}</h2>
        <p class="text-soft">
          {{
            isChange
              ? 'The page opens again for the person you choose. Facts not sent yet wait for whoever typed them.'
              : `${session.person?.name} continues where they stopped. For anyone else, the page reloads.`
          }}
        </p>
        <fieldset v-if="known.length > 0" class="border-t border-line">
          <legend class="sr-only">Person</legend>
          <label
            v-for="one in [...known, { id: 0, name: 'Someone else', signIn: SOMEBODY_ELSE }]"
            :key="one.signIn"
            class="flex min-h-[36px] items-center gap-3 border-b border-line px-2"
            :class="{ 'bg-chosen font-bold': chosen === one.signIn }"
          >
            <input
              v-model="chosen"
              type="radio"
              name="person"
              :value="one.signIn"
              class="size-4 accent-[var(--russet)]"
            />
            <span class="min-w-0 flex-1 truncate">{{ one.name }}</span>
            <span class="text-[14px] font-normal text-soft">{{ note(one.id) }}</span>
          </label>
        </fieldset>
        <FormField
          v-if="!person"
          v-model="signIn"
          label="Sign-in name"
          autocomplete="username"
          :problem="problemOf('signIn')"
        />
        <FormField
          v-model="password"
          label="Password"
          type="password"
          autocomplete="current-password"
          :problem="problemOf('password')"
        />
        <p v-if="problem" role="alert" class="font-bold text-russet-ink">{{ problem }}</p>
        <div class="flex items-center gap-4">
          <button type="submit" class="main-action" :disabled="isBusy">
            {{ isOwn && !isChange ? 'Continue' : person ? `Sign in as ${person.name}` : 'Sign in' }}
          </button>
          <button v-if="isChange" type="button" class="quiet-action" @click="close">Cancel</button>
        </div>
      </form>
    </dialog>
  </Teleport>
</template>

<style scoped>
.lock {
  width: 100vw;
  height: 100vh;
  max-width: none;
  max-height: none;
  padding: 24px;
  overflow-y: auto;
  border: 0;
  color: var(--ink);
  background: transparent;
}
.lock::backdrop {
  background: color-mix(in srgb, var(--color-dusk) 60%, transparent);
}
.covers-all,
.covers-all::backdrop {
  background: var(--paper);
}
</style>
