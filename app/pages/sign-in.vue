<script setup lang="ts">
const session = useSessionStore()
const route = useRoute()
const signIn = ref('')
const password = ref('')
const { isBusy, send, problem, problemOf } = useSending()

async function enter() {
  if (!(await send(() => session.enter('/api/session', { signIn: signIn.value, password: password.value })))) return
  const to = typeof route.query.to === 'string' && /^\/(?!\/)/.test(route.query.to) ? route.query.to : '/'
  await navigateTo(to)
}

function enterAs(person: { signIn: string; password: string }) {
  signIn.value = person.signIn
  password.value = person.password
  void enter()
}

useHead({ title: 'Sign in' })
</script>

<template>
  <div class="mx-auto grid min-h-screen max-w-5xl items-center gap-14 p-8 md:grid-cols-2">
    <section>
      <h1 class="flex items-center gap-3 text-3xl">
        <img src="/lantern.svg" alt="" class="h-9" />
        Russet Lantern
      </h1>
      <form class="mt-8 max-w-sm space-y-3" novalidate @submit.prevent="enter">
        <FormField v-model="signIn" label="Sign-in name" autocomplete="username" :problem="problemOf('signIn')" />
        <FormField
          v-model="password"
          label="Password"
          type="password"
          autocomplete="current-password"
          :problem="problemOf('password')"
        />
        <p v-if="problem" role="alert" class="font-bold text-russet-ink">{{ problem }}</p>
        <button type="submit" class="main-action" :disabled="isBusy">Sign in</button>
      </form>
    </section>
    <section v-if="session.demoPeople.length > 0" aria-label="Demo accounts">
      <h2 class="text-xl">Demo accounts</h2>
      <p class="mt-1 text-soft">A made-up shop beside a canal. Sign in as any of them.</p>
      <ul class="mt-4 divide-y divide-line border-y border-line">
        <li
          v-for="person in session.demoPeople"
          :key="person.signIn"
          class="flex flex-wrap items-center gap-x-4 gap-y-1 py-2.5"
        >
          <span class="min-w-[150px] flex-1">
            <strong>{{ person.name }}</strong>
            <span class="block text-[14px] text-soft">{{ person.role }}</span>
          </span>
          <span class="figure w-[170px] text-[13px]">
            {{ person.signIn }}
            <br />
            {{ person.password }}
          </span>
          <button type="button" class="quiet-action w-[150px] justify-center" @click="enterAs(person)">
            Sign in as {{ person.name.split(' ')[0] }}
          </button>
        </li>
      </ul>
    </section>
  </div>
</template>
