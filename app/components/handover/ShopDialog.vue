<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'

/** A small form over the page: a title, its fields, and one thing to do. */
defineProps<{ title: string; verb: string; isBusy?: boolean; isReady?: boolean; isWide?: boolean }>()
const emit = defineEmits<{ close: []; done: [] }>()
</script>

<template>
  <Dialog :open="true" class="relative z-40" @close="emit('close')">
    <div class="fixed inset-0 bg-dusk/60" aria-hidden="true" />
    <div class="fixed inset-0 flex items-start justify-center overflow-y-auto p-6">
      <DialogPanel
        class="w-full border border-line bg-paper p-6"
        :class="isWide ? 'max-w-[52rem]' : 'max-w-[34rem]'"
        data-test="shop-dialog"
      >
        <DialogTitle class="text-[22px]">{{ title }}</DialogTitle>
        <form class="mt-3 space-y-3.5" @submit.prevent="emit('done')">
          <slot />
          <div class="flex justify-between pt-2">
            <button type="button" class="quiet-action" @click="emit('close')">Cancel</button>
            <button type="submit" class="main-action" :disabled="isBusy || isReady === false" data-test="done">
              {{ verb }}
            </button>
          </div>
        </form>
      </DialogPanel>
    </div>
  </Dialog>
</template>
