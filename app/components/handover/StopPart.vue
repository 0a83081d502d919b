<script setup lang="ts">
import { FREEZE_CAUSES, frozenBy, type FreezeCause } from '~~/core/cases/shape/freeze'
import { FREEZE_WORDS } from '~~/core/handover/words'

/** What to do when something illegal or somebody else's data is met, or police or a court ask. */
const store = useOpenCaseStore()
const session = useSessionStore()
const shop = useHandoverStore()
const clock = useClockWords()
const stop = computed(() => frozenBy(store.asItIs.freezes))
const isStopping = ref(false)
const isLifting = ref(false)
const cause = ref<FreezeCause>('illegal')
const says = ref('')
const told = ref('')
const paper = ref<number | null>(null)
const reason = ref('')
async function done() {
  const isDone = await shop.act({
    do: 'freeze',
    cause: cause.value,
    says: says.value,
    told: told.value,
    paper: paper.value,
  })
  if (!isDone) return
  isStopping.value = false
  if (!session.may('people')) await navigateTo('/')
}
async function lift() {
  if (await shop.act({ do: 'lift', reason: reason.value })) isLifting.value = false
}
async function scanned(event: Event) {
  const [file] = (event.target as HTMLInputElement).files ?? []
  if (file) paper.value = await shop.attach(file, 'paper')
}
</script>

<template>
  <section aria-labelledby="stopping" data-test="stopping">
    <div v-if="stop" class="border-2 border-russet p-3 text-[15px]" role="alert">
      <h2 id="stopping" class="text-[19px]">■ This case is stopped</h2>
      <p class="mt-1">{{ FREEZE_WORDS[stop.cause] }}: {{ stop.says }}</p>
      <p v-if="stop.told" class="mt-1">Told: {{ stop.told }}</p>
      <p class="mt-1 text-[14px] text-soft">{{ stop.by }}, {{ clock.momentOf(stop.at) }}. Only owners see this case.</p>
      <button v-if="session.may('people')" type="button" class="quiet-action mt-2" @click="isLifting = true">
        Lift the stop …
      </button>
    </div>
    <details v-else class="text-[14.5px]">
      <summary id="stopping" class="min-h-[24px] cursor-pointer text-soft underline decoration-dotted">
        Something illegal, somebody else’s data, or police?
      </summary>
      <ol class="mt-1 list-decimal space-y-1 pl-5">
        <li>Stop looking. Do not copy, delete or move anything, and do not show it to anybody.</li>
        <li>Leave device and data as they are. Note what was met and where, in as few words as are needed.</li>
        <li>Tell the owner, who decides whom else to tell. Do not tell the client.</li>
        <li>Police or a court: ask for the paper and who they are, and give nothing out without the owner.</li>
      </ol>
      <button type="button" class="quiet-action mt-2" data-test="stop-case" @click="isStopping = true">
        Stop this case …
      </button>
    </details>
    <ShopDialog
      v-if="isStopping"
      title="Stop this case"
      verb="Stop the case"
      :is-busy="shop.isBusy"
      :is-ready="says.trim() !== ''"
      @close="isStopping = false"
      @done="done"
    >
      <p class="text-[14.5px]">
        Device and data stay as they are. Nobody but the owner sees the case until an owner lifts the stop.
      </p>
      <fieldset>
        <legend class="sr-only">Why</legend>
        <label v-for="one in FREEZE_CAUSES" :key="one" class="flex min-h-[30px] items-center gap-2.5">
          <input v-model="cause" type="radio" :value="one" class="size-4 accent-[var(--russet)]" />
          {{ FREEZE_WORDS[one] }}
        </label>
      </fieldset>
      <FormField v-model="says" label="What was met, and where" />
      <FormField v-model="told" label="Who was told, and when" />
      <label v-if="cause === 'police-or-court'" class="quiet-action cursor-pointer">
        {{ paper === null ? 'Picture or PDF of the request …' : '✓ the request is added' }}
        <input type="file" accept="image/*,application/pdf" class="sr-only" @change="scanned" />
      </label>
    </ShopDialog>
    <ShopDialog
      v-if="isLifting"
      title="Lift the stop"
      verb="Lift it"
      :is-busy="shop.isBusy"
      :is-ready="reason.trim() !== ''"
      @close="isLifting = false"
      @done="lift"
    >
      <FormField v-model="reason" label="Why" />
    </ShopDialog>
  </section>
</template>
