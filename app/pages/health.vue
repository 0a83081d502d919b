<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { Health } from '~~/core/safekeeping/backup'

/** The health of the shop itself: its backups, the room on its disks, its jobs, and whether its database is sound. */
const clock = useClockWords()
const now = useServerNow()
const health = shallowRef<Health | null>(null)
const trouble = ref<string | null>(null)
const isAsking = ref(false)
async function ask(method: 'GET' | 'POST', path: string) {
  trouble.value = null
  isAsking.value = method === 'POST'
  try {
    health.value = await api(Health, method, path)
  } catch (error) {
    trouble.value = failureWords(error)
  } finally {
    isAsking.value = false
  }
}
await ask('GET', '/api/safekeeping')
useIntervalFn(() => {
  if (!isAsking.value) void ask('GET', '/api/safekeeping')
}, 15_000)

const ageDays = computed(() => {
  const last = health.value?.backup.last
  return last ? (now.value - Date.parse(last.at)) / 86_400_000 : null
})
/** What needs somebody, worst first; nothing where all is well. */
const warnings = computed(() => {
  const so = health.value
  if (!so) return []
  const full = so.rooms.filter(({ free, total }) => free < Math.min(5e9, total * 0.05))
  const list: (string | null)[] = [
    so.isShelfAway
      ? 'The folder for shelves cannot be reached. Connect its disk, or name another one under Settings.'
      : null,
    so.check && !so.check.isSound ? so.check.says : null,
    so.backup.folder === null
      ? 'There is no backup of this shop. Name a folder on another disk, and a passphrase.'
      : null,
    so.backup.failed ? `The last backup failed. ${so.backup.failed.says} Earlier backups are untouched.` : null,
    ageDays.value !== null && ageDays.value > 2 ? `The newest backup is ${Math.floor(ageDays.value)} days old.` : null,
    ...full.map(({ what, free }) => `${what}: only ${sizeWords(free)} are free.`),
  ]
  return list.filter((one) => one !== null)
})
const STATES = { running: 'running', waiting: 'waiting', failed: 'stopped' } as const
useHead({ title: 'Health' })
</script>

