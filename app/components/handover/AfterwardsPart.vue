<script setup lang="ts">
import { AfterwardsAnswer, type AfterwardsWrite } from '~~/core/afterwards/record'
import { heldWords, PART_HOLDS, PART_WORDS, recordWords, STOP_WORDS, WIPING_MEANS } from '~~/core/afterwards/words'
import type { WipedPart } from '~~/core/cases/shape/wiping'

/** When the case is wiped, what is held until then, and what was wiped. */
const store = useOpenCaseStore()
const session = useSessionStore()
const shop = useHandoverStore()
const clock = useClockWords()
const answer = shallowRef<AfterwardsAnswer | null>(null)
const isBusy = ref(false)
const wiping = ref<WipedPart | null>(null)
const isKeeping = ref(false)
const until = ref('')
const code = ref('')
const reason = ref('')

async function load() {
  if (!session.may('work') || store.code === null) return
  try {
    answer.value = await api(AfterwardsAnswer, 'GET', shop.path('/afterwards'))
  } catch (error) {
    tellFailure(error)
  }
}
watch(() => [store.code, store.version], load, { immediate: true })

async function act(write: AfterwardsWrite): Promise<boolean> {
  isBusy.value = true
  try {
    answer.value = await api(AfterwardsAnswer, 'POST', shop.path('/afterwards'), write)
    await Promise.all([store.refresh(), shop.load()])
    return true
  } catch (error) {
    tellFailure(error)
    return false
  } finally {
    isBusy.value = false
  }
}
function begin(part: WipedPart) {
  code.value = ''
  reason.value = ''
  wiping.value = part
}
async function wipe() {
  const part = wiping.value!
  if (!(await act({ do: 'wipe', part, code: code.value, reason: reason.value }))) return
  wiping.value = null
  tellDone(`Wiped ${PART_WORDS[part]} of ${store.code}.`)
}
async function keep() {
  const day = until.value === '' ? null : `${until.value}T12:00:00.000Z`
  if (await act({ do: 'keep', until: day })) isKeeping.value = false
}
const standings = computed(() => answer.value?.standings ?? [])
/** nothing is decided yet while the case goes on */
const goesOn = computed(() => standings.value.every(({ stop }) => stop === 'not-ended'))
const asking = computed(() => standings.value.find(({ part }) => part === wiping.value)?.asks ?? [])
const canWipe = (part: WipedPart) => session.may(part === 'person' ? 'people' : 'close')
</script>

<template>
  <section v-if="answer" aria-labelledby="afterwards" data-test="afterwards">
    <h2 id="afterwards" class="text-[19px]">Afterwards</h2>
    <p v-if="goesOn" class="mt-1 text-[14.5px] text-soft">
      {{ STOP_WORDS['not-ended'] }} Held now: {{ heldWords(answer.held) }}.
    </p>
    <div v-for="one in goesOn ? [] : standings" :key="one.part" class="mt-1 border-t border-line py-1.5 text-[14.5px]">
      <WipeLine :standing="one" />
      <div v-if="one.state !== 'wiped' && one.state !== 'held'" class="mt-1 flex flex-wrap gap-2">
        <button v-if="canWipe(one.part)" type="button" class="quiet-action" @click="begin(one.part)">
          Wipe {{ PART_WORDS[one.part] }} now …
        </button>
        <button
          v-if="one.part === 'data' && session.may('close')"
          type="button"
          class="quiet-action"
          @click="isKeeping = true"
        >
          Keep longer …
        </button>
      </div>
      <p v-else-if="one.stop" class="text-soft">{{ STOP_WORDS[one.stop] }}</p>
    </div>
    <p v-if="!goesOn" class="text-[14.5px] text-soft">Held now: {{ heldWords(answer.held) }}.</p>
    <p v-if="answer.own.length > 0" class="text-[14.5px]">
      Among them, from the shop’s own folders:
      <span class="figure text-[13px]">{{ answer.own.join(', ') }}</span>
    </p>
    <details v-if="answer.outside.length > 0" class="text-[14.5px]">
      <summary class="min-h-[24px] cursor-pointer text-soft underline decoration-dotted">
        {{ answer.outside.length === 1 ? 'One place' : `${answer.outside.length} places` }} outside of the shop’s data
        folder
      </summary>
      <p>These were read, or written to, for this case. Nobody but you can wipe them:</p>
      <ul class="figure text-[13px]">
        <li v-for="path in answer.outside" :key="path" class="break-all">{{ path }}</li>
      </ul>
    </details>
    <details v-if="answer.records.length > 0" class="text-[14.5px]" open data-test="wipe-records">
      <summary class="min-h-[24px] cursor-pointer text-soft underline decoration-dotted">What was wiped</summary>
      <p v-for="record in answer.records" :key="record.id" class="mt-1">
        {{ clock.momentOf(record.at) }}: {{ recordWords(record) }}. Backups of the shop from before hold it until
        {{ clock.dayOf(record.backupsUntil) }}, as long as your settings say that you keep them.
      </p>
      <p class="mt-1 text-soft">{{ WIPING_MEANS }}</p>
    </details>
    <ShopDialog
      v-if="wiping"
      :title="`Wipe ${PART_WORDS[wiping]} of ${store.code}`"
      verb="Wipe it for good"
      :is-busy="isBusy"
      :is-ready="code.trim() !== '' && (asking.length === 0 || reason.trim() !== '')"
      @close="wiping = null"
      @done="wipe"
    >
      <p class="text-[14.5px]">
        {{ PART_HOLDS[wiping] }}
        <template v-if="wiping === 'person' && standings[0]?.state !== 'wiped'">The data go with it.</template>
        This cannot be undone.
      </p>
      <p v-if="standings[0]?.state !== 'wiped'" class="text-[14.5px]">Held now: {{ heldWords(answer.held) }}.</p>
      <WipeAsks :asks="asking" />
      <FormField
        v-model="reason"
        label="Why"
        :hint="asking.length > 0 ? 'needed, since something is not settled' : 'such as: the client asked for it'"
      />
      <FormField v-model="code" :label="`Type the code of the case, ${store.code}`" />
    </ShopDialog>
    <ShopDialog
      v-if="isKeeping"
      title="Keep the data longer"
      verb="Keep them"
      :is-busy="isBusy"
      @close="isKeeping = false"
      @done="keep"
    >
      <p class="text-[14.5px]">Until a later day than your shop’s period. Without a day, the period counts again.</p>
      <FormField v-model="until" type="date" label="Until" />
    </ShopDialog>
  </section>
</template>
