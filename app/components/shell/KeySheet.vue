<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'
import { keysOfPage } from '~/composables/useSingleKeys'

/** The keys that act on this page; F1 shows them. */
const isOpen = ref(false)
const singleKeys = useSingleKeysSwitch()
const NAMES: Record<string, string> = {
  escape: 'Esc',
  arrowdown: '↓',
  arrowup: '↑',
  arrowleft: '←',
  arrowright: '→',
  enter: 'Enter',
  ' ': 'Space',
}
const WORDS: Record<string, string> = {
  '/': 'search',
  u: 'change person',
  n: 'log a case',
  escape: 'go back, or close',
  arrowdown: 'into the list',
  s: 'the next step: confirm a hold, or start',
  b: 'to the bench',
  h: 'hands-on timer on or off',
  w: 'waiting timer on or off',
  k: 'keep the facts that you tried',
  d: 'drop the facts that you tried',
  c: 'copy the selected items to the shelf',
  l: 'list, or start the scan',
  p: 'pause or resume the scan',
  e: 'end the scan: enough was found',
  1: 'answer the question (1 to 5)',
  '?': 'answer the question: not known',
}
const keys = computed(() => [...keysOfPage.value].map((key) => ({ key: NAMES[key] ?? key, words: WORDS[key] ?? '' })))
const EVERYWHERE = [
  { key: 'Tab', words: 'to the next control; with Shift, back' },
  { key: 'Enter', words: 'open or press what has the focus' },
  { key: 'F8', words: 'change person, also while typing' },
  { key: 'F1', words: 'these keys, also while typing' },
]
const show = () => (isOpen.value = true)
useEventListener('keydown', (event) => {
  if (event.key !== 'F1' || event.ctrlKey || event.altKey || event.metaKey) return
  event.preventDefault()
  show()
})
defineExpose({ show })
</script>

<template>
  <Dialog :open="isOpen" class="relative z-40" @close="isOpen = false">
    <div class="fixed inset-0 bg-dusk/60" aria-hidden="true" />
    <div class="fixed inset-0 flex items-center justify-center p-6">
      <DialogPanel class="w-full max-w-[30rem] border border-line bg-paper p-6" data-test="key-sheet">
        <DialogTitle class="text-xl">Keys</DialogTitle>
        <h3 class="section-name mt-3">On this page</h3>
        <p v-if="!singleKeys" class="text-[15px] text-soft">Single keys are switched off on this machine.</p>
        <dl v-else class="mt-1 grid grid-cols-[90px_1fr] gap-y-1 text-[15px]">
          <template v-for="one in keys.filter(({ words }) => words !== '')" :key="one.key">
            <dt>
              <kbd class="key-cap">{{ one.key }}</kbd>
            </dt>
            <dd>{{ one.words }}</dd>
          </template>
        </dl>
        <h3 class="section-name mt-3">Everywhere</h3>
        <dl class="mt-1 grid grid-cols-[90px_1fr] gap-y-1 text-[15px]">
          <template v-for="one in EVERYWHERE" :key="one.key">
            <dt>
              <kbd class="key-cap">{{ one.key }}</kbd>
            </dt>
            <dd>{{ one.words }}</dd>
          </template>
        </dl>
        <div class="mt-4 flex justify-between">
          <button type="button" class="quiet-action" @click="singleKeys = !singleKeys">
            {{ singleKeys ? 'Turn single keys off' : 'Turn single keys on' }}
          </button>
          <button type="button" class="main-action" @click="isOpen = false">Close</button>
        </div>
      </DialogPanel>
    </div>
  </Dialog>
</template>
