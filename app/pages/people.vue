<script setup lang="ts">
import { Staff, type Role } from '~~/core/people/person'

const { found: people, trouble, load } = await useAsked(Staff, '/api/people')
const form = reactive({ name: '', signIn: '', password: '', role: 'technician' as Role })
const { isBusy, send, problem, problemOf } = useSending()
const ROLES: readonly { role: Role; says: string }[] = [
  { role: 'technician', says: 'Technician: logs, works the bench, closes cases' },
  { role: 'counter', says: 'Counter: logs cases and reads them' },
  { role: 'owner', says: 'Owner: all of this, staff, playbook and security' },
]

async function add() {
  if (!(await send(() => apiDo('POST', '/api/people', form)))) return
  tellDone(`${form.name} can sign in now.`)
  Object.assign(form, { name: '', signIn: '', password: '' })
  await load()
}

useHead({ title: 'Staff' })
</script>

<template>
  <div class="mx-auto grid max-w-5xl gap-x-14 gap-y-10 p-8 md:grid-cols-2">
    <section>
      <h1 class="text-2xl">Staff</h1>
      <ErrorNote v-if="trouble" :words="trouble" class="mt-4" @again="load" />
      <ul v-else class="mt-4 divide-y divide-line border-y border-line">
        <PersonLine
          v-for="person in people ?? []"
          :key="person.id"
          :person="person"
          :others="(people ?? []).filter(({ id }) => id !== person.id)"
          @changed="load"
        />
      </ul>
      <IdleLimit class="mt-8" />
      <TabletAccess class="mt-8" />
    </section>
    <section aria-label="Add a person">
      <h2 class="text-xl">Add a person</h2>
      <form class="mt-4 space-y-3" novalidate @submit.prevent="add">
        <FormField v-model="form.name" label="Name" :problem="problemOf('name')" />
        <FormField v-model="form.signIn" label="Sign-in name" :problem="problemOf('signIn')" />
        <FormField
          v-model="form.password"
          label="First password"
          type="password"
          autocomplete="new-password"
          hint="At least 10 characters"
          :problem="problemOf('password')"
        />
        <fieldset>
          <legend class="text-[15px] font-bold">Role</legend>
          <label v-for="one in ROLES" :key="one.role" class="flex min-h-[32px] items-center gap-2">
            <input
              v-model="form.role"
              type="radio"
              name="role"
              :value="one.role"
              class="size-4 accent-[var(--russet)]"
            />
            {{ one.says }}
          </label>
        </fieldset>
        <p v-if="problem" role="alert" class="font-bold text-russet-ink">{{ problem }}</p>
        <button type="submit" class="main-action" :disabled="isBusy">Add</button>
      </form>
    </section>
    <SecurityLog class="md:col-span-2" />
  </div>
</template>
