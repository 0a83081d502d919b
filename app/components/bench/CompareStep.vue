<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'
import type { ActionName } from '~~/core/bench/action'
import type { Comparison, Guard } from '~~/core/bench/bench'
import type { LinkState } from '~~/core/bench/state'
import { lotWords } from '~~/core/bench/words'

/** A step before it is done: what will be lost, what will be restored, and what still has to be done first. */
const props = withDefaults(
  defineProps<{
    link: LinkState
    action: ActionName
    from: string
    /** the items that it is done to; all where it is not about items */
    items?: readonly string[]
  }>(),
  { items: () => [] },
)
const emit = defineEmits<{ close: [] }>()
const bench = useBenchStore()
const store = useOpenCaseStore()
const clock = useClockWords()
const compared = shallowRef<Comparison | null>(null)
const trouble = ref<string | null>(null)
const password = ref('')
const waiver = ref('')
/** the client's own password for the safety copy, where they want it sealed; never stored */
const isSealed = ref(false)
const sealing = ref('')
const source = ref(props.from)

/** From where contacts can be merged in: an account's, a SIM card's. */
const sources = computed(() =>
  (bench.bench?.links ?? []).flatMap((one) =>
    one.keeps
      .filter((keep) => keep.types.includes('contacts') && ['sim', 'files'].includes(keep.kind) && keep.count > 0)
      .map((keep) => ({ id: `${one.id}/${keep.id}`, words: `${keep.title} (${keep.count})` })),
  ),
)
const parameters = computed(() => ({ from: source.value, password: password.value, items: [...props.items] }))

