<script setup lang="ts">
import type { z } from 'zod'
import { PrintedSheet } from '~~/core/handover/paper'
import { SHEET_SIZES } from '~~/core/playbook/printing'

/** One sheet, to be read, printed or saved as PDF. */
const route = useRoute()
const code = String(route.params.code)
const paper = String(route.params.paper)
const printed = shallowRef<z.infer<typeof PrintedSheet> | null>(null)
const sheet = computed(() => printed.value?.sheet ?? null)
const trouble = ref<string | null>(null)
const path = (rest: string) => `/api/cases/${encodeURIComponent(code)}${rest}`
async function load() {
  trouble.value = null
  try {
    printed.value = await api(PrintedSheet, 'GET', path(`/papers/${encodeURIComponent(paper)}`))
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
await load()
const print = () => window.print()
usePageSize(() => (printed.value ? SHEET_SIZES[printed.value.size] : null), 14)
useHead({ title: () => (sheet.value ? `${sheet.value.title} ${sheet.value.number}` : 'Sheet') })
</script>

<template>
  <div v-if="trouble" class="p-10"><ErrorNote :words="trouble" @again="load" /></div>
  <div v-else-if="sheet" class="mx-auto max-w-[860px] px-5 py-4 print:m-0 print:max-w-none print:p-0">
    <div class="mb-3 flex flex-wrap items-center gap-3 print:hidden">
      <NuxtLink :to="`/hand-over/${code}`" class="quiet-action">‹ {{ code }}</NuxtLink>
      <button type="button" class="main-action" data-test="print" @click="print">Print</button>
      <NuxtLink :to="`/for-two/${code}/${paper}`" class="quiet-action" data-test="for-two-sheet">
        Read it for two
      </NuxtLink>
      <a :href="path(`/papers/${paper}/pdf`)" download class="quiet-action">PDF</a>
      <span class="text-[14.5px] text-soft">{{ printed?.size }}, as the settings have it</span>
    </div>
    <SheetView :sheet="sheet" :pictures="(attachment: number) => path(`/attachments/${attachment}`)" />
  </div>
</template>
