<script setup lang="ts">
const session = useSessionStore()
const form = reactive({ name: '', signIn: '', password: '' })
const { isBusy, send, problem, problemOf } = useSending()

async function make() {
  if (await send(() => session.enter('/api/first-start', form))) await navigateTo('/')
}

useHead({ title: 'First start' })
</script>

<template>
  <div class="mx-auto max-w-[32rem] p-8 pt-20">
    <h1 class="flex items-center gap-3 text-3xl">
      <img src="/lantern.svg" alt="" class="h-9" />
      Whose shop is it?
    </h1>
    <p class="mt-3 text-soft">
      The owner manages staff and the playbook. Until there is an owner, the server accepts connections from this
      machine only.
    </p>
    <form class="mt-7 space-y-3" novalidate @submit.prevent="make">
      <FormField v-model="form.name" label="Your name" autocomplete="name" :problem="problemOf('name')" />
      <FormField
        v-model="form.signIn"
        label="Sign-in name"
        autocomplete="username"
        hint="Short, in small letters"
        :problem="problemOf('signIn')"
      />
      <FormField
        v-model="form.password"
        label="Password"
        type="password"
        autocomplete="new-password"
        hint="At least 10 characters; a few words are best"
        :problem="problemOf('password')"
      />
      <p v-if="problem" role="alert" class="font-bold text-russet-ink">{{ problem }}</p>
      <button type="submit" class="main-action" :disabled="isBusy">Create owner</button>
    </form>
  </div>
</template>
