<script setup lang="ts">
import type { Person } from '~~/core/people/person'

/** Somebody of the shop: a new password for them, or no more access. */
const props = defineProps<{ person: Person }>()
const emit = defineEmits<{ changed: [] }>()
const session = useSessionStore()
const isOpen = ref(false)
const password = ref('')
const { isBusy, send, problem, problemOf } = useSending()

async function setPassword() {
  if (!(await send(() => api('PUT', `/api/people/${props.person.id}/password`, { password: password.value })))) return
  tellDone(`${props.person.name} signs in with the new password from now on.`)
  password.value = ''
  isOpen.value = false
}

async function remove() {
  if (!(await send(() => api('DELETE', `/api/people/${props.person.id}`)))) return
  tellDone(`${props.person.name} can not sign in any more; what they did stays in the histories.`)
  emit('changed')
}
</script>

<template>
  <li class="py-2">
    <div class="flex items-baseline gap-4">
      <strong class="min-w-0 flex-1 truncate" :title="person.name">{{ person.name }}</strong>
      <span class="figure text-[14px]">{{ person.signIn }}</span>
      <span class="w-24 text-soft">{{ person.role }}</span>
      <button
        type="button"
        class="min-h-[24px] text-[14px] text-russet-ink underline decoration-dotted"
        :aria-expanded="isOpen"
        :aria-label="`Change ${person.name}`"
        @click="isOpen = !isOpen"
      >
        change
      </button>
    </div>
    <form v-if="isOpen" class="mt-2 space-y-2 border-l-2 border-line pl-4" novalidate @submit.prevent="setPassword">
      <FormField
        v-model="password"
        label="New password"
        type="password"
        autocomplete="new-password"
        hint="At least 10 characters"
        :problem="problemOf('password')"
      />
      <p v-if="problem" role="alert" class="font-bold text-russet-ink">{{ problem }}</p>
      <div class="flex justify-between">
        <button type="submit" class="quiet-action" :disabled="isBusy">Set it</button>
        <button
          v-if="person.id !== session.person?.id"
          type="button"
          class="quiet-action"
          :disabled="isBusy"
          @click="remove"
        >
          Take the access away
        </button>
      </div>
    </form>
  </li>
</template>
