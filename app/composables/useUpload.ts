import { until } from '@vueuse/core'
import { UploadShape } from '~~/core/bench/medium'

/** So much at a time: what was acknowledged is on the disk, and a line that breaks costs no more than this. */
const STRETCH_BYTES = 8 << 20

/** Brings an image into the media folder, stretch by stretch; one that broke off goes on where it stopped. */
export function useUpload(onDone: () => void) {
  const upload = shallowRef<UploadShape | null>(null)
  const trouble = ref<string | null>(null)
  let isStopped = false

  async function send(file: File) {
    trouble.value = null
    isStopped = false
    try {
      upload.value = await api(UploadShape, 'POST', '/api/bench/media/uploads', {
        name: file.name,
        bytes: file.size,
        changed: file.lastModified,
      })
      while (!isStopped && upload.value.have < file.size) upload.value = await sendStretch(file, upload.value)
      upload.value = null
    } catch (error) {
      trouble.value = failureWords(error)
    }
    onDone()
  }

  return { upload, trouble, send, stop: () => (isStopped = true) }
}

/** Sends the next stretch. Where the session has ended, it waits for the same person; anybody else begins the page anew. */
async function sendStretch(file: File, { id, have }: UploadShape): Promise<UploadShape> {
  const session = useSessionStore()
  const stretch = file.slice(have, have + STRETCH_BYTES)
  while (true)
    try {
      return await api(UploadShape, 'PUT', `/api/bench/media/uploads/${id}?from=${have}`, stretch)
    } catch (error) {
      if (!(error instanceof ApiFailure && error.isSignedOut)) throw error
      await until(() => session.lock).toBe(null)
    }
}
