<script setup lang="ts">
import { ENDINGS, type Ending } from '~~/core/cases/shape/delivery'
import { outcomeOf } from '~~/core/cases/shape/outcome'
import { undamagedOf } from '~~/core/cases/shape/run'
import { ENDING_WORDS } from '~~/core/handover/words'
import { setWords } from '~~/core/cases/telling/words'

/** How the case ended, how many items went to the client, and the reasons for the report. */
const emit = defineEmits<{ close: [] }>()
const store = useOpenCaseStore()
const shop = useHandoverStore()
const before = store.asItIs.outcome
const counted = outcomeOf(store.asItIs)
const rows = reactive(
  store.asItIs.wanted.map((set) => {
    const own = counted.find(({ wanted }) => wanted === set.id)!
    return {
      wanted: set.id,
      words: setWords(set),
      of: own.of,
      back: own.back,
      undamaged: undamagedOf(own),
      count: String(before?.delivered.find(({ wanted }) => wanted === set.id)?.count ?? own.back),
    }
  }),
)
const total = rows.reduce((sum, { back }) => sum + back, 0)
const isAll = rows.every(({ of, undamaged }) => of !== null && undamaged >= of)
const ending = ref<Ending>(before?.ending ?? (total === 0 ? 'nothing' : isAll ? 'in-full' : 'in-part'))
const reasons = ref(before?.reasons ?? '')
const isReady = computed(() => rows.every(({ count }) => /^\d{1,9}$/.test(count.trim())))
async function done() {
  const delivered = rows.map(({ wanted, count }) => ({ wanted, count: Number(count) }))
  if (await shop.act({ do: 'outcome', ending: ending.value, reasons: reasons.value, delivered })) emit('close')
}
</script>

<template>
  <ShopDialog
    title="Outcome"
    verb="Record the outcome"
    :is-busy="shop.isBusy"
    :is-ready="isReady"
    @close="emit('close')"
    @done="done"
  >
    <fieldset>
      <legend class="text-[15px] font-bold">The case ended</legend>
      <label v-for="one in ENDINGS" :key="one" class="flex min-h-[30px] items-center gap-2.5">
        <input v-model="ending" type="radio" :value="one" class="size-4 accent-[var(--russet)]" />
        {{ ENDING_WORDS[one] }}
      </label>
    </fieldset>
    <div v-for="row in rows" :key="row.wanted">
      <FormField
        v-model="row.count"
        :label="`${row.words}: handed over`"
        inputmode="numeric"
        :hint="`${row.back} came back${row.of === null ? '' : ` of ${row.of}`}`"
      />
    </div>
    <label class="block">
      <span class="text-[15px] font-bold">What did not come back, and why</span>
      <textarea v-model="reasons" rows="4" maxlength="2000" class="field mt-1" />
      <span class="text-[14px] text-soft">One reason a line, in the client’s words. It stands in the report.</span>
    </label>
  </ShopDialog>
</template>
