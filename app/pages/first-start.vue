<script setup lang="ts">
import { guessedCurrency, guessedLanguage } from '~~/core/playbook/guesses'
import { Shop } from '~~/core/playbook/shop'

/** A new shop: its owner, and the few things that every plan and every paper needs. What the machine says of itself is the first guess. */
const session = useSessionStore()
const form = reactive({ name: '', signIn: '', password: '' })
const zone = Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC'
const shop = reactive({ name: '', zone, currency: guessedCurrency(navigator.language, zone) })
/** not asked for: it is under Settings */
const language = guessedLanguage(navigator.language)
const shelf = ref('')
const hours = ref(Shop.shape.hours.parse(undefined))
const shelfHint = computed(() =>
  session.start
    ? `What comes back is copied there. Empty for the data folder, where ${sizeWords(session.start.free)} are free`
    : 'What comes back is copied there. Empty for the data folder',
)
const { isBusy, send, problem, problemOf } = useSending()

async function make() {
  const body = {
    ...form,
    shop: { ...shop, name: shop.name.trim() || 'Our shop', hours: hours.value, language },
    shelf: shelf.value.trim() || null,
  }
  if (await send(() => session.enter('/api/first-start', body))) await navigateTo('/')
}

useHead({ title: 'First start' })
</script>

<template>
  <div class="mx-auto max-w-[60rem] p-8 pt-12">
    <h1 class="flex items-center gap-3 text-3xl">
      <img src="/lantern.svg" alt="" class="h-9" />
      Whose shop is it?
    </h1>
    <p class="mt-3 max-w-[62ch] text-soft">
      The owner manages staff and the playbook. Until there is an owner, the server accepts connections from this
      machine only. The database is in {{ session.start?.dataFolder ?? 'the data folder' }}.
    </p>
    <form class="mt-7 grid gap-x-12 gap-y-6 md:grid-cols-2" novalidate @submit.prevent="make">
      <div class="space-y-3">
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
      </div>
      <div class="space-y-3">
        <FormField
          v-model="shop.name"
          label="Name of the shop"
          :problem="problemOf('shop.name')"
          hint="As it stands on papers"
        />
        <div class="grid grid-cols-2 gap-4">
          <FormField
            v-model="shop.zone"
            label="Time zone"
            :problem="problemOf('shop.zone')"
            hint="As this machine has it"
          />
          <FormField
            v-model="shop.currency"
            label="Currency"
            :problem="problemOf('shop.currency')"
            hint="Three letters, such as EUR"
          />
        </div>
        <FormField
          v-model="shelf"
          label="Folder for shelves"
          :problem="problemOf('shelf') ?? problemOf('folder')"
          :hint="shelfHint"
        />
        <fieldset>
          <legend class="text-[15px] font-bold">Opening hours</legend>
          <HoursEditor v-model="hours" />
        </fieldset>
      </div>
      <div class="md:col-span-2">
        <p v-if="problem" role="alert" class="mb-3 font-bold text-russet-ink">{{ problem }}</p>
        <button type="submit" class="main-action" :disabled="isBusy">Create owner</button>
        <span class="ml-4 text-[14.5px] text-soft">
          All of it can be changed under Settings. Then name a place for backups.
        </span>
      </div>
    </form>
  </div>
</template>
