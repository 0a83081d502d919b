<script setup lang="ts">
/** A key that can be changed, as it is at this machine; `shipped` in capitals where it is shown so. */
const props = defineProps<{ shipped: string }>()
const { inForce } = useOwnKeys()
const shown = computed(() => {
  const key = inForce(props.shipped.toLowerCase())
  return props.shipped === props.shipped.toLowerCase() ? key : key.toUpperCase()
})
</script>

<template>
  <kbd class="key-cap">{{ shown }}</kbd>
</template>
