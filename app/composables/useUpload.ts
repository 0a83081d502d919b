import type { UploadShape } from '~~/core/media/medium'

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
      upload.value = await api<UploadShape>('POST', '/api/bench/media/uploads', {
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

const sendStretch = (file: File, { id, have }: UploadShape) =>
  api<UploadShape>('PUT', `/api/bench/media/uploads/${id}?from=${have}`, file.slice(have, have + STRETCH_BYTES))
