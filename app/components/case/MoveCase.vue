<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'
import { movesFrom, WAITING_FOR, type CaseState } from '~~/core/cases/shape/states'
import { STATE_WORDS } from '~~/core/cases/telling/words'

/** The states that the case can move to, each with what it needs. */
const store = useOpenCaseStore()
const session = useSessionStore()
const isOpen = ref(false)
const to = ref<CaseState['name'] | null>(null)
const waitingFor = ref<CaseState['waitingFor']>(null)
const reason = ref('')

const moves = computed(() => movesFrom(store.current.state.name))
const stands = computed(
  () =>
    STATE_WORDS[store.current.state.name] +
    (store.current.state.waitingFor ? ` for ${store.current.state.waitingFor}` : ''),
)
const VERBS: Record<CaseState['name'], string> = {
  logged: 'Log',
  'at-bench': 'Bring to the bench',
  waiting: 'Wait',
  ready: 'Set to ready',
  'handed-over': 'Hand over',
  uncollected: 'Set to uncollected',
  closed: 'Close the case',
}

function begin() {
  to.value = moves.value[0] ?? null
  waitingFor.value = null
  reason.value = ''
  isOpen.value = true
}

async function move() {
  if (to.value && (await store.move(to.value, to.value === 'waiting' ? waitingFor.value : null, reason.value)))
    isOpen.value = false
}
</script>

<template>
  <div>
    <button v-if="session.may('close')" type="button" class="quiet-action" data-test="move" @click="begin">
      <span class="text-soft">state:</span>
      {{ stands }}
    </button>
    <span v-else class="text-soft">{{ stands }}</span>
    <Dialog :open="isOpen" class="relative z-40" @close="isOpen = false">
      <div class="fixed inset-0 bg-dusk/60" aria-hidden="true" />
      <div class="fixed inset-0 flex items-center justify-center p-6">
        <DialogPanel class="w-full max-w-[32rem] border border-line bg-paper p-6">
          <DialogTitle class="text-xl">The case is {{ stands }}. Move it to another state</DialogTitle>
          <form class="mt-4 space-y-4" @submit.prevent="move">
            <fieldset>
              <legend class="sr-only">Move to</legend>
              <label v-for="one in moves" :key="one" class="flex min-h-[34px] items-center gap-2.5 text-[16px]">
                <input v-model="to" type="radio" name="to" :value="one" class="size-4 accent-[var(--russet)]" />
                {{ VERBS[one] }}
              </label>
            </fieldset>
            <label v-if="to === 'waiting'" class="block">
              waits for
              <select v-model="waitingFor" class="field">
                <option :value="null">choose …</option>
                <option v-for="one in WAITING_FOR" :key="one" :value="one">{{ one }}</option>
              </select>
            </label>
            <label class="block">
              reason or note
              <textarea v-model="reason" rows="2" maxlength="400" class="field" />
            </label>
            <div class="flex justify-between">
              <button type="button" class="quiet-action" @click="isOpen = false">Cancel</button>
              <button type="submit" class="main-action" :disabled="to === null">{{ to ? VERBS[to] : 'Move' }}</button>
            </div>
          </form>
        </DialogPanel>
      </div>
    </Dialog>
  </div>
</template>
