<script setup lang="ts">
import { periodsOf, type KeptPeriod, type PeriodName } from '~~/core/playbook/periods'

const session = useSessionStore()
const playbooks = usePlaybookStore()
const drafts = useDraftStore()
const trouble = ref<string | null>(null)
async function load() {
  trouble.value = null
  try {
    await playbooks.need()
    if (session.may('playbook')) await drafts.load()
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
await load()
const isMine = computed(() => session.may('playbook'))
const GROUPS: readonly { which: PeriodName; title: string; says: string }[] = [
  {
    which: 'kept',
    title: 'What was deleted, saved over or turned back',
    says: 'Counted from the loss. A bin may be emptied any day between the two.',
  },
  {
    which: 'until-replaced',
    title: 'Copies that a newer one replaces',
    says: 'Counted from the day the copy was taken, where nobody knows when the next one comes.',
  },
  {
    which: 'bin-in-backup',
    title: 'A bin that was backed up with the device',
    says: 'Counted from the loss to the day of the backup: within it the bin still held the items.',
  },
]
const periods = computed(() => (drafts.drafted ? periodsOf(drafts.drafted) : []))
const groups = computed(() =>
  GROUPS.map((group) => ({ ...group, periods: periods.value.filter(({ which }) => which === group.which) })).filter(
    (group) => group.periods.length > 0,
  ),
)
const keyOf = ({ kind, which }: KeptPeriod) => `${kind} ${which}`

useHead({ title: 'Playbook' })
</script>

<template>
  <div v-if="trouble" class="p-10"><ErrorNote :words="trouble" @again="load" /></div>
  <div
    v-else-if="playbooks.playbook"
    class="mx-auto grid max-w-[1320px] gap-x-14 gap-y-10 px-6 py-6 desk:grid-cols-[minmax(0,1fr)_minmax(0,1fr)] desk:px-8"
  >
    <DraftBar v-if="isMine && drafts.draft" class="desk:col-span-2" />
    <section aria-labelledby="periods">
      <NuxtLink to="/compare" class="quiet-action mb-4" data-test="to-compare">Compare routes</NuxtLink>
      <h1 id="periods" class="text-[26px]">How long things are kept</h1>
      <p class="mt-1 max-w-[62ch] text-soft">
        {{
          isMine
            ? 'Change a period when an account or device turns out to keep things longer or shorter. It goes into a draft, which shows the plans that it would change.'
            : 'The periods used in plans. Only the owner can change them.'
        }}
      </p>
      <section v-for="group in groups" :key="group.which" class="mt-6" :aria-label="group.title">
        <h2 class="text-[18px]">{{ group.title }}</h2>
        <p class="text-[15px] text-soft">{{ group.says }}</p>
        <ul class="mt-2 divide-y divide-line border-y border-line">
          <PeriodLine v-for="period in group.periods" :key="keyOf(period)" :kept="period" :is-mine="isMine" />
        </ul>
      </section>
    </section>
    <div>
      <ModelTable :models="playbooks.playbook.shop.models" :is-mine="isMine" />
      <WeightLines class="mt-10" :shop="playbooks.playbook.shop" :is-mine="isMine" />
      <VersionList v-if="isMine" class="mt-10" />
      <PlaybookFile v-if="isMine" class="mt-6" />
    </div>
    <RouteList class="desk:col-span-2" />
  </div>
</template>
