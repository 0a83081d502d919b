<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { type ArchiveFacts, BenchOverview } from '~~/core/bench/bench'

/** Every link of the shop, and the case that it is attached to. */
const overview = ref<BenchOverview | null>(null)
const trouble = ref<string | null>(null)
const session = useSessionStore()

async function load() {
  try {
    overview.value = await api(BenchOverview, 'GET', '/api/bench')
    trouble.value = null
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
onMounted(load)
// While a medium is being read, its state is asked for now and then.
useIntervalFn(() => {
  if (overview.value && overview.value.passes.length > 0) void load()
}, 2000)
const clock = useClockWords()
const archiveWords = (archive: ArchiveFacts) => archiveSays(archive, clock.momentOf)
const KINDS = [
  { kind: 'phone', title: 'Phones and tablets' },
  { kind: 'account', title: 'Accounts' },
  { kind: 'computer', title: 'Computers' },
  { kind: 'medium', title: 'Media and disk images' },
  { kind: 'backups', title: 'Backups in folders' },
] as const
const groups = computed(() =>
  KINDS.map((group) => ({ ...group, links: (overview.value?.links ?? []).filter((one) => one.kind === group.kind) })),
)
useHead({ title: 'Bench' })
</script>

<template>
  <div class="mx-auto max-w-[1240px] px-5 py-5">
    <h1 class="text-[24px]">On the bench</h1>
    <p class="text-[15px] text-soft">What is connected, and to which case it is attached. Open a case to work on it.</p>
    <ErrorNote v-if="trouble" :words="trouble" class="mt-4" @again="load" />
    <p v-else-if="!overview" role="status" class="mt-8 text-soft">Loading what is connected …</p>
    <section v-if="overview && overview.passes.length > 0" aria-labelledby="passes" class="mt-4" data-test="under-way">
      <h2 id="passes" class="text-[18px]">Scans</h2>
      <ul class="mt-1">
        <li
          v-for="pass in overview.passes"
          :key="pass.id"
          class="flex min-h-[34px] items-center gap-4 border-t border-line text-[15px]"
        >
          <NuxtLink
            :to="{ path: `/bench/${pass.code}`, query: { on: pass.link } }"
            class="figure shrink-0 text-[13.5px] text-russet-ink underline decoration-dotted"
          >
            {{ pass.code }}
          </NuxtLink>
          <span class="min-w-0 flex-1 truncate">{{ pass.title }}</span>
          <span class="figure text-[13.5px]">{{ passSays(pass) }}</span>
          <span class="w-[150px] text-right text-[13.5px] text-soft">
            {{
              pass.state === 'running' && pass.progress?.secondsLeft != null ? leftWords(pass.progress.secondsLeft) : ''
            }}
          </span>
        </li>
      </ul>
    </section>
    <p
      v-if="overview && overview.links.length === 0"
      class="mt-6 max-w-[62ch] border-l-2 border-russet pl-4"
      data-test="begin"
    >
      To begin, bring in a medium: upload a disk image below, or put one into the media folder.
      {{
        session.may('playbook') ? 'Or name a folder with backups and files.' : 'Owners also name folders with backups.'
      }}
      Then open a case, and attach it there.
    </p>
    <div v-if="overview && !trouble" class="mt-5 grid gap-x-12 gap-y-8 desk:grid-cols-2">
      <section v-for="group in groups" :key="group.kind" :aria-labelledby="group.kind">
        <h2 :id="group.kind" class="text-[18px]">{{ group.title }}</h2>
        <p v-if="group.links.length === 0" class="mt-1 text-[14.5px] text-soft">
          {{
            group.kind === 'backups'
              ? 'Archives in a listed folder appear here automatically.'
              : 'Nothing is connected.'
          }}
        </p>
        <ul class="mt-1">
          <li
            v-for="link in group.links"
            :key="link.id"
            class="flex min-h-[34px] items-center gap-3 border-t border-line py-1 text-[15px]"
          >
            <span class="min-w-0 flex-1">
              <span class="block truncate" :title="link.title">{{ link.title }}</span>
              <span v-if="link.archive" class="block text-[13.5px] text-soft" data-test="archive">
                {{ archiveWords(link.archive) }}
              </span>
            </span>
            <NuxtLink
              v-for="one in link.cases"
              :key="one.code"
              :to="{ path: `/bench/${one.code}`, query: { on: link.id } }"
              class="figure shrink-0 text-[13.5px] text-russet-ink underline decoration-dotted"
              :aria-label="`${link.title}, for ${one.code}, ${one.title}`"
            >
              {{ one.code }}
            </NuxtLink>
            <span v-if="link.cases.length === 0" class="shrink-0 text-[13.5px] text-soft">not attached</span>
          </li>
        </ul>
      </section>
      <MediaRegister v-if="session.may('work')" @changed="load" />
      <FolderList v-if="session.may('playbook')" @changed="load" />
    </div>
  </div>
</template>
