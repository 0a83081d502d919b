<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'
import { CaseAnswer } from '~~/core/cases/facts/writing'
import type { RunLine } from '~~/core/ledger/answers'

/** Leaves a run out of the odds, with a reason, or counts it again. */
const props = defineProps<{ run: RunLine }>()
const emit = defineEmits<{ done: [] }>()
const isOpen = ref(false)
const reason = ref('')
const trouble = ref<string | null>(null)
const USUAL = ['wrong device', 'wrong route recorded', 'training']

async function keep(why: string | null) {
  trouble.value = null
  try {
    await api(CaseAnswer, 'PUT', `/api/cases/${props.run.code}/runs/${props.run.run}/left-out`, {
      version: props.run.version,
      reason: why,
    })
    isOpen.value = false
    tellDone(why === null ? 'The odds count it again.' : 'Left out of the odds.')
    emit('done')
  } catch (error) {
    trouble.value = failureWords(error)
    isOpen.value = true
  }
}
function begin() {
  reason.value = ''
  trouble.value = null
  isOpen.value = true
}
</script>

<template>
  <button
    v-if="run.leftOut !== null"
    type="button"
    class="min-h-[28px] underline decoration-dotted"
    data-test="count-again"
    @click="keep(null)"
  >
    Count it again
  </button>
  <button v-else type="button" class="min-h-[28px] underline decoration-dotted" data-test="leave-out" @click="begin">
    Leave out
  </button>
  <Dialog :open="isOpen" class="relative z-40" @close="isOpen = false">
    <div class="fixed inset-0 bg-dusk/60" aria-hidden="true" />
    <div class="fixed inset-0 flex items-center justify-center p-6">
      <DialogPanel class="w-full max-w-[30rem] border border-line bg-paper p-6 text-left font-text text-[16px]">
        <DialogTitle class="text-xl">Leave this run out of the odds</DialogTitle>
        <p class="mt-1 text-[15px] text-soft">
          {{ run.title }}, {{ run.code }}. It stays in the case and in this list; the odds and the ledger stop counting
          it.
        </p>
        <form class="mt-4 space-y-4" @submit.prevent="keep(reason)">
          <label class="block">
            reason
            <input v-model="reason" class="field" maxlength="400" required data-test="leave-out-reason" />
          </label>
          <p class="flex flex-wrap gap-2">
            <button v-for="one in USUAL" :key="one" type="button" class="quiet-action" @click="reason = one">
              {{ one }}
            </button>
          </p>
          <p v-if="trouble" role="alert" class="text-russet-ink">{{ trouble }}</p>
          <div class="flex justify-between">
            <button type="button" class="quiet-action" @click="isOpen = false">Cancel</button>
            <button type="submit" class="main-action" :disabled="reason.trim() === ''">Leave out</button>
          </div>
        </form>
      </DialogPanel>
    </div>
  </Dialog>
</template>
