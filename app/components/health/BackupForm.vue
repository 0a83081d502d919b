<script setup lang="ts">
import { Health, MIN_PASSPHRASE } from '~~/core/safekeeping/backup'

/** Where backups go, whether files go along, and the passphrase that opens them. */
const props = defineProps<{ backup: Health['backup'] }>()
const emit = defineEmits<{ done: [Health] }>()
const isOpen = ref(props.backup.folder === null)
const folder = ref(props.backup.folder ?? '')
const hasFiles = ref(props.backup.hasFiles)
const passphrase = ref('')
const again = ref('')
const problem = ref<string | null>(null)

async function save() {
  problem.value = null
  if (passphrase.value !== again.value) {
    problem.value = 'The two passphrases differ.'
    return
  }
  try {
    const so = await api(Health, 'PUT', '/api/safekeeping', {
      folder: folder.value,
      hasFiles: hasFiles.value,
      passphrase: passphrase.value === '' ? null : passphrase.value,
    })
    passphrase.value = ''
    again.value = ''
    isOpen.value = false
    tellDone('Saved.')
    emit('done', so)
  } catch (error) {
    const [field] = error instanceof ApiFailure ? error.error.fields : []
    problem.value = field ? `The ${field.path} ${field.message}.` : failureWords(error)
  }
}
</script>

<template>
  <div>
    <p v-if="!isOpen" class="text-[15px]">
      Backups {{ backup.hasFiles ? 'with' : 'without' }} the files on shelves go to
      <span class="figure text-[13px]">{{ backup.folder }}</span>
      <button type="button" class="ml-2 underline decoration-dotted" data-test="change-backups" @click="isOpen = true">
        Change
      </button>
    </p>
    <form v-else class="max-w-[34rem] space-y-3" data-test="backup-form" @submit.prevent="save">
      <label class="block text-[15px]">
        Folder on this machine, best on another disk
        <input v-model="folder" class="field figure text-[14px]" required maxlength="1000" placeholder="/mnt/backups" />
      </label>
      <label class="flex items-center gap-2.5 text-[15px]">
        <input v-model="hasFiles" type="checkbox" class="size-4 accent-[var(--russet)]" />
        with the files on shelves, media and fetched backups
      </label>
      <div class="grid grid-cols-2 gap-3">
        <label class="block text-[15px]">
          {{ backup.hasPassphrase ? 'New passphrase, if any' : 'Passphrase' }}
          <input
            v-model="passphrase"
            type="password"
            class="field"
            autocomplete="new-password"
            :required="!backup.hasPassphrase"
          />
        </label>
        <label class="block text-[15px]">
          Once more
          <input
            v-model="again"
            type="password"
            class="field"
            autocomplete="new-password"
            :required="!backup.hasPassphrase"
          />
        </label>
      </div>
      <p class="text-[14px] text-soft">
        At least {{ MIN_PASSPHRASE }} characters. It is stored nowhere: write it down and keep it away from this
        machine. Without it nobody can open a backup.
      </p>
      <p v-if="problem" role="alert" class="text-[15px] text-russet-ink">{{ problem }}</p>
      <p class="flex gap-3">
        <button type="submit" class="main-action">Save</button>
        <button v-if="backup.folder" type="button" class="quiet-action" @click="isOpen = false">Cancel</button>
      </p>
    </form>
  </div>
</template>
