<script setup lang="ts">
import { heldFor, lentTo, placeOf, type Thing } from '~~/core/cases/shape/custody'
import { deviceWords } from '~~/core/cases/telling/words'

/** What the shop holds of the client's, and what it has lent: taken in, moved, given back. */
defineProps<{ isNext: boolean }>()
const store = useOpenCaseStore()
const shop = useHandoverStore()
const clock = useClockWords()
const session = useSessionStore()
const things = computed(() => store.asItIs.things)
const held = computed(() => heldFor(things.value))
const out = computed(() => lentTo(things.value))
const gone = computed(() => things.value.filter((one) => !held.value.includes(one) && !out.value.includes(one)))
const notHere = computed(() =>
  store.asItIs.devices.filter(({ id }) => !held.value.some((thing) => thing.part === id)).map(deviceWords),
)
const doing = ref<'take-in' | 'give-back' | 'lend' | null>(null)
const moving = ref<Thing | null>(null)
const taking = ref<Thing | null>(null)
const photosOf = (thing: Thing) =>
  (shop.answer?.attachments ?? []).filter(({ kind, part }) => kind === 'photo' && part === thing.id)

async function photographed(event: Event, thing: Thing) {
  const [file] = (event.target as HTMLInputElement).files ?? []
  ;(event.target as HTMLInputElement).value = ''
  if (file) await shop.attach(file, 'photo', thing.id)
}
const lastWords = (thing: Thing) => {
  const last = thing.steps.at(-1)!
  const who = last.person ? ` to ${last.person}` : ''
  const word = {
    received: 'taken in',
    lent: 'lent',
    moved: 'moved',
    returned: 'given back',
    back: 'back',
    disposed: 'disposed of',
  }
  return `${word[last.step]}${last.step === 'received' ? '' : who} ${clock.momentOf(last.at)}, ${last.by}`
}
</script>

<template>
  <section aria-labelledby="custody" data-test="custody">
    <h2 id="custody" class="text-[19px]">In the shop</h2>
    <ul v-if="things.length > 0" class="mt-1">
      <li v-for="thing in held" :key="thing.id" class="border-t border-line py-2 text-[14.5px]" data-test="thing">
        <p class="flex items-baseline gap-3">
          <strong class="min-w-0 flex-1 truncate" :title="thing.words">{{ thing.words }}</strong>
          <span class="figure text-[14px]">{{ placeOf(thing) || 'no place named' }}</span>
          <button type="button" class="link" @click="moving = thing">move</button>
        </p>
        <p class="text-soft">
          {{
            [
              thing.serial && `serial ${thing.serial}`,
              thing.steps.findLast((one) => one.condition)?.condition,
              thing.steps.findLast((one) => one.accessories)?.accessories,
            ]
              .filter(Boolean)
              .join(' · ') || 'condition not recorded'
          }}
        </p>
        <p class="mt-1 flex flex-wrap items-center gap-2 text-[13px] text-soft">
          <a
            v-for="photo in photosOf(thing)"
            :key="photo.id"
            :href="shop.path(`/attachments/${photo.id}`)"
            target="_blank"
          >
            <img
              :src="shop.path(`/attachments/${photo.id}`)"
              :alt="`Photo of ${thing.words}`"
              class="h-[44px] w-[58px] object-cover"
            />
          </a>
          <label class="link cursor-pointer focus-within:outline-2">
            add a photo …
            <input
              type="file"
              accept="image/*"
              capture="environment"
              class="sr-only"
              @change="photographed($event, thing)"
            />
          </label>
          <span>{{ lastWords(thing) }}</span>
        </p>
      </li>
      <li
        v-for="thing in out"
        :key="thing.id"
        class="flex items-baseline gap-3 border-t border-line py-2 text-[14.5px]"
        data-test="loan"
      >
        <span class="min-w-0 flex-1">
          <strong>{{ thing.words }}</strong>
          <span class="text-soft">· our loan, {{ lastWords(thing) }}</span>
        </span>
        <button type="button" class="link" @click="taking = thing">take back</button>
      </li>
      <li v-for="thing in gone" :key="thing.id" class="border-t border-line py-1.5 text-[14px] text-soft">
        {{ thing.words }}: {{ lastWords(thing) }}
      </li>
    </ul>
    <p v-else class="mt-1 text-[14.5px] text-soft">Nothing was taken in yet.</p>
    <div class="mt-2 flex flex-wrap gap-2">
      <button
        v-if="notHere.length > 0 || held.length === 0"
        type="button"
        :class="isNext && held.length === 0 ? 'main-action' : 'quiet-action'"
        data-test="take-in"
        @click="doing = 'take-in'"
      >
        Take in …
      </button>
      <button
        v-if="held.length > 0"
        type="button"
        :class="isNext ? 'main-action' : 'quiet-action'"
        data-test="give-back"
        @click="doing = 'give-back'"
      >
        Give back …
      </button>
      <button type="button" class="quiet-action" @click="doing = 'lend'">Lend a device …</button>
      <NuxtLink v-if="held.length > 0" :to="`/print/${store.code}/tag`" class="quiet-action" data-test="tag">
        Print a tag
      </NuxtLink>
    </div>
    <TakeIn v-if="doing === 'take-in'" @close="doing = null" />
    <GiveBack v-if="doing === 'give-back'" @close="doing = null" />
    <LendDevice v-if="doing === 'lend'" @close="doing = null" />
    <MoveThing v-if="moving" :thing="moving" :may-dispose="session.may('close')" @close="moving = null" />
    <TakeLoanBack v-if="taking" :thing="taking" @close="taking = null" />
  </section>
</template>

<style scoped>
.link {
  min-height: 24px;
  color: var(--russet-ink);
  text-decoration: underline dotted;
  font-size: 13.5px;
}
</style>
