<script setup lang="ts">
import { timeWords } from '~~/core/local/dates'
import { MIN_PASSWORD } from '~~/core/people/person'
import { type SessionShape, SessionList } from '~~/core/people/session'

const session = useSessionStore()
const sessions = ref<SessionShape[]>([])
const trouble = ref<string | null>(null)
const form = reactive({ old: '', password: '' })
const { isBusy, send, problem, problemOf } = useSending()
const hasOthers = computed(() => sessions.value.some((one) => !one.isThis))

async function load(method: 'GET' | 'DELETE' = 'GET') {
  trouble.value = null
  try {
    const path = method === 'GET' ? '/api/session/all' : '/api/session/others'
    sessions.value = (await api(SessionList, method, path)).sessions
  } catch (error) {
    trouble.value = failureWords(error)
  }
}
await load()

async function endOthers() {
  await load('DELETE')
  if (!trouble.value) tellDone('All your other sessions have ended.')
}

async function change() {
  if (!(await send(() => apiDo('PUT', '/api/session/password', form)))) return
  Object.assign(form, { old: '', password: '' })
  tellDone('Your password is changed. All your other sessions have ended.')
  await load()
}

const when = (at: string) => timeWords(at, session.shop.zone, 'd MMM HH:mm')
useHead({ title: 'Your account' })
</script>

<template>
  <div class="mx-auto grid max-w-5xl gap-14 p-8 md:grid-cols-2">
    <section>
      <h1 class="text-2xl">Your account</h1>
      <p class="mt-1 text-soft">{{ session.person?.name }}, {{ session.person?.role }}</p>
      <h2 class="mt-6 text-xl">Where you are signed in</h2>
      <ErrorNote v-if="trouble" :words="trouble" class="mt-3" @again="load()" />
      <ul v-else class="mt-2 divide-y divide-line border-y border-line">
        <li v-for="one in sessions" :key="one.id" class="flex items-baseline gap-4 py-2">
          <span class="flex-1">
            <strong v-if="one.isThis">This browser</strong>
            <template v-else>{{ one.machine }}</template>
            <span class="figure ml-2 text-[13px] text-soft">{{ one.address }}</span>
          </span>
          <span class="text-[14px] text-soft">
            since {{ when(one.begun) }}
            <br />
            {{ one.isIdle ? 'locked, ' : '' }}last used {{ when(one.used) }}
          </span>
        </li>
      </ul>
      <button type="button" class="quiet-action mt-4" :disabled="!hasOthers" @click="endOthers">
        End all other sessions
      </button>
      <CalendarFeed class="mt-8" />
    </section>
    <section aria-label="Change your password">
      <h2 class="text-xl">Change your password</h2>
      <form class="mt-4 space-y-3" novalidate @submit.prevent="change">
        <FormField
          v-model="form.old"
          label="Current password"
          type="password"
          autocomplete="current-password"
          :problem="problemOf('old')"
        />
        <FormField
          v-model="form.password"
          label="New password"
          type="password"
          autocomplete="new-password"
          :hint="`At least ${MIN_PASSWORD} characters; a few words are best`"
          :problem="problemOf('password')"
        />
        <p v-if="problem" role="alert" class="font-bold text-russet-ink">{{ problem }}</p>
        <button type="submit" class="main-action" :disabled="isBusy">Change password</button>
      </form>
    </section>
  </div>
</template>
