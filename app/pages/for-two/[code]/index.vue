<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'
import { useIntervalFn } from '@vueuse/core'
import { accountOf } from '~~/core/cases/shape/money'
import { agreementTo } from '~~/core/cases/shape/agreement'
import { known } from '~~/core/cases/shape/fact'
import { outcomeOf } from '~~/core/cases/shape/outcome'
import { TYPE_WORDS, countWords } from '~~/core/cases/telling/words'
import { agreementWords } from '~~/core/handover/agreement-words'
import { BackAnswer, type BackGroup } from '~~/core/handover/back'
import { litDays } from '~~/core/handover/lit-days'
import type { CheckMark } from '~~/core/cases/shape/delivery'
import type { Signature } from '~~/core/handover/signature'
import { priceWords } from '~~/core/handover/sheet-parts'

/** The screen that the client looks at beside the technician: what came back, and what they say of it. No other case. */
const route = useRoute()
const store = useOpenCaseStore()
const shop = useHandoverStore()
const session = useSessionStore()
const playbooks = usePlaybookStore()
const code = String(route.params.code)
const back = shallowRef<BackAnswer | null>(null)
const trouble = ref<string | null>(null)
async function load() {
  trouble.value = null
  try {
    await store.open(code)
    back.value = await api(BackAnswer, 'GET', shop.path('/hand-over/back'))
    await playbooks.need()
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
await load()
useIntervalFn(() => void store.refresh(), 1500)
const ofCase = computed(() => store.asItIs)
const client = computed(() => (known(ofCase.value.client.name) ? ofCase.value.client.name : 'the client'))

const sets = computed(() => {
  const counted = new Map(outcomeOf(ofCase.value).map((one) => [one.wanted, one]))
  return ofCase.value.wanted.map((set) => {
    const groups = back.value?.sets.find(({ wanted }) => wanted === set.id)?.groups ?? []
    const count = groups.reduce((sum, group) => sum + group.count, 0)
    const own = counted.get(set.id)!
    return {
      set,
      groups,
      what: known(set.type) ? TYPE_WORDS[set.type] : 'items',
      of: own.of,
      back: Math.max(count, own.back),
      damaged: groups.reduce((sum, group) => sum + group.damaged, 0),
      days: litDays(set, groups, session.shop.zone),
    }
  })
})
/** What came back besides: recovered, but in no wanted set, as where its date is not what was remembered. */
const others = computed(() => back.value?.sets.find(({ wanted }) => wanted === null)?.groups ?? [])
const heading = ({ of, what, back: count }: (typeof sets.value)[number]) =>
  of === null ? `${countWords(count, what)} are back` : `Of about ${countWords(of, what)}, ${count} are back`
const keyOf = (group: BackGroup) => group.day ?? 'undated'
const ownCheck = (wanted: string, group: string) =>
  ofCase.value.checks.find((one) => one.wanted === wanted && one.group === group) ?? null
/** What the client says of a group: of it alone, or else of all of them. */
const checkOf = (wanted: string, group: string) => ownCheck(wanted, group) ?? ownCheck(wanted, 'all')
const marked = computed(() => {
  const all = sets.value.flatMap(({ set, groups }) => groups.map((group) => checkOf(set.id, keyOf(group))))
  return {
    total: all.length,
    right: all.filter((one) => one?.mark === 'right').length,
    missing: all.filter((one) => one?.mark === 'missing').length,
    unsure: all.filter((one) => one?.mark === 'not-sure').length,
  }
})
const allRight = (wanted: string) => shop.act({ do: 'check', wanted, group: 'all', mark: 'right', note: '' })
const mark = (wanted: string, group: BackGroup, is: CheckMark, note: string) =>
  shop.act({ do: 'check', wanted, group: keyOf(group), mark: is, note })
const done = computed(() =>
  ofCase.value.runs
    .filter(({ ended }) => ended !== null)
    .map((run) => {
      const count = run.results.reduce((sum, result) => sum + result.back, 0)
      return `${run.title}: ${count > 0 ? `${count} came back` : 'nothing came back'}`
    }),
)
const account = computed(() => accountOf(ofCase.value.money))
const price = (amount: number) => priceWords(amount, session.shop.currency)
const signed = computed(() => agreementTo(ofCase.value.agreements, 'result'))
const isSigning = ref(false)
const signature = ref<Signature | null>(null)
const words = computed(() =>
  playbooks.playbook ? agreementWords(['result'], ofCase.value, playbooks.playbook.shop, null) : '',
)
async function sign() {
  const drawn = await shop.sign(signature.value!, client.value)
  if (drawn === null) return
  const isDone = await shop.act({
    do: 'agree',
    what: ['result'],
    person: client.value,
    behalf: '',
    how: 'signed-here',
    signature: drawn,
    limit: null,
    text: words.value,
  })
  if (isDone) isSigning.value = false
}
const looking = ref<number | null>(null)
/** All pictures that are shown, in their order: arrows go from one to the next. */
const pictures = computed(() =>
  (back.value?.sets ?? []).flatMap(({ groups }) =>
    groups.flatMap(({ samples }) => samples.filter(({ hasThumb }) => hasThumb).map(({ id }) => id)),
  ),
)
function step(by: number) {
  if (looking.value === null) return
  looking.value = pictures.value[pictures.value.indexOf(looking.value) + by] ?? looking.value
}
const thumb = (id: number) => shop.path(`/bench/shelf/${id}/thumb`)
const show = (day: string) =>
  document.getElementById(`day-${day}`)?.scrollIntoView({ block: 'center', behavior: 'auto' })
useHead({ title: () => `${back.value?.shop ?? ''} · ${code}` })
</script>

<template>
  <ForTwoFrame :code="code" :shop="back?.shop ?? ''">
    <div v-if="trouble" class="p-10">
      <p role="alert" class="text-[19px]">{{ trouble }}</p>
    </div>
    <div v-else class="grid desk:grid-cols-[minmax(0,1fr)_400px]">
      <div class="px-7 py-6">
        <h1 class="sr-only">What came back</h1>
        <p v-if="sets.length === 0" class="text-[19px]">It is not recorded yet what is wanted back.</p>
        <section v-for="one in sets" :key="one.set.id" class="mb-8">
          <h2 class="text-[30px] leading-tight" data-test="back-words">{{ heading(one) }}</h2>
          <p v-if="one.damaged > 0" class="mt-1 text-[18px]">{{ one.damaged }} of them open only in part.</p>
          <template v-if="one.days.length > 1">
            <LitStrip class="mt-3" :days="one.days" :what="one.what" @choose="show" />
            <p v-if="one.groups.length > 0" class="mt-1 text-[15px] text-soft">
              Dark days did not come back. Tap a day to see it.{{
                one.days.some(({ isMust }) => isMust) ? ' Those underlined matter most.' : ''
              }}
            </p>
          </template>
          <p v-if="one.groups.length === 0" class="mt-2 text-[18px] text-soft">Nothing of this is here yet.</p>
          <button
            v-if="one.groups.length > 2"
            type="button"
            class="quiet-action mt-3 !min-h-[44px] text-[16px]"
            :disabled="shop.isBusy"
            data-test="all-right"
            @click="allRight(one.set.id)"
          >
            All of it is right, but what is marked otherwise
          </button>
          <ul class="mt-3">
            <CheckRow
              v-for="group in one.groups"
              :key="keyOf(group)"
              :group="group"
              :check="checkOf(one.set.id, keyOf(group))"
              :thumb="thumb"
              :is-busy="shop.isBusy"
              @look="(id: number) => (looking = id)"
              @mark="(is: CheckMark, note: string) => mark(one.set.id, group, is, note)"
            />
          </ul>
        </section>
        <section v-if="others.length > 0">
          <h2 class="text-[24px] leading-tight">Also recovered</h2>
          <p class="mt-1 text-[17px] text-soft">
            Items that do not match what you described, perhaps because a date was remembered differently.
          </p>
          <ul class="mt-3">
            <CheckRow
              v-for="group in others"
              :key="keyOf(group)"
              :group="group"
              :thumb="thumb"
              :can-mark="false"
              @look="(id: number) => (looking = id)"
            />
          </ul>
        </section>
      </div>
      <aside
        class="border-l border-line bg-sheet px-6 py-6 text-[17px]"
        aria-label="What you say, what was done, what it costs"
      >
        <h2 class="text-[24px]">Is this what you lost?</h2>
        <p v-if="marked.total > 0" class="mt-1" aria-live="polite" data-test="marked">
          You looked at
          <strong>{{ marked.right + marked.missing + marked.unsure }} of {{ marked.total }}</strong>
          {{ marked.total === 1 ? 'group' : 'groups' }}:
          <span class="text-held">{{ `✓ ${marked.right} right,` }}</span>
          {{ marked.missing }} with something missing, {{ marked.unsure }} not sure.
        </p>
        <p v-else class="mt-1">Nothing is here to look through yet.</p>
        <template v-if="done.length > 0">
          <h3 class="mt-5 text-[19px]">What we did</h3>
          <ul class="mt-1 list-disc pl-5">
            <li v-for="(line, at) in done" :key="at">{{ line }}</li>
          </ul>
        </template>
        <template v-if="ofCase.outcome?.reasons">
          <h3 class="mt-5 text-[19px]">Not back, and why</h3>
          <p class="mt-1 whitespace-pre-line">{{ ofCase.outcome.reasons }}</p>
        </template>
        <template v-if="account.total > 0">
          <h3 class="mt-5 text-[19px]">It costs</h3>
          <p class="figure mt-1">
            {{ price(account.total) }}
            <template v-if="account.paid > 0">, {{ price(account.open) }} open</template>
          </p>
        </template>
        <div class="mt-6 border-t border-line pt-4">
          <p v-if="signed" class="text-held" data-test="signed">✓ {{ signed.person }} signed for the result.</p>
          <template v-else-if="isSigning">
            <p>{{ words }}</p>
            <SignaturePad v-model="signature" class="mt-2" label="Signature" />
            <button
              type="button"
              class="main-action mt-2"
              :disabled="signature === null || shop.isBusy"
              data-test="sign"
              @click="sign"
            >
              I have seen it
            </button>
          </template>
          <button v-else type="button" class="main-action !min-h-[44px] text-[18px]" @click="isSigning = true">
            Sign …
          </button>
        </div>
      </aside>
    </div>
    <Dialog v-if="looking !== null" :open="true" class="relative z-40" @close="looking = null">
      <div class="fixed inset-0 bg-dusk" aria-hidden="true" />
      <div class="fixed inset-0 flex flex-col items-center justify-center gap-3 p-4">
        <DialogPanel
          class="flex max-h-full flex-col items-center gap-3"
          @keydown.right.prevent="step(1)"
          @keydown.left.prevent="step(-1)"
        >
          <DialogTitle class="sr-only">A picture that came back</DialogTitle>
          <img
            :src="shop.path(`/bench/shelf/${looking}/picture`)"
            alt=""
            class="max-h-[82vh] max-w-[94vw] object-contain"
            data-test="large-picture"
          />
          <div class="flex gap-3">
            <button type="button" class="quiet-action !min-h-[44px]" @click="step(-1)">‹ Before</button>
            <button type="button" class="quiet-action !min-h-[44px]" @click="step(1)">Next ›</button>
            <button type="button" class="quiet-action !min-h-[44px]" @click="looking = null">Close</button>
          </div>
        </DialogPanel>
      </div>
    </Dialog>
  </ForTwoFrame>
</template>
