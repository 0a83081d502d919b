<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'
import { readBack } from '~~/core/cases/telling/telling'

/** The telling read back to the client, with the unknown facts named as unknown. */
defineProps<{ isOpen: boolean }>()
const emit = defineEmits<{ close: []; right: [] }>()
const store = useOpenCaseStore()
const context = useAnswerContext()
const rightButton = ref<HTMLElement | null>(null)
const lines = computed(() => readBack(store.current, context.value))
</script>

<template>
  <Dialog :open="isOpen" :initial-focus="rightButton" class="relative z-40" @close="emit('close')">
    <div class="fixed inset-0 bg-dusk/60" aria-hidden="true" />
    <div class="fixed inset-0 flex items-center justify-center p-6">
      <DialogPanel
        class="max-h-full w-full max-w-2xl overflow-auto border border-line bg-paper p-8"
        @keydown.ctrl.enter="emit('right')"
      >
        <DialogTitle class="text-2xl">Read back to the client</DialogTitle>
        <div class="mt-4 space-y-3 text-[18px] leading-relaxed">
          <p v-for="line in lines" :key="line">{{ line }}</p>
        </div>
        <div class="mt-7 flex justify-between">
          <button type="button" class="quiet-action" @click="emit('close')">
            Change something
            <kbd class="key-cap">Esc</kbd>
          </button>
          <button ref="rightButton" type="button" class="main-action" data-test="right" @click="emit('right')">
            Confirm
            <kbd class="key-cap">Enter</kbd>
          </button>
        </div>
      </DialogPanel>
    </div>
  </Dialog>
</template>
