<script setup lang="ts">
import type { RouteKind } from '~~/core/playbook/kinds/route-kind'

/** What has to be ready, what to do, what to look at and what to stop for. */
defineProps<{ sheet: RouteKind['sheet'] }>()
</script>

<template>
  <div class="space-y-2.5 text-[14px] leading-snug">
    <div v-if="sheet.ready.length > 0">
      <h3 class="section-name">Ready?</h3>
      <ul>
        <li v-for="line in sheet.ready" :key="line" class="mt-0.5">{{ line }}</li>
      </ul>
    </div>
    <ol class="steps">
      <li v-for="(line, index) in sheet.steps" :key="line">
        <span class="figure text-soft">{{ index + 1 }}</span>
        {{ line }}
      </li>
    </ol>
    <p v-for="line in sheet.lookFor" :key="line">
      <span class="text-soft">Look for:</span>
      {{ line }}
    </p>
    <p v-for="line in sheet.stopIf" :key="line" class="text-russet-ink">
      <strong>Stop if:</strong>
      {{ line }}
    </p>
  </div>
</template>

<style scoped>
.steps li {
  display: grid;
  grid-template-columns: 16px 1fr;
  gap: 6px;
  margin-top: 3px;
}
</style>
