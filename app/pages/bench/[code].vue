<script setup lang="ts">
import { runAt } from '~~/core/cases/shape/open-runs'
import { openingStop } from '~~/core/cases/shape/permission'
import { useIntervalFn, useThrottleFn } from '@vueuse/core'
import type { FindFilter } from '~~/core/bench/filter'
import type { ActionName } from '~~/core/bench/action'
import { EVERYTHING, firstPass, nextKeep } from '~~/core/bench/next'
import { isShut } from '~~/core/bench/words'
import { titleOf } from '~~/core/cases/telling/title'

const route = useRoute()
const router = useRouter()
const store = useOpenCaseStore()
const bench = useBenchStore()
const session = useSessionStore()
const code = String(route.params.code)
const trouble = ref<string | null>(null)
const isAttaching = ref(false)
/** Files being brought in: what was dropped, or null where somebody chooses. */
const bringing = shallowRef<{ dropped: DragEvent | null } | null>(null)
const comparing = ref<{ action: ActionName; from: string; items?: string[] } | null>(null)

async function load() {
  trouble.value = null
  try {
    await Promise.all([store.open(code), bench.open(code)])
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
await load()

/** The selected link is part of the address, so that a reload returns to it. */
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
/** the part of the case that it is attached to */
const part = computed(
  () => bench.bench?.parts.find((one) => one.link !== null && one.link === chosen.value)?.part ?? null,
)
const fault = computed(() => bench.bench?.faults.find((one) => one.link === chosen.value) ?? null)
/** The client refused that their data are looked at: nobody sees any items. */
const stop = computed(() => openingStop(store.asItIs))
const listingId = computed(() => {
  if (stop.value) return null
  const wanted = Number(route.query.listing)
  const own = bench.bench?.listings.filter((one) => one.link === chosen.value) ?? []
  // A medium shows the results of its newest scan without being asked.
  return (own.find((one) => one.id === wanted) ?? (link.value?.kind === 'medium' ? own[0] : undefined))?.id ?? null
})
const listing = computed(() => bench.bench?.listings.find((one) => one.id === listingId.value) ?? null)
const go = (query: Record<string, string | undefined>) => void router.replace({ query: { ...route.query, ...query } })
const choose = (id: string) => go({ on: id, listing: undefined, open: undefined })

const linkId = computed(() => (link.value?.kind === 'medium' ? link.value.id : null))
const { medium, pass } = usePasses(linkId)
/** Where the next scan starts, while somebody chooses that. */
const choosing = ref<'quick' | 'both' | null>(null)
watch(linkId, () => (choosing.value = null))
const first = computed(() => firstPass(store.current))
const next = computed(() => nextKeep(link.value?.keeps ?? [], store.current))

const filter = ref<FindFilter>({})
watch(listingId, () => (filter.value = {}))
/** Wanted items are shown first, once it is known that there are any. */
const greeted = ref<number | null>(null)
const shownListing = computed(() => listingId.value ?? 0)
const finds = useFinds(shownListing, filter)
watch([() => listing.value?.state, () => listing.value?.total], () => {
  if (listingId.value === null) return
  if (linkId.value === null) finds.outdate()
  else void finds.refresh()
})
watch(finds.counts, (counts) => {
  if (!counts || listingId.value === null || greeted.value === listingId.value) return
  const isListing = listing.value?.state === 'listing'
  const isSomeThere = counts.wanted.some((one) => one.found > 0)
  // A scan runs for a long time: wanted items are shown as soon as there are any.
  if (isListing && (linkId.value === null || !isSomeThere)) return
  greeted.value = listingId.value
  // A filter that somebody has set in the meantime stays.
  if (isSomeThere && Object.values(filter.value).every((word) => word === undefined)) filter.value = { wanted: 'any' }
})
const opened = computed(() =>
  listingId.value !== null && typeof route.query.open === 'string' ? Number(route.query.open) : null,
)

async function startListing(keep: string, on = link.value?.id ?? null) {
  const id = on === null ? null : await bench.list(on, keep)
  if (id !== null) go({ on: on ?? undefined, listing: String(id), open: undefined })
}

const mayBring = computed(() => session.may('work') && !stop.value)
function drop(event: DragEvent) {
  if (mayBring.value && event.dataTransfer?.types.includes('Files')) bringing.value = { dropped: event }
}
/** Files that were brought in are listed at once. */
async function brought(on: string) {
  bringing.value = null
  await bench.load()
  await startListing(EVERYTHING, on)
}
onMounted(() => {
  if (route.query.bring !== undefined && mayBring.value) bringing.value = { dropped: null }
})
/** The brushed range of the medium, as part of the filter. */
const brushed = computed({
  get: () =>
    filter.value.fromByte !== undefined && filter.value.toByte !== undefined
      ? ([filter.value.fromByte, filter.value.toByte] as const)
      : null,
  set: (stretch) => (filter.value = { ...filter.value, fromByte: stretch?.[0], toByte: stretch?.[1] }),
})
/** New results of a scan are added to the list without counting everything again each time. */
watch(
  [() => pass.value?.progress?.found, () => pass.value?.state],
  useThrottleFn(() => void finds.refresh(), 2000, true),
)
function passBegun(listing: number) {
  choosing.value = null
  go({ on: chosen.value ?? undefined, listing: String(listing), open: undefined })
}

/** A backup is restored to the device, wherever the backup is stored. */
const phone = computed(() => bench.bench?.links.find((one) => one.kind === 'phone') ?? null)
const comparedLink = computed(() => (comparing.value?.action === 'restore' ? phone.value : link.value))

useBenchNews()
useIntervalFn(() => void store.refresh(), 1500)
useSingleKeys({
  escape: [
    'close what is open, or back to the case',
    () =>
      opened.value !== null
        ? go({ open: undefined })
        : listingId.value !== null && linkId.value === null
          ? go({ listing: undefined })
          : void navigateTo(`/cases/${code}`),
  ],
  l: [
    'list what is there',
    () =>
      linkId.value === null &&
      next.value !== null &&
      listingId.value === null &&
      session.may('work') &&
      !stop.value &&
      void startListing(next.value),
  ],
})
const title = computed(() => titleOf(store.current))
/** The run that work on the link at hand counts for. */
const run = computed(() => runAt(store.current, part.value))
useHead({ title: () => `Bench · ${title.value}` })
</script>

<template>
  <div v-if="trouble || (bench.trouble && !bench.bench)" class="p-10">
    <ErrorNote :words="trouble ?? bench.trouble!" @again="load" />
  </div>
  <div v-else-if="bench.bench" class="bench" @dragover.prevent @drop.prevent="drop">
    <div class="flex items-baseline gap-4 px-5 pt-2 max-md:flex-wrap max-md:gap-x-4 max-md:gap-y-0">
      <h1 class="min-w-0 truncate text-[21px]" :title="title">{{ title }}</h1>
      <NuxtLink :to="`/cases/${code}`" class="figure shrink-0 text-[14px] underline decoration-dotted">
        {{ code }}
      </NuxtLink>
      <p class="min-w-0 truncate text-[14px] text-soft">
        {{ run ? `under way: ${run.title}` : 'No run is open: copied items count for the case but not for a route.' }}
      </p>
      <p v-if="bench.trouble" role="alert" class="text-[14px] text-russet-ink">{{ bench.trouble }}</p>
    </div>
    <BenchLinks
      :chosen="chosen"
      :may-bring="mayBring"
      @choose="choose"
      @attach="isAttaching = true"
      @bring="bringing = { dropped: null }"
    />
    <div v-if="chosen === null" class="max-w-[34rem] px-5 py-12">
      <h2 class="text-xl">Nothing is attached to this case yet</h2>
      <p class="mt-2 text-soft">
        Connect the device or sign in to the account, then attach it to the device or copy of this case that it is.
        Files that you fetched by hand can be dropped here.
      </p>
      <OpeningStop v-if="stop" :stop="stop" class="mt-4" />
      <div v-if="session.may('work')" class="mt-4 flex flex-wrap gap-3">
        <button type="button" class="main-action" @click="isAttaching = true">Attach a device or copy</button>
        <button v-if="mayBring" type="button" class="quiet-action" @click="bringing = { dropped: null }">
          Bring in files …
        </button>
      </div>
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
        <VolumeVerdicts :medium="medium" :part="part" />
      </template>
      <LinkStrip v-else-if="listingId === null || isShut(link.state)" :link="link" />
      <div class="work">
        <div class="main-column">
          <OpeningStop v-if="stop" :stop="stop" class="max-w-[34rem]" />
          <PassStart
            v-else-if="medium && session.may('work') && (choosing !== null || pass === null)"
            :key="medium.link"
            :medium="medium"
            :first="choosing ?? first"
            :can-leave="pass !== null"
            @begun="passBegun"
            @leave="choosing = null"
          />
          <p v-else-if="medium && pass === null" class="py-6 text-soft">This medium has not been scanned yet.</p>
          <FoundPanel
            v-else-if="listing"
            :key="listing.id"
            v-model="filter"
            :listing="listing"
            :finds="finds"
            :opened="opened"
            :is-medium="medium !== null"
            :is-growing="pass?.state === 'running'"
            @open="(id: number) => go({ open: String(id) })"
            @back="go({ listing: undefined, open: undefined })"
            @again="startListing(listing.keep)"
          />
          <KeepPanel
            v-else
            :link="link"
            :next="next"
            @list="startListing"
            @compare="(action: ActionName, from: string) => (comparing = { action, from })"
          />
        </div>
        <aside class="side-column" aria-label="Shelf and preview" tabindex="0">
          <FindPreview v-if="listing && opened !== null" :listing="listing.id" :find="opened" class="mb-4" />
          <ShelfSide
            :listing="listingId"
            :counts="finds.counts.value"
            :link="link"
            @copied="listingId !== null && void finds.refresh()"
            @in-place="(from: string, items: string[]) => (comparing = { action: 'put-back-from-bin', from, items })"
          />
          <RunReportForm
            v-if="run && session.may('work') && (listingId === null || linkId !== null) && opened === null"
            :key="`${run.id} ${JSON.stringify(run.shelf)}`"
            :run="run"
            :kind="null"
            class="mt-4 border-t border-line pt-3"
          />
        </aside>
      </div>
    </template>
    <AttachLinks v-if="isAttaching" @close="isAttaching = false" />
    <BringFiles
      v-if="bringing"
      :dropped="bringing.dropped"
      :run="typeof route.query.bring === 'string' ? route.query.bring : null"
      @close="bringing = null"
      @brought="brought"
    />
    <CompareStep
      v-if="comparing && comparedLink"
      :link="comparedLink"
      :action="comparing.action"
      :from="comparing.from"
      :items="comparing.items"
      @close="comparing = null"
    />
  </div>
</template>

<style scoped>
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
}
</style>
