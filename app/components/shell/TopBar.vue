<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import HeartPulse from 'lucide-vue-next/dist/esm/icons/heart-pulse.js'
import Hourglass from 'lucide-vue-next/dist/esm/icons/hourglass.js'
import Keyboard from 'lucide-vue-next/dist/esm/icons/keyboard.js'
import KeyRound from 'lucide-vue-next/dist/esm/icons/key-round.js'
import UserRound from 'lucide-vue-next/dist/esm/icons/user-round.js'
import Users from 'lucide-vue-next/dist/esm/icons/users.js'
import LogOut from 'lucide-vue-next/dist/esm/icons/log-out.js'
import Moon from 'lucide-vue-next/dist/esm/icons/moon.js'
import Sun from 'lucide-vue-next/dist/esm/icons/sun.js'
import { useEventListener } from '@vueuse/core'
import { timeWords } from '~~/core/local/dates'
import { initialsOf } from '~~/core/people/person'
import { showKeys } from '~/composables/useSingleKeys'

const session = useSessionStore()
const route = useRoute()
const router = useRouter()
const now = useServerNow()
const { theme, toggle } = useTheme()
const singleKeys = useSingleKeysSwitch()
const field = useTemplateRef<HTMLInputElement>('field')
const clock = computed(() => timeWords(now.value, session.shop.zone, 'EEE d MMM HH:mm'))
const sought = ref('')
// The address follows the field; while somebody types, the field does not follow the address.
watch(
  () => route.query.find,
  (found) => {
    if (document.activeElement !== field.value) sought.value = typeof found === 'string' ? found : ''
  },
  { immediate: true },
)
const places = computed(() => [
  { to: '/', words: 'Counter' },
  ...(session.may('work') ? [{ to: '/bench', words: 'Bench' }] : []),
  ...(session.may('work') ? [{ to: '/ledger', words: 'Ledger' }] : []),
  { to: '/playbook', words: 'Playbook' },
  ...(session.may('people') ? [{ to: '/people', words: 'Staff' }] : []),
  ...(session.may('playbook') ? [{ to: '/settings', words: 'Settings' }] : []),
])

// The router itself: `navigateTo` does nothing while an earlier navigation is still being checked.
function find() {
  const to = { path: '/', query: sought.value === '' ? {} : { find: sought.value } }
  void (route.path === '/' ? router.replace(to) : router.push(to))
}

const changePerson = () => session.lockAs('change', '')
useSingleKeys({ '/': ['search', () => field.value?.focus()], u: ['change person', changePerson] })
// Also while somebody types: a key that writes nothing.
useEventListener('keydown', (event) => {
  if (event.key !== 'F8' || event.ctrlKey || event.altKey || event.metaKey) return
  event.preventDefault()
  changePerson()
})
</script>

