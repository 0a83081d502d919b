import { until } from '@vueuse/core'
import { UploadShape } from '~~/core/bench/medium'

/** Bytes per request: what was acknowledged is on disk, and a dropped connection costs no more than this. */
const STRETCH_BYTES = 8 << 20

/** Uploads an image to the media folder in parts; an interrupted upload resumes where it stopped. */
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

/** Sends the next part. If the session has ended, it waits for the same person; anybody else gets a fresh page. */
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
