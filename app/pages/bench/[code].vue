<script setup lang="ts">
import { useIntervalFn, useThrottleFn } from '@vueuse/core'
import { known } from '~~/core/cases/shape/fact'
import { DELETIONS } from '~~/core/cases/shape/loss'
import { endsOf } from '~~/core/bench/days'
import type { FindFilter } from '~~/core/bench/filter'
import type { ActionName } from '~~/core/bench/action'
import { isShut } from '~~/core/bench/words'
import { titleOf } from '~~/core/cases/telling/title'
import { TYPE_WORDS } from '~~/core/cases/telling/words'

const route = useRoute()
const router = useRouter()
const store = useOpenCaseStore()
const bench = useBenchStore()
const session = useSessionStore()
const code = String(route.params.code)
const trouble = ref<string | null>(null)
const isAttaching = ref(false)
const comparing = ref<{ action: ActionName; from: string } | null>(null)

async function load() {
  trouble.value = null
  try {
    await Promise.all([store.open(code), bench.open(code)])
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
await load()

/** What is at hand stands in the address, so that a reload comes back to it. */
const chosen = computed(() => {
  const wanted = typeof route.query.on === 'string' ? route.query.on : null
  const links = bench.bench?.links ?? []
  return (
    links.find((one) => one.id === wanted)?.id ??
    bench.bench?.faults.find((one) => one.link === wanted)?.link ??
    links[0]?.id ??
    null
  )
})
const link = computed(() => bench.bench?.links.find((one) => one.id === chosen.value) ?? null)
const fault = computed(() => bench.bench?.faults.find((one) => one.link === chosen.value) ?? null)
/** Nothing found is shown then, to nobody. */
const isRefused = computed(() => store.asItIs.consent.lookThrough.answer === 'refused')
const lookId = computed(() => {
  if (isRefused.value) return null
  const wanted = Number(route.query.look)
  const own = bench.bench?.looks.filter((one) => one.link === chosen.value) ?? []
  // What a medium holds is known by its newest pass, and stands there without being asked for.
  return (own.find((one) => one.id === wanted) ?? (link.value?.kind === 'medium' ? own[0] : undefined))?.id ?? null
})
const look = computed(() => bench.bench?.looks.find((one) => one.id === lookId.value) ?? null)
const go = (query: Record<string, string | undefined>) => void router.replace({ query: { ...route.query, ...query } })
const choose = (id: string) => go({ on: id, look: undefined, open: undefined })

const linkId = computed(() => (link.value?.kind === 'medium' ? link.value.id : null))
const { medium, pass } = usePasses(linkId)
/** How the next pass is chosen, while it is. */
const choosing = ref<'quick' | 'both' | null>(null)
watch(linkId, () => (choosing.value = null))
/** A run of a deep scan and a format want the content; otherwise the records come first. */
const firstPass = computed(() =>
  /deep-scan|formatted/.test(run.value?.option ?? '') || store.current.loss.how === 'formatted' ? 'both' : 'quick',
)

const filter = ref<FindFilter>({})
watch(lookId, () => (filter.value = {}))
/** What is wanted is shown first, once it is known that some of it is there. */
const greeted = ref<number | null>(null)
const shownLook = computed(() => lookId.value ?? 0)
const finds = useFinds(shownLook, filter)
watch([() => look.value?.state, () => look.value?.total], () => lookId.value !== null && void finds.refresh())
watch(finds.counts, (counts) => {
  if (!counts || lookId.value === null || greeted.value === lookId.value) return
  const isListing = look.value?.state === 'listing'
  const isSomeThere = counts.wanted.some((one) => one.found > 0)
  // A pass goes on for long: as soon as some of what is wanted is there, that is shown.
  if (isListing && (linkId.value === null || !isSomeThere)) return
  greeted.value = lookId.value
  // A sentence that somebody has said meanwhile stays as it is.
  if (isSomeThere && Object.values(filter.value).every((word) => word === undefined)) filter.value = { wanted: 'any' }
})
const opened = computed(() =>
  lookId.value !== null && typeof route.query.open === 'string' ? Number(route.query.open) : null,
)

async function startLook(keep: string) {
  const id = link.value && (await bench.look(link.value.id, keep))
  if (id !== null) go({ on: chosen.value ?? undefined, look: String(id), open: undefined })
}
/** Dates lay items out by day; records and documents stand as a list. */
const isByDay = computed(() => {
  const types = finds.counts.value?.types ?? []
  const pictures = types
    .filter(({ type }) => ['photos', 'videos', 'audio'].includes(type))
    .reduce((sum, one) => sum + one.count, 0)
  const chosenType = filter.value.type
  return chosenType
    ? ['photos', 'videos', 'audio'].includes(chosenType)
    : pictures * 2 > (finds.counts.value?.total ?? 0)
})
const view = ref<'days' | 'list' | 'folders' | null>(null)
const shownView = computed(() => view.value ?? (isByDay.value ? 'days' : linkId.value ? 'folders' : 'list'))
/** No more is marked than the button says: not while a listing still grows, nor while its number is of another sentence. */
const canMarkAll = computed(() => finds.isOfFilter.value && (linkId.value !== null || look.value?.state !== 'listing'))
/** Nothing is marked yet of what was found: that is the next thing to do. */
const isNextToMark = computed(
  () =>
    linkId.value !== null &&
    pass.value?.state !== 'running' &&
    (finds.counts.value?.matching ?? 0) > 0 &&
    finds.counts.value?.marked === 0,
)
const views = computed(() =>
  [
    { id: 'days' as const, words: 'by day', isThere: isByDay.value },
    { id: 'folders' as const, words: 'by folder', isThere: linkId.value !== null },
    { id: 'list' as const, words: 'as a list', isThere: true },
  ].filter(({ id, isThere }) => isThere && id !== shownView.value),
)

/** The stretch of the medium that is brushed, as part of the sentence. */
const brushed = computed({
  get: () =>
    filter.value.fromByte !== undefined && filter.value.toByte !== undefined
      ? ([filter.value.fromByte, filter.value.toByte] as const)
      : null,
  set: (stretch) => (filter.value = { ...filter.value, fromByte: stretch?.[0], toByte: stretch?.[1] }),
})
/** What a pass finds comes into the list as it goes, without being counted anew for each of it. */
watch(
  [() => pass.value?.progress?.found, () => pass.value?.state],
  useThrottleFn(() => void finds.refresh(), 2000, true),
)
function passBegun(look: number) {
  choosing.value = null
  go({ on: chosen.value ?? undefined, look: String(look), open: undefined })
}

const wantedTypes = computed(() => store.current.wanted.flatMap((set) => (known(set.type) ? [set.type] : [])))
const nextWords = computed(() =>
  wantedTypes.value.length > 0 ? `Look for the ${TYPE_WORDS[wantedTypes.value[0]!]}` : 'Look through all of it',
)
/** The one place in which most of what is wanted can be, or all of them. */
const nextKeep = computed(() => {
  const open = (link.value?.keeps ?? []).filter(
    (keep) =>
      keep.closed === null &&
      keep.isOn &&
      keep.count > 0 &&
      !['backup', 'earlier-state', 'restore-point'].includes(keep.kind),
  )
  const fitting = open.filter((keep) =>
    keep.types.some((type) => wantedTypes.value.includes(type) || wantedTypes.value.includes('files')),
  )
  // What was deleted waits in a bin; what was saved over stands in earlier states, of which the right one is chosen by its time.
  const isDeletion = !known(store.current.loss.how) || DELETIONS.includes(store.current.loss.how)
  const gone = fitting.filter((keep) => keep.kind === 'bin')
  if (isDeletion && gone.length === 1) return gone[0]!.id
  if (fitting.length === 1) return fitting[0]!.id
  return open.length > 0 ? '*' : null
})
const readApps = computed(() => link.value?.actions.find((one) => one.action === 'read-apps') ?? null)
const needsReading = computed(
  () =>
    link.value?.keeps.some(
      (keep) =>
        keep.kind === 'apps' && keep.closed !== null && keep.types.some((type) => wantedTypes.value.includes(type)),
    ) ?? false,
)
const isReading = computed(
  () => link.value?.tasks.some((task) => task.action === 'read-apps' && task.state === 'running') ?? false,
)
const canRestore = computed(
  () =>
    bench.bench?.links.some(
      (one) => one.kind === 'phone' && one.actions.some((action) => action.action === 'restore'),
    ) ?? false,
)
const backupCount = computed(
  () => (bench.bench?.links ?? []).flatMap((one) => one.keeps).filter((keep) => keep.backup).length,
)
/** A backup is restored onto the device, wherever it lies. */
const phone = computed(() => bench.bench?.links.find((one) => one.kind === 'phone') ?? null)
const comparedLink = computed(() => (comparing.value?.action === 'restore' ? phone.value : link.value))

useBenchNews()
useIntervalFn(() => void store.refresh(), 6000)
useSingleKeys({
  escape: () =>
    opened.value !== null
      ? go({ open: undefined })
      : lookId.value !== null && linkId.value === null
        ? go({ look: undefined })
        : void navigateTo(`/cases/${code}`),
  l: () =>
    linkId.value === null &&
    nextKeep.value !== null &&
    lookId.value === null &&
    session.may('work') &&
    !isRefused.value &&
    void startLook(nextKeep.value),
})
const title = computed(() => titleOf(store.current))
const run = computed(() => store.current.runs.find((one) => one.ended === null) ?? null)
useHead({ title: () => `Bench · ${title.value}` })

/** Chosen in the days view: that day alone, as a list. */
function openDay(day: string) {
  const { first, last } = endsOf(day)
  filter.value =
    day === 'none'
      ? { ...filter.value, isUndated: true, fromDay: undefined, toDay: undefined }
      : { ...filter.value, isUndated: undefined, fromDay: first, toDay: last }
  view.value = 'list'
}
</script>

<template>
  <div v-if="trouble || (bench.trouble && !bench.bench)" class="p-10">
    <ErrorNote :words="trouble ?? bench.trouble!" @again="load" />
  </div>
  <div v-else-if="bench.bench" class="bench">
    <div class="flex items-baseline gap-4 px-5 pt-2">
      <h1 class="min-w-0 truncate text-[21px]" :title="title">{{ title }}</h1>
      <NuxtLink :to="`/cases/${code}`" class="figure shrink-0 text-[14px] underline decoration-dotted">
        {{ code }}
      </NuxtLink>
      <p class="min-w-0 truncate text-[14px] text-soft">
        {{
          run ? `under way: ${run.title}` : 'no run is open: what is copied here counts for the case, and for no route'
        }}
      </p>
      <p v-if="bench.trouble" role="alert" class="text-[14px] text-russet-ink">{{ bench.trouble }}</p>
    </div>
    <BenchLinks :chosen="chosen" @choose="choose" @attach="isAttaching = true" />
    <div v-if="chosen === null" class="max-w-[34rem] px-5 py-12">
      <h2 class="text-xl">Nothing is on the bench for this case yet</h2>
      <p class="mt-2 text-soft">Connect the device, or sign in to the account, and say which part of the case it is.</p>
      <button v-if="session.may('work')" type="button" class="main-action mt-4" @click="isAttaching = true">
        Put something on the bench
      </button>
    </div>
    <p v-else-if="fault" role="alert" class="px-5 py-8 text-[17px]">{{ fault.says }}</p>
    <template v-else-if="link">
      <template v-if="medium">
        <PassStrip
          :medium="medium"
          :pass="pass"
          :counts="finds.counts.value"
          :is-choosing="choosing !== null || pass === null"
          @choose="(kind: 'quick' | 'both') => (choosing = kind)"
        />
        <MediumSection
          v-model="brushed"
          :medium="medium"
          :pass="pass"
          :found="pass ? (finds.counts.value?.section ?? null) : null"
        />
      </template>
      <LinkStrip v-else-if="lookId === null || isShut(link.state)" :link="link" />
      <div class="work">
        <div class="main-column">
          <LookRefused v-if="isRefused" :code="code" />
          <PassStart
            v-else-if="medium && session.may('work') && (choosing !== null || pass === null)"
            :key="medium.link"
            :medium="medium"
            :first="choosing ?? firstPass"
            :can-leave="pass !== null"
            @begun="passBegun"
            @leave="choosing = null"
          />
          <p v-else-if="medium && pass === null" class="py-6 text-soft">Nobody has read this medium yet.</p>
          <template v-else-if="look">
            <div class="flex flex-wrap items-start gap-x-5 gap-y-1 border-b border-line pb-2">
              <button
                v-if="!medium"
                type="button"
                class="quiet-action mt-1"
                @click="go({ look: undefined, open: undefined })"
              >
                ‹ {{ look.title }}
              </button>
              <FoundSentence v-model="filter" :counts="finds.counts.value" class="min-w-0 flex-1" />
            </div>
            <p v-if="finds.trouble.value" role="alert" class="text-russet-ink">{{ finds.trouble.value }}</p>
            <p v-if="look.state === 'listing' && !medium" role="status" class="py-1 text-[14px] text-soft">
              Listing … {{ countOf(look.total, 'item') }} so far
            </p>
            <p v-if="look.state === 'broken-off'" role="alert" class="py-1 text-[14px] text-russet-ink">
              {{ look.says }} What had been listed stands here.
              <button type="button" class="underline decoration-dotted" @click="startLook(look.keep)">
                Look again
              </button>
            </p>
            <p
              v-if="finds.counts.value && finds.counts.value.matching === 0 && look.state !== 'listing'"
              class="py-8 text-[16px]"
            >
              {{ finds.counts.value.total === 0 ? 'It holds nothing.' : 'Nothing of it fits the sentence.' }}
              <button
                v-if="finds.counts.value.total > 0"
                type="button"
                class="underline decoration-dotted"
                @click="filter = {}"
              >
                Show all {{ finds.counts.value.total.toLocaleString('en-GB') }}
              </button>
            </p>
            <div v-else class="found">
              <FoundDays
                v-if="shownView === 'days'"
                :finds="finds"
                :look="look.id"
                :opened="opened"
                @open="(id: number) => go({ open: String(id) })"
                @day="openDay"
              />
              <FoundFolders
                v-else-if="shownView === 'folders'"
                v-model="filter"
                :finds="finds"
                :look="look.id"
                :opened="opened"
                @open="(id: number) => go({ open: String(id) })"
              />
              <FoundRows v-else :finds="finds" :opened="opened" @open="(id: number) => go({ open: String(id) })" />
            </div>
            <p class="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-line pt-2 text-[13.5px] text-soft">
              <button
                v-if="session.may('work')"
                type="button"
                class="quiet-action"
                :class="{ 'next-action': isNextToMark }"
                data-test="mark-all"
                :disabled="!canMarkAll"
                @click="finds.mark({ filter }, (finds.counts.value?.matching ?? 0) > 0 && !(filter.isMarked ?? false))"
              >
                mark all {{ (finds.counts.value?.matching ?? 0).toLocaleString('en-GB') }}
              </button>
              <button
                v-if="session.may('work')"
                type="button"
                class="quiet-action"
                @click="finds.mark({ filter }, false)"
              >
                unmark all
              </button>
              <button v-for="one in views" :key="one.id" type="button" class="quiet-action" @click="view = one.id">
                {{ one.words }}
              </button>
              <span>
                <kbd class="key-cap">Space</kbd>
                mark
              </span>
              <span v-if="shownView === 'days'">
                <kbd class="key-cap">Shift Space</kbd>
                mark the day
              </span>
              <span>
                <kbd class="key-cap">Enter</kbd>
                look closer
              </span>
            </p>
          </template>
          <div v-else class="overflow-y-auto pb-8">
            <div v-if="!isShut(link.state) && session.may('work')" class="mb-3 flex flex-wrap items-center gap-4">
              <p v-if="isReading" role="status">Being read. Do not touch it meanwhile.</p>
              <button
                v-else-if="needsReading && readApps"
                type="button"
                class="main-action"
                data-test="next"
                @click="comparing = { action: 'read-apps', from: '' }"
              >
                Read the rows of its apps
              </button>
              <button
                v-else-if="nextKeep"
                type="button"
                class="main-action"
                :disabled="bench.isBusy"
                data-test="next"
                @click="startLook(nextKeep)"
              >
                {{ nextWords }}
                <kbd class="key-cap">L</kbd>
              </button>
              <p v-else-if="link.keeps.length > 0 && backupCount === 0" class="text-soft">
                It holds nothing that could be looked through.
              </p>
            </div>
            <BackupChooser
              v-if="backupCount > 0 && nextKeep === null"
              :can-restore="canRestore"
              class="mb-6"
              @restore="(from: string) => (comparing = { action: 'restore', from })"
            />
            <KeepTable
              v-if="!isShut(link.state)"
              :link="link"
              @look="startLook"
              @turn-back="(keep: string) => (comparing = { action: 'turn-back', from: `${link!.id}/${keep}` })"
            />
            <BackupChooser
              v-if="backupCount > 0 && nextKeep !== null"
              :can-restore="canRestore"
              class="mt-6"
              @restore="(from: string) => (comparing = { action: 'restore', from })"
            />
            <ActionList
              v-if="!isShut(link.state)"
              :link="link"
              class="mt-6"
              @compare="(action: ActionName) => (comparing = { action, from: '' })"
            />
            <PractisePanel v-if="link.isStandIn && session.may('work')" :link="link" class="mt-6" />
          </div>
        </div>
        <aside class="side-column" aria-label="Shelf and preview" tabindex="0">
          <FindPreview v-if="look && opened !== null" :look="look.id" :find="opened" class="mb-4" />
          <ShelfSide
            :look="lookId"
            :counts="finds.counts.value"
            :link="link"
            @copied="lookId !== null && void finds.refresh()"
          />
          <RunReportForm
            v-if="run && session.may('work') && (lookId === null || linkId !== null) && opened === null"
            :key="`${run.id} ${JSON.stringify(run.shelf)}`"
            :run="run"
            :kind="null"
            class="mt-4 border-t border-line pt-3"
          />
        </aside>
      </div>
    </template>
    <AttachLinks v-if="isAttaching" @close="isAttaching = false" />
    <CompareStep
      v-if="comparing && comparedLink"
      :link="comparedLink"
      :action="comparing.action"
      :from="comparing.from"
      @close="comparing = null"
    />
  </div>
</template>

<style scoped>
.next-action {
  border: 2px solid var(--russet);
  color: var(--russet-ink);
  font-family: var(--font-head);
  font-weight: 650;
}
.bench {
  display: flex;
  flex-direction: column;
  height: calc(100vh - 46px);
  min-height: 560px;
}
.work {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
}
.main-column {
  display: flex;
  flex-direction: column;
  min-height: 0;
  padding: 12px 0 10px 20px;
  border-right: 1px solid var(--line);
}
.main-column > * {
  padding-right: 18px;
}
.found {
  flex: 1;
  min-height: 0;
  padding-right: 0 !important;
}
.side-column {
  overflow-y: auto;
  padding: 12px 18px 24px;
}
@media (max-width: 900px) {
  .bench {
    height: auto;
  }
  .work {
    grid-template-columns: minmax(0, 1fr);
  }
  .main-column {
    border-right: 0;
    padding-right: 20px;
  }
  .found {
    min-height: 60vh;
  }
}
</style>
