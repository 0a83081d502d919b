<script setup lang="ts">
import { ROLES, type Person, type Role } from '~~/core/people/person'

/** One of the staff: another role, a new password, or no more access. */
const props = defineProps<{ person: Person; others: readonly Person[] }>()
const emit = defineEmits<{ changed: [] }>()
const session = useSessionStore()
const isOpen = ref(false)
const isOwn = computed(() => props.person.id === session.person?.id)
const password = ref('')
/** who takes over their open cases; null where nobody was chosen */
const successor = ref<number | null>(null)
const { isBusy, send, problem, problemOf } = useSending()

async function setPassword() {
  if (!(await send(() => apiDo('PUT', `/api/people/${props.person.id}/password`, { password: password.value })))) return
  tellDone(`${props.person.name} signs in with the new password from now on. Their sessions have ended.`)
  password.value = ''
  isOpen.value = false
}

async function setRole(role: Role) {
  if (!(await send(() => apiDo('PUT', `/api/people/${props.person.id}/role`, { role })))) return
  tellDone(`${props.person.name} is ${role} from now on.`)
  emit('changed')
}

async function remove() {
  if (
    !(await send(() =>
      apiDo('DELETE', `/api/people/${props.person.id}?${queryOf({ to: successor.value ?? undefined })}`),
    ))
  )
    return
  tellDone(`${props.person.name} can no longer sign in. What they did stays in the histories.`)
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
      <label class="block text-[15px] font-bold">
        Role
        <select
          class="field mt-1 font-normal"
          :value="person.role"
          :disabled="isBusy"
          @change="setRole(($event.target as HTMLSelectElement).value as Role)"
        >
          <option v-for="role in ROLES" :key="role" :value="role">{{ role }}</option>
        </select>
      </label>
      <p v-if="isOwn" class="text-[14px]">
        Your own password is changed on the page of
        <NuxtLink to="/account" class="underline decoration-dotted">your account</NuxtLink>
        .
      </p>
      <FormField
        v-if="!isOwn"
        v-model="password"
        label="New password"
        type="password"
        autocomplete="new-password"
        hint="At least 10 characters"
        :problem="problemOf('password')"
      />
      <label v-if="!isOwn && others.length > 0" class="block text-[15px] font-bold">
        Who takes over what is open, if they leave
        <select v-model="successor" class="field mt-1 font-normal">
          <option :value="null">nobody yet</option>
          <option v-for="other in others" :key="other.id" :value="other.id">{{ other.name }}</option>
        </select>
      </label>
      <p v-if="problem" role="alert" class="font-bold text-russet-ink">{{ problem }}</p>
      <div class="flex justify-between">
        <button v-if="!isOwn" type="submit" class="quiet-action" :disabled="isBusy">Set password</button>
        <button v-if="!isOwn" type="button" class="quiet-action" :disabled="isBusy" @click="remove">
          Remove access
        </button>
      </div>
    </form>
  </li>
</template>
