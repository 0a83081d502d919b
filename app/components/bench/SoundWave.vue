<script setup lang="ts">
/** A sound with its waveform, played here; as a part of a film, its waveform alone. */
const props = withDefaults(defineProps<{ address: string; bytes: number; isAlone?: boolean }>(), { isAlone: true })
const BARS = 90
/** A waveform needs all of the sound in memory. */
const MAX_BYTES = 64 << 20
const peaks = ref<number[]>([])
const trouble = ref<string | null>(null)

watch(
  () => props.address,
  async (address) => {
    peaks.value = []
    trouble.value = null
    if (props.bytes > MAX_BYTES) return
    const context = new AudioContext()
    try {
      const sound = await context.decodeAudioData(await (await fetch(address)).arrayBuffer())
      const samples = sound.getChannelData(0)
      const each = Math.max(1, Math.floor(samples.length / BARS))
      peaks.value = Array.from({ length: BARS }, (_, bar) => {
        let peak = 0
        for (let at = bar * each; at < (bar + 1) * each; at++) peak = Math.max(peak, Math.abs(samples[at] ?? 0))
        return peak
      })
    } catch {
      trouble.value = 'It is damaged, or this type cannot be played here.'
    } finally {
      await context.close()
    }
  },
  { immediate: true },
)
</script>

<template>
  <svg
    v-if="peaks.length > 0"
    viewBox="0 0 270 60"
    class="w-full bg-dusk"
    role="img"
    aria-label="waveform"
    data-test="wave"
  >
    <rect
      v-for="(peak, at) in peaks"
      :key="at"
      :x="at * 3"
      :y="30 - peak * 27"
      width="2"
      :height="Math.max(1, peak * 54)"
      fill="#f2ae3d"
    />
  </svg>
  <p v-if="trouble && isAlone" class="text-russet-ink">{{ trouble }}</p>
  <!-- A sound of a client has no captions. -->
  <audio v-if="isAlone" :src="address" controls preload="metadata" class="mt-1 w-full" />
</template>
