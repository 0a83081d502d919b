<script setup lang="ts">
import { Toaster } from 'vue-sonner'
import 'vue-sonner/style.css'

const session = useSessionStore()
useTheme()
</script>

<template>
  <a
    href="#main"
    class="sr-only focus:not-sr-only focus:fixed focus:left-4 focus:top-2 focus:z-50 focus:bg-sheet focus:px-3 focus:py-2"
  >
    Go to the page
  </a>
  <TopBar v-if="session.person" />
  <main id="main" tabindex="-1" class="outline-none"><NuxtPage /></main>
  <Toaster position="bottom-left" :duration="6000" close-button />
</template>
