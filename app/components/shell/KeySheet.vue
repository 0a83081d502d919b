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
}
/** Keys with the same words are one line, under the first of them. */
const own = computed(() =>
  keysOfPage.value.filter(({ says }, at, all) => all.findIndex((other) => other.says === says) === at),
)
const EVERYWHERE = [
  { key: 'Tab', says: 'to the next control; with Shift, back' },
  { key: 'Enter', says: 'open or press what has the focus' },
  { key: 'F8', says: 'change person, also while typing' },
  { key: 'F1', says: 'these keys, also while typing' },
]
const parts = computed(() => [
  { name: 'On this page', keys: singleKeys.value ? own.value : [] },
  { name: 'Everywhere', keys: EVERYWHERE },
])
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
        <section v-for="part in parts" :key="part.name">
          <h3 class="section-name mt-3">{{ part.name }}</h3>
          <p v-if="part.keys.length === 0" class="text-[15px] text-soft">
            Single keys are switched off on this machine.
          </p>
          <dl class="mt-1 grid grid-cols-[90px_1fr] gap-y-1 text-[15px]">
            <template v-for="one in part.keys" :key="one.key">
              <dt>
                <kbd class="key-cap">{{ NAMES[one.key] ?? one.key }}</kbd>
              </dt>
              <dd>{{ one.says }}</dd>
            </template>
          </dl>
        </section>
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
