<script setup lang="ts">
import { CertificateAnswer } from '~~/core/people/certificate'

/** How tablets and other machines of the shop reach this server, and how they recognise it. */
const { found, trouble, load } = await useAsked(CertificateAnswer, '/api/certificate')
</script>

<template>
  <section aria-label="Other machines of the shop">
    <h2 class="text-xl">Other machines of the shop</h2>
    <ErrorNote v-if="trouble" :words="trouble" class="mt-2" @again="load" />
    <p v-else-if="!found || found.addresses.length === 0" class="mt-1 text-soft">
      Only this machine is let in. To let in tablets, start the server with this setting:
      <code class="figure text-[14px]">LANTERN_HOST=0.0.0.0</code>
    </p>
    <template v-else>
      <p class="mt-1 text-soft">Open one of these addresses on the tablet:</p>
      <ul class="figure mt-2 text-[15px]">
        <li v-for="address in found.addresses" :key="address" class="break-all">{{ address }}/certificate</li>
      </ul>
      <template v-if="found.fingerprint">
        <p class="mt-3 text-soft">
          {{ found.hasAuthority ? 'Fingerprint of this shop’s authority' : 'Fingerprint of the certificate' }}
          (SHA-256):
        </p>
        <p class="figure mt-1 break-all text-[14px]">{{ found.fingerprint }}</p>
      </template>
      <p v-else class="mt-3 text-soft">The fingerprint is shown on the shop’s own machine only.</p>
    </template>
  </section>
</template>
