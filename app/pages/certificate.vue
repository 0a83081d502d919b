<script setup lang="ts">
import { CertificateAnswer } from '~~/core/people/certificate'

const { found, trouble, load } = await useAsked(CertificateAnswer, '/api/certificate')
useHead({ title: 'Trust this server' })
</script>

<template>
  <div class="mx-auto max-w-[38rem] p-8 pt-14">
    <h1 class="text-3xl">Trust this server</h1>
    <ErrorNote v-if="trouble" :words="trouble" class="mt-4" @again="load" />
    <p v-else-if="!found?.hasAuthority" class="mt-4">
      There is nothing to install:
      {{
        found?.addresses.length
          ? 'this server has a certificate that is trusted already.'
          : 'only the shop’s own machine is let in.'
      }}
    </p>
    <ol v-else class="mt-5 list-decimal space-y-4 pl-6 text-[17px]">
      <li>
        <a
          href="/api/certificate/authority"
          class="underline decoration-dotted"
          download
          v-text="'Download the shop’s authority'"
        />
        on this tablet.
      </li>
      <li>
        Open it and compare the SHA-256 fingerprint that the tablet shows with the one on the shop’s own machine, on the
        page “Staff”. If they differ, somebody stands in between: do not install it.
        <p v-if="found.fingerprint" class="figure mt-2 break-all text-[14px]">{{ found.fingerprint }}</p>
      </li>
      <li>Install it as a trusted authority in the tablet’s settings, then open this address again.</li>
    </ol>
    <p v-if="found?.hasAuthority" class="mt-6 text-soft">
      The authority can vouch only for this shop’s own names and addresses, not for other sites.
    </p>
    <NuxtLink to="/" class="main-action mt-6 inline-block">To the counter</NuxtLink>
  </div>
</template>
