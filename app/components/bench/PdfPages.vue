<script setup lang="ts">
import { getDocument, GlobalWorkerOptions } from 'pdfjs-dist'
import worker from 'pdfjs-dist/build/pdf.worker.min.mjs?url'

/** The first pages of a PDF file, drawn here; nothing in it runs. */
const props = defineProps<{ address: string }>()
const FIRST = 3
const holder = useTemplateRef<HTMLElement>('holder')
const trouble = ref<string | null>(null)
GlobalWorkerOptions.workerSrc = worker

async function draw() {
  holder.value?.replaceChildren()
  trouble.value = null
  try {
    const data = new Uint8Array(await (await fetch(props.address)).arrayBuffer())
    const document = await getDocument({ data, isEvalSupported: false, enableXfa: false }).promise
    for (let number = 1; number <= Math.min(FIRST, document.numPages); number++) {
      const page = await document.getPage(number)
      const width = holder.value?.clientWidth ?? 260
      const viewport = page.getViewport({ scale: (width / page.getViewport({ scale: 1 }).width) * devicePixelRatio })
      const canvas = window.document.createElement('canvas')
      canvas.width = viewport.width
      canvas.height = viewport.height
      canvas.style.width = '100%'
      canvas.setAttribute('role', 'img')
      canvas.setAttribute('aria-label', `page ${number} of ${document.numPages}`)
      holder.value?.append(canvas)
      await page.render({ canvasContext: canvas.getContext('2d')!, viewport }).promise
    }
    await document.destroy()
  } catch {
    trouble.value = 'It is damaged: no page can be shown.'
  }
}
onMounted(draw)
watch(() => props.address, draw)
</script>

<template>
  <p v-if="trouble" class="text-russet-ink">{{ trouble }}</p>
  <div
    ref="holder"
    class="max-h-[330px] space-y-2 overflow-y-auto border border-line bg-sheet"
    tabindex="0"
    aria-label="First pages"
    data-test="pdf"
  />
</template>
