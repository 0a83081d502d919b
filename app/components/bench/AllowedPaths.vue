<script setup lang="ts">
// Named apart from the component of the same name.
import { NamedPaths as PathList } from '~~/core/bench/answers'

/** Images and devices elsewhere on this machine that may be read; the owner names them. */
const emit = defineEmits<{ changed: [] }>()
const paths = ref<string[]>([])
const { isBusy, send, problem, error } = useSending()
onMounted(() => send(async () => (paths.value = (await api(PathList, 'GET', '/api/bench/media/paths')).paths)))
async function keep(next: string[]) {
  const done = await send(async () => {
    paths.value = (await api(PathList, 'PUT', '/api/bench/media/paths', { paths: next })).paths
  })
  if (done) emit('changed')
}
const words = computed(() => problem.value ?? (error.value ? `${error.value.message} ${error.value.safe}` : null))
</script>

<template>
  <div>
    <h3 class="text-[16px]">Allowed paths and devices</h3>
    <NamedPaths
      :paths="paths"
      :is-busy="isBusy"
      label="path of an image or a block device on this machine"
      placeholder="/path/of/an/image or a block device"
      verb="Allow path"
      @keep="keep"
    />
    <p v-if="words" role="alert" class="mt-1 text-[14px] text-russet-ink">{{ words }}</p>
  </div>
</template>
