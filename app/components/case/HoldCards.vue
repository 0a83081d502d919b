<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'
import type { PlanHold } from '~~/core/ranking/situation/plan-shape'

/** What nobody may do while the case is open: ticked when done, or waived with a reason. */
const props = defineProps<{ holds: readonly PlanHold[]; order: readonly string[]; chosen: string | null }>()
const store = useOpenCaseStore()
const session = useSessionStore()
const waiving = ref<PlanHold | null>(null)
const reason = ref('')

const next = computed(() => props.chosen ?? props.order[0] ?? '')
/** Holds that protect a route of the plan or the chosen route, and those that stand whatever is open; what blocks the next step comes first. */
const cards = computed(() =>
  props.holds
    .filter(
      ({ protects }) => isStanding(protects) || protects.some((id) => id === next.value || props.order.includes(id)),
    )
    .map((hold) => {
      const mark = store.current.holds.find((one) => one.hold === hold.id) ?? null
      return {
        ...hold,
        mark,
        // What will happen by itself at a set time is always shown in full.
        isTimed: mark === null && hold.id.startsWith('stop-backup'),
        isNeeded: mark === null && hold.protects.includes(next.value),
        words:
          mark === null ? null : mark.mark === 'ticked' ? `done by ${mark.by}` : `waived by ${mark.by}: ${mark.reason}`,
      }
    })
    .sort((one, other) => urgency(one) - urgency(other)),
)
/** What protects no single route follows from the facts alone; so do all holds where nothing is left to try. */
const isStanding = (protects: readonly string[]) => protects.length === 0 || props.order.length === 0
const urgency = (card: { isNeeded: boolean; mark: unknown }) => (card.isNeeded ? 0 : card.mark === null ? 1 : 2)

async function toggle(hold: PlanHold, isSelected: boolean) {
  const was = store.current.holds.find((one) => one.hold === hold.id)
  if (!(await store.markHold(hold.id, isSelected ? null : 'ticked'))) return
  if (isSelected && was) tellDone('Hold reopened.', () => void store.markHold(was.hold, was.mark, was.reason))
}

async function waive() {
  if (!waiving.value || reason.value.trim() === '') return
  if (await store.markHold(waiving.value.id, 'waived', reason.value)) waiving.value = null
}

function ask(hold: PlanHold) {
  reason.value = ''
  waiving.value = hold
}
</script>

<template>
  <section v-if="cards.length > 0" aria-label="Holds" class="hold-cards">
    <div
      v-for="hold in cards"
      :key="hold.id"
      class="hold"
      :class="{ 'is-open': !hold.mark, 'is-needed': hold.isNeeded }"
      :title="hold.words ? `${hold.says} (${hold.words})` : hold.says"
      data-test="hold"
      :data-hold="hold.id"
    >
      <label class="flex min-w-0 flex-1 cursor-pointer gap-2.5">
        <input
          type="checkbox"
          :checked="hold.mark !== null"
          class="mt-[2px] size-[17px] shrink-0 accent-[var(--held)]"
          @change.prevent="toggle(hold, hold.mark !== null)"
        />
        <span class="min-w-0">
          <span :class="{ 'font-bold': hold.isNeeded }">
            {{ hold.what }}{{ hold.why && (hold.isNeeded || hold.isTimed) ? ': ' : '' }}
          </span>
          <span v-if="hold.words" class="sr-only">, {{ hold.words }}</span>
          <span v-if="hold.why && (hold.isNeeded || hold.isTimed)" class="text-[12.5px] text-soft">
            {{ hold.why }}.
          </span>
        </span>
      </label>
      <button
        v-if="!hold.mark && session.may('work')"
        type="button"
        class="waive"
        :aria-label="`Waive: ${hold.says}`"
        @click="ask(hold)"
      >
        waive
      </button>
    </div>
    <Dialog :open="waiving !== null" class="relative z-40" @close="waiving = null">
      <div class="fixed inset-0 bg-dusk/60" aria-hidden="true" />
      <div class="fixed inset-0 flex items-center justify-center p-6">
        <DialogPanel class="w-full max-w-[32rem] border border-line bg-paper p-6">
          <DialogTitle class="text-xl">Waive this hold?</DialogTitle>
          <p class="mt-2">{{ waiving?.says }}</p>
          <form class="mt-4" @submit.prevent="waive">
            <label class="block font-bold" for="waive-reason">Reason</label>
            <textarea id="waive-reason" v-model="reason" rows="3" maxlength="400" class="field mt-1" />
            <div class="mt-4 flex justify-between">
              <button type="button" class="quiet-action" @click="waiving = null">Keep the hold</button>
              <button type="submit" class="main-action" :disabled="reason.trim() === ''">Waive hold</button>
            </div>
          </form>
        </DialogPanel>
      </div>
    </Dialog>
  </section>
</template>

<style scoped>
.hold-cards {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
  align-items: stretch;
}
.hold {
  display: flex;
  gap: 6px;
  padding: 3px 7px;
  font-size: 13.5px;
  line-height: 1.25;
  background: var(--held-ground);
  border: 2px solid var(--held-ground);
}
.hold {
  flex: 0 1 auto;
  max-width: 100%;
  min-height: 32px;
}
/* A hold that blocks the next step has room for its reason. */
.hold.is-needed {
  flex: 1 1 300px;
}
.hold.is-open {
  background: transparent;
  border-color: var(--held);
}
.hold.is-needed {
  box-shadow: inset 3px 0 0 var(--russet);
}
@media (pointer: coarse) {
  .hold,
  .hold .waive {
    min-height: 44px;
  }
}
.waive {
  align-self: flex-start;
  min-height: 22px;
  padding: 0 3px;
  font-size: 13px;
  color: var(--soft);
  text-decoration: underline dotted;
}
</style>
