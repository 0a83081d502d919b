<script setup lang="ts">
import { showKeys } from '~/composables/useSingleKeys'

/** What holds for this machine only: its colours and its keys. */
const { theme, toggle } = useTheme()
const isOn = useSingleKeysSwitch()
</script>

<template>
  <section aria-labelledby="machine">
    <h2 id="machine" class="mb-1 text-[19px]">On this machine</h2>
    <div class="flex items-center justify-between border-t border-line py-2 text-[15px]">
      <span>{{ theme === 'night' ? 'Night colours' : 'Day colours' }}</span>
      <button type="button" class="quiet-action" @click="toggle">
        {{ theme === 'night' ? 'Change to day' : 'Change to night' }}
      </button>
    </div>
    <div class="flex items-center justify-between border-t border-line py-2 text-[15px]">
      <span>Single keys are {{ isOn ? 'on' : 'off' }}. F1 shows and changes them.</span>
      <span class="flex gap-2">
        <button type="button" class="quiet-action" @click="isOn = !isOn">{{ isOn ? 'Turn off' : 'Turn on' }}</button>
        <button type="button" class="quiet-action" @click="showKeys">Show</button>
      </span>
    </div>
  </section>
</template>