<template>
  <header
    class="sticky top-0 z-30 flex h-[46px] items-center gap-7 border-b border-line bg-paper px-5 max-md:gap-3 max-md:px-3"
  >
    <NuxtLink
      to="/"
      class="flex items-center gap-2.5 font-head text-[18px] font-bold"
      aria-label="Russet Lantern, to the counter"
    >
      <img src="/lantern.svg" alt="" class="h-[22px]" />
      <span class="whitespace-nowrap max-desk:hidden">Russet Lantern</span>
    </NuxtLink>
    <nav aria-label="Places" class="flex h-full min-w-0 gap-6 max-md:gap-4 max-md:overflow-x-auto">
      <NuxtLink
        v-for="place in places"
        :key="place.to"
        :to="place.to"
        class="flex h-full items-center border-b-[3px] border-transparent pt-[3px] text-[15px] text-soft"
        exact-active-class="!border-russet font-bold !text-ink"
      >
        {{ place.words }}
      </NuxtLink>
    </nav>
    <label
      class="ml-auto flex w-full min-w-[84px] max-w-[300px] items-center gap-2 border-b border-line text-[14px] max-md:flex-1"
    >
      <KeyCap shipped="/" class="max-md:hidden" aria-hidden="true" />
      <span class="sr-only">Search clients, devices, notes, files and the history</span>
      <input
        ref="field"
        v-model="sought"
        type="search"
        placeholder="Name, code, number, file …"
        class="h-[30px] w-full bg-transparent placeholder:text-soft"
        @input="find"
        @keydown.escape="($event.target as HTMLInputElement).blur()"
      />
    </label>
    <time class="figure text-[13px] text-soft max-desk:hidden" :datetime="new Date(now).toISOString()">
      {{ clock }}
    </time>
    <Menu as="div" class="relative">
      <MenuButton
        class="figure min-h-[28px] min-w-[28px] text-[14px]"
        :aria-label="`${session.person?.name}: settings and signing out`"
      >
        {{ session.person ? initialsOf(session.person) : '' }}
      </MenuButton>
      <MenuItems class="absolute right-0 mt-2 w-60 border border-soft bg-sheet p-1 text-[14px] focus:outline-none">
        <p class="px-3 py-2 text-soft">{{ session.person?.name }}, {{ session.person?.role }}</p>
        <MenuItem v-slot="{ active }">
          <button type="button" class="menu-line" :class="{ 'bg-chosen': active }" @click="changePerson">
            <Users :size="16" aria-hidden="true" />
            Change person
            <KeyCap shipped="u" class="ml-auto" aria-hidden="true" />
            <kbd class="key-cap" aria-hidden="true">F8</kbd>
          </button>
        </MenuItem>
        <MenuItem v-slot="{ active }">
          <NuxtLink to="/account" class="menu-line" :class="{ 'bg-chosen': active }">
            <UserRound :size="16" aria-hidden="true" />
            Your account
          </NuxtLink>
        </MenuItem>
        <MenuItem v-if="session.may('close')" v-slot="{ active }">
          <NuxtLink to="/afterwards" class="menu-line" :class="{ 'bg-chosen': active }">
            <Hourglass :size="16" aria-hidden="true" />
            Kept and wiped
          </NuxtLink>
        </MenuItem>
        <MenuItem v-if="session.may('people')" v-slot="{ active }">
          <NuxtLink to="/health" class="menu-line" :class="{ 'bg-chosen': active }">
            <HeartPulse :size="16" aria-hidden="true" />
            Backups and health
          </NuxtLink>
        </MenuItem>
        <MenuItem v-slot="{ active }">
          <button type="button" class="menu-line" :class="{ 'bg-chosen': active }" @click="toggle">
            <component :is="theme === 'night' ? Sun : Moon" :size="16" aria-hidden="true" />
            {{ theme === 'night' ? 'Day colours' : 'Night colours' }}
          </button>
        </MenuItem>
        <MenuItem v-slot="{ active }">
          <button type="button" class="menu-line" :class="{ 'bg-chosen': active }" @click="showKeys">
            <Keyboard :size="16" aria-hidden="true" />
            Keys
            <kbd class="key-cap ml-auto" aria-hidden="true">F1</kbd>
          </button>
        </MenuItem>
        <MenuItem v-slot="{ active }">
          <button type="button" class="menu-line" :class="{ 'bg-chosen': active }" @click="singleKeys = !singleKeys">
            <KeyRound :size="16" aria-hidden="true" />
            {{ singleKeys ? 'Turn single-key shortcuts off' : 'Turn single-key shortcuts on' }}
          </button>
        </MenuItem>
        <MenuItem v-slot="{ active }">
          <button type="button" class="menu-line" :class="{ 'bg-chosen': active }" @click="session.leave()">
            <LogOut :size="16" aria-hidden="true" />
            Sign out
          </button>
        </MenuItem>
      </MenuItems>
    </Menu>
    <KeySheet />
  </header>
</template>

<style scoped>
.menu-line {
  display: flex;
  align-items: center;
  gap: 8px;
  width: 100%;
  min-height: 34px;
  padding: 0 12px;
  text-align: left;
}
</style>
