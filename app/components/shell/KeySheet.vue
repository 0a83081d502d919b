<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'
import { canChangeKey, isKeySheetOpen, keysOfPage, showKeys } from '~/composables/useSingleKeys'

/** The keys that act on this page; F1 shows them, and letters and signs are changed here. */
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
const { own: changed, inForce, change, reset } = useOwnKeys()
const problem = ref<{ key: string; words: string } | null>(null)
function set(key: string, event: Event) {
  const input = event.target as HTMLInputElement
  const words = change(key, input.value.trim().slice(-1))
  problem.value = words === null ? null : { key, words }
  input.value = inForce(key)
  input.select()
}
function close() {
  problem.value = null
  isKeySheetOpen.value = false
}
useEventListener('keydown', (event) => {
  if (event.key !== 'F1' || event.ctrlKey || event.altKey || event.metaKey) return
  event.preventDefault()
  showKeys()
})
</script>

<template>
  <Dialog :open="isKeySheetOpen" class="relative z-40" @close="close">
    <div class="fixed inset-0 bg-dusk/60" aria-hidden="true" />
    <div class="fixed inset-0 flex items-center justify-center p-6">
      <DialogPanel class="w-full max-w-[30rem] border border-line bg-paper p-6" data-test="key-sheet">
        <DialogTitle class="text-xl">Keys</DialogTitle>
        <section v-for="part in parts" :key="part.name">
          <h3 class="section-name mt-3">{{ part.name }}</h3>
          <p v-if="part.keys.length === 0" class="text-[15px] text-soft">
            Single keys are switched off on this machine.
          </p>
          <p v-else-if="part.name === 'On this page'" class="text-[14px] text-soft">
            To change one for this machine, type another into its box.
          </p>
          <dl class="mt-1 grid grid-cols-[90px_1fr] gap-y-1 text-[15px]">
            <template v-for="one in part.keys" :key="one.key">
              <dt>
                <input
                  v-if="canChangeKey(one.key)"
                  class="key-cap w-[34px] text-center"
                  autocomplete="off"
                  :aria-label="`Key for “${one.says}”`"
                  :aria-invalid="problem?.key === one.key || undefined"
                  :value="inForce(one.key)"
                  @focus="($event.target as HTMLInputElement).select()"
                  @input="set(one.key, $event)"
                />
                <kbd v-else class="key-cap">{{ NAMES[one.key] ?? one.key }}</kbd>
              </dt>
              <dd>
                {{ one.says }}
                <span v-if="problem?.key === one.key" role="alert" class="block font-bold text-russet-ink">
                  {{ problem.words }}
                </span>
              </dd>
            </template>
          </dl>
        </section>
        <div class="mt-4 flex justify-between">
          <button type="button" class="quiet-action" @click="singleKeys = !singleKeys">
            {{ singleKeys ? 'Turn single keys off' : 'Turn single keys on' }}
          </button>
          <button v-if="Object.keys(changed).length > 0" type="button" class="quiet-action" @click="reset">
            All keys as shipped
          </button>
          <button type="button" class="main-action" @click="close">Close</button>
        </div>
      </DialogPanel>
    </div>
  </Dialog>
</template>
