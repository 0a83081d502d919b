<script setup lang="ts">
import type { SheetDocument } from '~~/core/handover/document'
import { PrintedSheet } from '~~/core/handover/paper'

/** A sheet that is read together with the client, such as what can be tried, who then agrees on the spot. */
const route = useRoute()
const store = useOpenCaseStore()
const shop = useHandoverStore()
const playbooks = usePlaybookStore()
const code = String(route.params.code)
const sheet = shallowRef<SheetDocument | null>(null)
const trouble = ref<string | null>(null)
const isAgreeing = ref(false)
async function load() {
  trouble.value = null
  try {
    await store.open(code)
    const path = shop.path(`/papers/${encodeURIComponent(String(route.params.paper))}`)
    const [read] = await Promise.all([api(PrintedSheet, 'GET', path), playbooks.need()])
    sheet.value = read.sheet
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
await load()
useHead({ title: () => `${sheet.value?.title ?? ''} · ${code}` })
</script>

<template>
  <ForTwoFrame :code="code" :shop="sheet?.shop.name ?? ''">
    <p v-if="trouble" role="alert" class="p-10 text-[19px]">{{ trouble }}</p>
    <div v-else-if="sheet" class="mx-auto max-w-[980px] px-5 py-5">
      <SheetView :sheet="sheet" is-large :pictures="(attachment: number) => shop.path(`/attachments/${attachment}`)" />
      <button
        type="button"
        class="main-action mt-4 !min-h-[44px] text-[18px]"
        data-test="agree-for-two"
        @click="isAgreeing = true"
      >
        Agree …
      </button>
      <AgreeDialog v-if="isAgreeing" @close="isAgreeing = false" />
    </div>
  </ForTwoFrame>
</template>
