<script setup lang="ts">
import SignaturePad from 'signature_pad'
import type { Signature } from '~~/core/handover/signature'

/** A field to sign in with finger, pen or mouse. Only the points leave it. */
const signature = defineModel<Signature | null>({ required: true })
defineProps<{ label: string }>()
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
let pad: SignaturePad | null = null

function take() {
  const field = canvas.value
  if (!pad || !field) return
  const { width, height } = field.getBoundingClientRect()
  const inside = (value: number, most: number) => Math.min(most, Math.max(0, value))
  const strokes = pad
    .toData()
    .map(({ points }) => points.map(({ x, y }): [number, number] => [inside(x, width), inside(y, height)]))
    .filter((points) => points.length > 0)
  signature.value = strokes.length === 0 ? null : { width: Math.round(width), height: Math.round(height), strokes }
}

onMounted(() => {
  const field = canvas.value!
  const { width, height } = field.getBoundingClientRect()
  const ratio = Math.max(1, window.devicePixelRatio)
  field.width = width * ratio
  field.height = height * ratio
  field.getContext('2d')!.scale(ratio, ratio)
  pad = new SignaturePad(field, { penColor: '#1d1613', minWidth: 0.8, maxWidth: 2.4 })
  pad.addEventListener('endStroke', take)
})
onBeforeUnmount(() => pad?.off())
function clear() {
  pad?.clear()
  signature.value = null
}
</script>

<template>
  <div>
    <p class="text-[15px] font-bold">{{ label }}</p>
    <canvas
      ref="canvas"
      class="mt-1 block h-[150px] w-full touch-none border border-soft bg-white"
      :aria-label="`${label}: field to sign in`"
      role="img"
      data-test="signature"
    />
    <button type="button" class="mt-1 min-h-[24px] text-[14px] underline decoration-dotted" @click="clear">
      Sign again
    </button>
  </div>
</template>
