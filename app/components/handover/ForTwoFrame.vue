<script setup lang="ts">
import { known } from '~~/core/cases/shape/fact'

/** The frame of what is shown to a client beside the technician: no other case, and leaving it asks for the password. */
const props = defineProps<{ code: string; shop: string }>()
const store = useOpenCaseStore()
const session = useSessionStore()
onMounted(() => session.turnToClient())
const client = computed(() => (known(store.asItIs.client.name) ? store.asItIs.client.name : 'the client'))
const leave = () => navigateTo(`/hand-over/${props.code}`)
</script>

<template>
  <div class="min-h-screen">
    <header class="flex items-baseline gap-6 bg-dusk px-6 py-3 text-[#fbf1e2]">
      <p class="font-head text-[19px] font-bold">{{ shop }}</p>
      <p class="min-w-0 flex-1 truncate text-[16px]">
        for {{ client }},
        <span class="figure">{{ code }}</span>
      </p>
      <button
        type="button"
        class="min-h-[30px] text-[15px] underline decoration-dotted"
        data-test="leave"
        @click="leave"
      >
        Back to work, with password
      </button>
    </header>
    <slot />
  </div>
</template>