<template>
  <div v-if="trouble && !health" class="p-10">
    <ErrorNote :words="trouble" @again="ask('GET', '/api/safekeeping')" />
  </div>
  <div v-else-if="health" class="mx-auto max-w-[1180px] px-6 py-6">
    <h1 class="text-[26px]">Health of the shop</h1>
    <p v-if="warnings.length === 0" class="text-[17px] text-held" data-test="all-well">All is well.</p>
    <ul v-else class="mt-2 space-y-1" data-test="warnings">
      <li v-for="one in warnings" :key="one" class="border-l-4 border-russet bg-sheet px-3 py-1.5">▲ {{ one }}</li>
    </ul>
    <p v-if="trouble" role="alert" class="mt-2 text-russet-ink">{{ trouble }}</p>
    <div class="mt-5 grid gap-x-14 gap-y-8 desk:grid-cols-2">
      <section aria-labelledby="backups">
        <h2 id="backups" class="text-[19px]">Backups</h2>
        <p v-if="health.backup.last" class="text-[15px]" data-test="last-backup">
          Last made {{ clock.momentOf(health.backup.last.at) }}, {{ sizeWords(health.backup.last.bytes) }}, in
          {{ health.backup.last.seconds }} s.
        </p>
        <p class="text-[15px] text-soft">
          One is made each day while the server runs. Each of the last 7 days keeps one, each week before that keeps
          one, and none is kept longer than {{ countOf(health.backup.keepDays, 'day') }}: until then it holds what was
          wiped here.
        </p>
        <button
          v-if="health.backup.folder"
          type="button"
          class="mt-2"
          :class="health.backup.last ? 'quiet-action' : 'main-action'"
          :disabled="isAsking || health.backup.isRunning"
          data-test="back-up"
          @click="ask('POST', '/api/safekeeping/backup')"
        >
          {{ health.backup.isRunning || isAsking ? 'Working …' : 'Back up now' }}
        </button>
        <table v-if="health.backup.kept.length > 0" class="list-table mt-3 text-[14.5px]">
          <thead>
            <tr>
              <th scope="col">kept</th>
              <th scope="col">size</th>
              <th scope="col">shelves</th>
              <th scope="col">folder</th>
            </tr>
          </thead>
          <tbody class="figure text-[13px]">
            <tr v-for="one in health.backup.kept" :key="one.name" data-test="kept">
              <td>{{ clock.momentOf(one.at) }}</td>
              <td>{{ sizeWords(one.bytes) }}</td>
              <td>{{ one.hasFiles ? 'with' : 'without' }}</td>
              <td>{{ one.name }}</td>
            </tr>
          </tbody>
        </table>
        <BackupForm :backup="health.backup" class="mt-5" @done="(so: Health) => (health = so)" />
      </section>
      <div>
        <section v-if="health.only.length > 0" aria-labelledby="only">
          <h2 id="only" class="text-[19px]">Only here</h2>
          <p class="text-[15px] text-soft">Files on the shelf of open cases that no backup has.</p>
          <ul class="mt-1">
            <li v-for="one in health.only" :key="one.code" class="border-t border-line py-1 text-[15px]">
              <NuxtLink :to="`/cases/${one.code}`" class="figure mr-3 text-[13px] underline decoration-dotted">
                {{ one.code }}
              </NuxtLink>
              {{ countOf(one.files, 'file') }}, {{ sizeWords(one.bytes) }}
            </li>
          </ul>
        </section>
        <section aria-labelledby="room" :class="{ 'mt-6': health.only.length > 0 }">
          <h2 id="room" class="text-[19px]">Room</h2>
          <dl class="mt-1 text-[15px]">
            <div v-for="room in health.rooms" :key="room.what" class="flex justify-between border-t border-line py-1">
              <dt>{{ room.what }}</dt>
              <dd class="figure text-[13px]">{{ sizeWords(room.free) }} free of {{ sizeWords(room.total) }}</dd>
            </div>
            <div class="flex justify-between border-t border-line py-1">
              <dt>Database</dt>
              <dd class="figure text-[13px]">{{ sizeWords(health.databaseBytes) }}</dd>
            </div>
          </dl>
        </section>
        <section aria-labelledby="sound" class="mt-6">
          <h2 id="sound" class="text-[19px]">Database and history</h2>
          <p v-if="health.check" class="text-[15px]" data-test="check">
            <span :class="health.check.isSound ? 'text-held' : 'text-russet-ink'">{{ health.check.says }}</span>
            <span class="text-soft">Checked {{ clock.momentOf(health.check.at) }}.</span>
          </p>
          <p v-else class="text-[15px] text-soft">Not checked yet.</p>
          <button
            type="button"
            class="quiet-action mt-2"
            :disabled="isAsking || health.isChecking"
            data-test="check-now"
            @click="ask('POST', '/api/safekeeping/check')"
          >
            Check now
          </button>
        </section>
        <section aria-labelledby="jobs" class="mt-6">
          <h2 id="jobs" class="text-[19px]">Jobs</h2>
          <p v-if="health.jobs.length === 0" class="text-[15px] text-soft">
            Nothing is running, and nothing has stopped.
          </p>
          <ul v-else>
            <li v-for="(job, at) in health.jobs" :key="at" class="border-t border-line py-1 text-[15px]">
              <NuxtLink :to="`/bench/${job.code}`" class="figure mr-3 text-[13px] underline decoration-dotted">
                {{ job.code }}
              </NuxtLink>
              {{ job.what }}: {{ STATES[job.state] }}
              <span v-if="job.says" class="text-soft">{{ job.says }}</span>
            </li>
          </ul>
        </section>
      </div>
    </div>
  </div>
</template>
