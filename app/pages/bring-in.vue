<script setup lang="ts">
/** Cases that come from elsewhere, one by one or as a list, and the lists that leave the shop. */
const session = useSessionStore()
useHead({ title: 'Bring in, take out' })
</script>

<template>
  <div class="mx-auto max-w-[1280px] px-6 py-6">
    <h1 class="text-[26px]">Bring in, take out</h1>
    <section aria-labelledby="one" class="mt-4">
      <h2 id="one" class="text-[19px]">One case</h2>
      <p class="mb-2 text-soft">
        A case file (JSON), or the bundle of a case (ZIP) with its history, sheets and attachments. It gets the next
        code of this shop, and its history says which one it had.
      </p>
      <BringIn />
    </section>
    <BringList v-if="session.may('close')" class="mt-8" />
    <section v-if="session.may('people')" aria-labelledby="out" class="mt-8">
      <h2 id="out" class="text-[19px]">Lists of this shop</h2>
      <p class="mb-2 text-soft">
        CSV, safe to open in a sheet: no cell is run as a formula. Whole cases are taken out on their own page.
      </p>
      <div class="flex gap-2">
        <a href="/api/lists/cases" download class="quiet-action">All cases</a>
        <a href="/api/lists/runs" download class="quiet-action">All runs</a>
      </div>
    </section>
  </div>
</template>
