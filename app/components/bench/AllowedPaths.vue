<script setup lang="ts">
// Named apart from the component of the same name.
import { NamedPaths as PathList } from '~~/core/bench/answers'

/** Images and devices elsewhere on this machine that may be read; the owner names them. */
const emit = defineEmits<{ changed: [] }>()
const PATH = '/api/bench/media/paths'
const load = async () => (await api(PathList, 'GET', PATH)).paths
const keep = async (paths: string[]) => (await api(PathList, 'PUT', PATH, { paths })).paths
</script>

<template>
  <div>
    <h3 class="text-[16px]">Allowed paths and devices</h3>
    <KeptPaths
      :load="load"
      :keep="keep"
      label="path of an image or a block device on this machine"
      placeholder="/path/of/an/image or a block device"
      verb="Allow path"
      @changed="emit('changed')"
    />
  </div>
</template>
