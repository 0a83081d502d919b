<script setup lang="ts">
/** Replaces every list of items where the client has refused that their data are looked at. */
defineProps<{ code: string }>()
</script>

<template>
  <section
    aria-label="The client refused"
    class="max-w-[34rem] border-2 border-held bg-held-ground p-5"
    data-test="refused"
  >
    <h2 class="text-[20px]">The client does not want their data looked through</h2>
    <p class="mt-2">
      Nothing is listed, opened, selected or copied, for any role. What was found before is kept, and shown to nobody.
    </p>
    <p class="mt-2">
      If the client agrees after all, record it on
      <NuxtLink :to="`/cases/${code}`" class="underline decoration-dotted">the case</NuxtLink>
      under “We may look through it”.
    </p>
  </section>
</template>
