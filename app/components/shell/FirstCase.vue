<script setup lang="ts">
/** The next step of the demo’s first case, above whatever page somebody is on. */
const { isOn, step } = useFirstCase()
const route = useRoute()
const isElsewhere = computed(() => step.value !== null && route.path !== step.value.where.split('?')[0])
</script>

<template>
  <aside
    v-if="step"
    aria-label="Your first case"
    class="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line bg-chosen px-6 py-2 text-[15px] print:hidden"
    data-test="first-case"
  >
    <span class="figure text-[13px] text-soft">first case, {{ step.at }} of {{ step.of }}</span>
    <span role="status" class="min-w-0 flex-1">{{ step.says }}</span>
    <NuxtLink v-if="isElsewhere" :to="step.where" class="quiet-action">Go there</NuxtLink>
    <button type="button" class="text-[14px] text-soft underline decoration-dotted" @click="isOn = false">
      {{ step.name === 'done' ? 'Close' : 'Leave it' }}
    </button>
  </aside>
</template>
