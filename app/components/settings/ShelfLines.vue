<script setup lang="ts">
import { ShelfPlace } from '~~/core/bench/shelf-place'
import { editableNumber, readNumber } from '~~/core/local/numbers'

/** Where shelves of new cases are, and how much all of them may take. */
const place = shallowRef<ShelfPlace | null>(null)
const trouble = ref<string | null>(null)
const { isBusy, send, problem, problemOf } = useSending()
const folder = ref('')
const most = ref('')
/** JSON has no NaN: it would be sent as no limit */
const isNoNumber = ref(false)
async function load() {
  trouble.value = null
  try {
    show(await api(ShelfPlace, 'GET', '/api/shelf-place'))
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
function show(is: ShelfPlace) {
  place.value = is
  folder.value = is.folder ?? ''
  most.value = is.maxGigabytes === null ? '' : editableNumber(is.maxGigabytes)
}
onMounted(load)
const wish = computed(() => ({
  folder: folder.value.trim() || null,
  maxGigabytes: most.value.trim() === '' ? null : readNumber(most.value),
}))
const isChanged = computed(
  () =>
    place.value !== null &&
    (wish.value.folder !== place.value.folder || wish.value.maxGigabytes !== place.value.maxGigabytes),
)
async function save() {
  isNoNumber.value = Number.isNaN(wish.value.maxGigabytes)
  if (isNoNumber.value) return
  if (await send(async () => show(await api(ShelfPlace, 'PUT', '/api/shelf-place', wish.value)))) tellDone('Saved.')
}
</script>

<template>
  <section aria-labelledby="shelf-place" data-test="shelf-place">
    <h2 id="shelf-place" class="text-[19px]">Shelf</h2>
    <p class="text-[14.5px] text-soft">
      What comes back is copied there, in a folder for each case. A shelf that was begun stays where it is.
    </p>
    <ErrorNote v-if="trouble" :words="trouble" @again="load" />
    <form v-else-if="place" class="mt-1 space-y-2" novalidate @submit.prevent="save">
      <FormField
        v-model="folder"
        label="Folder for shelves"
        :hint="`an absolute path, such as on a disk of its own; empty for ${place.inDataFolder}`"
        :problem="problemOf('folder')"
      />
      <FormField
        v-model="most"
        label="At most, GB"
        inputmode="decimal"
        hint="all shelves together; empty for as much as the disk has"
        :problem="isNoNumber ? 'This is not a number.' : problemOf('maxGigabytes')"
      />
      <p class="text-[14.5px]" :class="{ 'font-bold text-russet-ink': place.free === null }">
        {{
          place.free === null
            ? 'This folder cannot be reached: its disk is not connected.'
            : `${sizeWords(place.free)} free there; all shelves hold ${sizeWords(place.used)}.`
        }}
      </p>
      <p v-if="problem" role="alert" class="text-[14.5px] font-bold text-russet-ink">{{ problem }}</p>
      <button v-if="isChanged" type="submit" class="quiet-action" :disabled="isBusy">Save the shelf</button>
    </form>
  </section>
</template>
