<script setup lang="ts">
import type { KeptPeriod } from '~~/core/playbook/periods'
import type { Period } from '~~/core/cases/shape/period'

/** One period of the playbook, edited in place. */
const props = defineProps<{ kept: KeptPeriod; isMine: boolean }>()
const drafts = useDraftStore()
const { send, problem } = useSending()
const wrong = ref<string | null>(null)
/** typed, but not saved yet because the other end must follow */
const typed = ref<Partial<Period>>({})
const id = useId()
const isShipped = computed(
  () =>
    !props.kept.shipped ||
    (props.kept.shipped.minDays === props.kept.period.minDays &&
      props.kept.shipped.maxDays === props.kept.period.maxDays),
)
const rangeWords = ({ minDays, maxDays }: Period) =>
  minDays === maxDays ? `${minDays} days` : `${minDays} to ${maxDays} days`
const note = computed(() => wrong.value ?? problem.value)

/** One end after the other: the second is typed while the first is still on its way. */
let last: Promise<unknown> = Promise.resolve()
const keep = (part: Partial<Period>) => (last = last.then(() => keepNow(part)))

async function keepNow(part: Partial<Period>) {
  typed.value = { ...typed.value, ...part }
  const period = { ...props.kept.period, ...typed.value }
  wrong.value = faultIn(period)
  if (wrong.value !== null) return
  const { kind, which, title } = props.kept
  const done = await send(() => drafts.change({ what: 'period', kind, which, period }))
  if (!done) return
  typed.value = {}
  tellDone(`${title}: ${rangeWords(period)} in the draft.`)
}

function undo() {
  typed.value = {}
  wrong.value = null
}

function faultIn({ minDays, maxDays }: Period): string | null {
  if (![minDays, maxDays].every((days) => Number.isFinite(days) && days >= 0 && days <= MAX_DAYS))
    return `Enter days from 0 to ${MAX_DAYS}.`
  return minDays > maxDays ? 'The minimum is greater than the maximum.' : null
}
const MAX_DAYS = 3660
</script>

<template>
  <li class="py-1">
    <div class="flex items-center gap-3">
      <span class="min-w-0 flex-1" :title="kept.note">{{ kept.title }}</span>
      <button
        v-if="isMine && !isShipped"
        type="button"
        class="min-h-[24px] text-[14px] text-russet-ink underline decoration-dotted"
        :aria-label="`${kept.title}: reset to ${rangeWords(kept.shipped!)}`"
        @click="keep({ ...kept.shipped! })"
      >
        Reset to {{ rangeWords(kept.shipped!) }}
      </button>
      <template v-if="isMine">
        <NumberField
          :label="`${kept.title}, minimum days`"
          :value="kept.period.minDays"
          :is-wrong="wrong !== null"
          :described-by="note ? id : undefined"
          @keep="(minDays) => keep({ minDays: minDays ?? Number.NaN })"
          @undo="undo"
        />
        <span class="text-soft">to</span>
        <NumberField
          :label="`${kept.title}, maximum days`"
          :value="kept.period.maxDays"
          :is-wrong="wrong !== null"
          :described-by="note ? id : undefined"
          @keep="(maxDays) => keep({ maxDays: maxDays ?? Number.NaN })"
          @undo="undo"
        />
        <span class="text-soft">days</span>
      </template>
      <span v-else class="figure">{{ rangeWords(kept.period) }}</span>
    </div>
    <p v-if="note" :id="id" role="alert" class="text-right text-[14px] font-bold text-russet-ink">{{ note }}</p>
  </li>
</template>
