<script setup lang="ts">
import { Toaster } from 'vue-sonner'
import 'vue-sonner/style.css'

const session = useSessionStore()
useTheme()
const route = useRoute()
const isForTwo = computed(() => route.path.startsWith('/for-two/'))
watch(
  [isForTwo, () => session.person],
  ([isTurned, person]) => {
    if (person && !isTurned) session.lockAfterClient()
  },
  { immediate: true },
)
const isHidden = computed(() => session.lock !== null && session.lock.why !== 'change')
</script>

<template>
  <a
    href="#main"
    class="sr-only focus:not-sr-only focus:fixed focus:left-4 focus:top-2 focus:z-50 focus:bg-sheet focus:px-3 focus:py-2"
  >
    Go to the page
  </a>
  <TopBar v-if="session.person && !isForTwo" class="print:hidden" />
  <FirstCase v-if="session.demoPeople.length > 0 && session.person && !isForTwo && !isHidden" />
  <main id="main" tabindex="-1" class="outline-none" :class="{ invisible: isHidden }"><NuxtPage /></main>
  <LockScreen />
  <Toaster position="bottom-left" :duration="6000" close-button />
</template>