async function load() {
  try {
    compared.value = await bench.compare(props.link.id, props.action, parameters.value)
    trouble.value = null
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
watch(
  [parameters, () => props.link.mark, () => props.link.isOnline, () => props.link.power?.isCharging],
  () => void load(),
  { immediate: true },
)

const unmet = computed(() => compared.value?.guards.filter((one) => !one.isMet) ?? [])
const canWaive = (guard: Guard) => guard.name === 'safety-copy' || guard.name === 'slot'
const standsInTheWay = computed(() => unmet.value.filter((one) => !canWaive(one) || waiver.value.trim() === ''))
const isOpenQuestion = (guard: Guard) => guard.precondition === 'password'

async function agree() {
  store.set([{ fact: 'consent.erase.answer', is: 'given' }])
  await new Promise((wait) => setTimeout(wait, 400))
  await load()
}
async function tick(hold: string) {
  await store.markHold(hold, 'ticked')
  await load()
}
async function copyFirst() {
  if (await bench.safetyCopy(props.link.id, isSealed.value ? sealing.value : null)) await load()
}
async function ready(answer: 'charger' | 'network') {
  await bench.answer(props.link.id, answer, 'on')
  await load()
}
async function start() {
  const done = await bench.act(props.link.id, props.action, parameters.value, {
    comparison: compared.value?.comparison ?? '',
    waiver: waiver.value,
  })
  if (done) emit('close')
  else await load()
}
</script>

<template>
  <Dialog :open="true" class="relative z-40" @close="emit('close')">
    <div class="fixed inset-0 bg-dusk/60" aria-hidden="true" />
    <div class="fixed inset-0 flex items-start justify-center overflow-y-auto p-6">
      <DialogPanel class="w-full max-w-[46rem] border border-line bg-paper p-6" data-test="compare">
        <DialogTitle class="text-[22px]">{{ compared?.offer.title ?? 'Loading …' }}</DialogTitle>
        <p class="text-soft">{{ link.title }}. {{ compared?.offer.says }}</p>
        <p v-if="trouble" role="alert" class="mt-3 font-bold text-russet-ink">{{ trouble }}</p>
        <label v-if="action === 'merge-in'" class="mt-3 block">
          from
          <select v-model="source" class="field">
            <option value="">choose …</option>
            <option v-for="one in sources" :key="one.id" :value="one.id">{{ one.words }}</option>
          </select>
        </label>
        <template v-if="compared">
          <div class="mt-4 grid grid-cols-2 gap-6 max-md:grid-cols-1">
            <div data-test="gone">
              <h3 class="section-name">
                {{ compared.offer.effects.gone.length > 0 ? '▲ Will be lost' : 'Will be lost' }}
              </h3>
              <p v-if="compared.offer.effects.gone.length === 0 && !compared.offer.effects.replacesBackup">Nothing.</p>
              <ul>
                <li v-for="lot in compared.offer.effects.gone" :key="lot.type">{{ lotWords(lot, clock.dayOf) }}</li>
                <li v-if="compared.offer.effects.replacesBackup">The oldest backup: the new one takes its slot.</li>
              </ul>
            </div>
            <div data-test="back">
              <h3 class="section-name">Will be restored</h3>
              <p v-if="compared.offer.effects.back.length === 0">Nothing.</p>
              <ul>
                <li v-for="lot in compared.offer.effects.back" :key="lot.type">{{ lotWords(lot, clock.dayOf) }}</li>
              </ul>
            </div>
          </div>
          <ul class="mt-4 border-t border-line pt-2 text-[14.5px]" data-test="guards">
            <li v-for="guard in compared.guards" :key="guard.says" class="flex items-start gap-3 py-1">
              <span :class="guard.isMet ? 'text-held' : 'font-bold text-russet-ink'" aria-hidden="true">
                {{ guard.isMet ? '✓' : '○' }}
              </span>
              <span class="flex-1">
                <span class="sr-only">{{ guard.isMet ? 'done:' : 'still to do:' }}</span>
                {{ guard.says }}
              </span>
              <template v-if="!guard.isMet">
                <button v-if="guard.name === 'hold'" type="button" class="quiet-action" @click="tick(guard.hold ?? '')">
                  Confirm done
                </button>
                <button v-else-if="guard.name === 'consent'" type="button" class="quiet-action" @click="agree">
                  Record consent
                </button>
                <span v-else-if="guard.name === 'safety-copy'" class="flex flex-wrap items-center gap-2">
                  <button
                    type="button"
                    class="quiet-action"
                    :disabled="bench.isBusy || (isSealed && sealing.length < 8)"
                    @click="copyFirst"
                  >
                    {{ bench.isBusy ? 'Copying …' : 'Make the safety copy' }}
                  </button>
                  <label class="flex items-center gap-1.5 text-[14px]">
                    <input v-model="isSealed" type="checkbox" class="size-4 accent-[var(--russet)]" />
                    encrypted
                  </label>
                  <input
                    v-if="isSealed"
                    v-model="sealing"
                    type="password"
                    autocomplete="new-password"
                    class="field !w-[210px]"
                    aria-label="The client’s own password for the safety copy"
                    placeholder="the client’s own, 8 or more"
                  />
                </span>
                <button
                  v-else-if="guard.says.startsWith('It charges')"
                  type="button"
                  class="quiet-action"
                  @click="ready('charger')"
                >
                  On the charger
                </button>
                <button
                  v-else-if="guard.says.includes('network')"
                  type="button"
                  class="quiet-action"
                  @click="ready('network')"
                >
                  On the network
                </button>
                <input
                  v-else-if="isOpenQuestion(guard)"
                  v-model.lazy="password"
                  type="password"
                  autocomplete="off"
                  class="field max-w-[200px]"
                  aria-label="Password of the backup"
                  placeholder="its password"
                />
              </template>
            </li>
          </ul>
          <label v-if="unmet.some(canWaive)" class="mt-2 block text-[14px]">
            Proceed without it, because
            <input
              v-model="waiver"
              maxlength="400"
              class="field"
              placeholder="the reason is kept in the case history"
            />
          </label>
          <div class="mt-5 flex items-center justify-between gap-4">
            <button type="button" class="quiet-action" @click="emit('close')">Cancel</button>
            <p v-if="standsInTheWay.length > 0" class="text-[14px] text-soft">
              {{ countOf(standsInTheWay.length, 'condition') }} not met yet
            </p>
            <button
              type="button"
              class="main-action"
              :disabled="standsInTheWay.length > 0 || bench.isBusy"
              data-test="act"
              @click="start"
            >
              Start it{{ compared.offer.minutes >= 1 ? `, ${minutesWords(compared.offer.minutes)}` : '' }}
            </button>
          </div>
        </template>
      </DialogPanel>
    </div>
  </Dialog>
</template>
