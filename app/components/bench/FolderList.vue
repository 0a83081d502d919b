<script setup lang="ts">
import { NamedFolders } from '~~/core/bench/answers'
import { HandoutFolders } from '~~/core/bench/shelf'

/** The folders that are searched for backups; the owner names them. */
const emit = defineEmits<{ changed: [] }>()
const load = async () => (await api(NamedFolders, 'GET', '/api/bench/folders')).folders
const keep = async (folders: string[]) => (await api(NamedFolders, 'PUT', '/api/bench/folders', { folders })).folders

const loadOut = async () => (await api(HandoutFolders, 'GET', '/api/bench/hand-out')).folders.map(({ path }) => path)
const keepOut = async (folders: string[]) =>
  (await api(NamedFolders, 'PUT', '/api/bench/hand-out', { folders })).folders
</script>

<template>
  <section aria-labelledby="folders">
    <h2 id="folders" class="text-[18px]">Folders with backups and files</h2>
    <p class="text-[14.5px] text-soft">
      Archives in these folders are opened read only, and technicians may bring in files from them. The shop’s own
      folder and backups fetched for cases are always included.
    </p>
    <KeptPaths
      :load="load"
      :keep="keep"
      label="path of a folder on this machine"
      placeholder="/path/of/a/folder"
      verb="Add folder"
      @changed="emit('changed')"
    />
    <h3 class="mt-5 text-[16px]">Folders for handing over</h3>
    <p class="text-[14.5px] text-soft">
      Where clients’ media appear on this machine. What came back is copied into a new folder there; nothing is
      overwritten.
    </p>
    <KeptPaths
      :load="loadOut"
      :keep="keepOut"
      label="path of a folder to hand over into"
      placeholder="/path/where/media/appear"
      verb="Name folder"
    />
  </section>
</template>
