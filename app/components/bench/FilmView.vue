<script setup lang="ts">
/**
 * A film with a still that says something: films often begin in the dark. Where every still is dark, its sound is drawn instead;
 * without sound its name stands there.
 */
const props = defineProps<{ address: string; name: string; bytes: number }>()
const emit = defineEmits<{ broken: [] }>()

/** Where a still is looked for, as fractions of the film. */
const PLACES = [0.02, 0.1, 0.3, 0.5, 0.7, 0.9] as const
const [WIDTH, HEIGHT] = [64, 36]
/** Of the brightness of a still (0 to 255): less is one colour, with the noise of a sensor. */
const MIN_SPREAD = 10
/** A worn medium may take as long for each. */
const MAX_SEEK_MS = 8000

const film = useTemplateRef<HTMLVideoElement>('film')
const state = ref<'looking' | 'shown' | 'dark'>('looking')
let still = 0

watch(
  () => props.address,
  () => {
    state.value = 'looking'
    still = 0
  },
)

async function look() {
  const { address } = props
  for (const place of PLACES) {
    const own = film.value
    if (!own || address !== props.address || state.value !== 'looking') return
    await soughtTo(own, place * own.duration)
    if (address !== props.address || !own.paused) return
    still = own.currentTime
    if (spreadOf(own) >= MIN_SPREAD) {
      state.value = 'shown'
      return
    }
  }
  state.value = 'dark'
}

const soughtTo = (own: HTMLVideoElement, seconds: number) =>
  new Promise<void>((done) => {
    const timer = setTimeout(done, MAX_SEEK_MS)
    own.addEventListener(
      'seeked',
      () => {
        clearTimeout(timer)
        done()
      },
      { once: true },
    )
    own.currentTime = Number.isFinite(seconds) ? seconds : 0
  })

/** The standard deviation of the brightness of what is shown. */
function spreadOf(own: HTMLVideoElement): number {
  const canvas = new OffscreenCanvas(WIDTH, HEIGHT)
  const context = canvas.getContext('2d', { willReadFrequently: true })!
  context.drawImage(own, 0, 0, WIDTH, HEIGHT)
  const { data } = context.getImageData(0, 0, WIDTH, HEIGHT)
  let [sum, squares] = [0, 0]
  for (let at = 0; at < data.length; at += 4) {
    const light = 0.3 * data[at]! + 0.6 * data[at + 1]! + 0.1 * data[at + 2]!
    sum += light
    squares += light * light
  }
  const count = data.length / 4
  return Math.sqrt(Math.max(0, squares / count - (sum / count) ** 2))
}

/** Playing begins at the beginning, wherever the still was. */
function fromStart() {
  if (state.value === 'looking') state.value = 'shown'
  if (film.value && still > 0 && film.value.currentTime === still) film.value.currentTime = 0
  still = 0
}
</script>

<template>
  <figure class="m-0" :data-still="state" data-test="film">
    <video
      ref="film"
      :src="address"
      controls
      muted
      preload="auto"
      class="w-full bg-dusk"
      :class="state === 'dark' ? 'h-[54px]' : 'max-h-[230px]'"
      data-test="video"
      @loadedmetadata="look"
      @play="fromStart"
      @error="emit('broken')"
    />
    <figcaption v-if="state === 'dark'" class="mt-1">
      <SoundWave :address="address" :bytes="bytes" :is-alone="false" />
      <span class="text-[13px] text-soft">
        {{ name }}: dark wherever it was looked at; with its sound on, it may be heard.
      </span>
    </figcaption>
  </figure>
</template>
