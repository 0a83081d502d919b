import { until } from '@vueuse/core'
import type { FileWithPath } from 'file-selector'
import { ArrivingBatch, BatchLink, BatchProgress, type BatchFile } from '~~/core/bench/batch'

/** Bytes per request: what was acknowledged is on disk, and a dropped connection costs no more than this. */
const STRETCH_BYTES = 3 << 20

/** The folders and the name of a file as it was chosen or dropped, from the outermost. */
const pathOf = (file: FileWithPath): string[] =>
  (file.relativePath ?? file.webkitRelativePath ?? file.name).split('/').filter((part) => part !== '' && part !== '.')

const asBatchFile = (file: FileWithPath): BatchFile => ({
  path: pathOf(file),
  bytes: file.size,
  changed: Math.max(0, file.lastModified),
})

/** Sends files that were fetched by hand to a case, file by file; an interrupted batch resumes where it stopped. */
export function useBatch() {
  const bench = useBenchStore()
  const session = useSessionStore()
  const batch = shallowRef<ArrivingBatch | null>(null)
  const arrived = reactive({ files: 0, bytes: 0 })
  const trouble = ref<string | null>(null)
  let isStopped = false

  const path = (rest: string) => bench.path(`/batches${rest}`)

  /** The link that the files became; null where they did not all arrive. */
  async function send(chosen: readonly FileWithPath[], run: string | null): Promise<string | null> {
    trouble.value = null
    isStopped = false
    try {
      // Always in the same order, so that the same files are recognised.
      const files = chosen.toSorted((one, other) => pathOf(one).join('/').localeCompare(pathOf(other).join('/'), 'en'))
      const begun = await api(ArrivingBatch, 'POST', path(''), { run, files: files.map(asBatchFile) })
      batch.value = begun
      arrived.files = begun.whole
      arrived.bytes = begun.have.reduce((sum, have) => sum + have, 0)
      for (const [at, file] of files.entries()) {
        let have = begun.have[at]!
        const isWhole = have === file.size
        while (have < file.size) {
          if (isStopped) return null
          const before = have
          have = await stretch(begun.id, at, file, have)
          arrived.bytes += have - before
        }
        if (!isWhole) arrived.files++
      }
      return (await api(BatchLink, 'POST', path(`/${begun.id}`))).link
    } catch (error) {
      trouble.value = error instanceof MovedFile ? error.message : failureWords(error)
      return null
    } finally {
      batch.value = null
    }
  }

  /** Sends the next part of a file; if the session has ended, it waits until the same person is back. */
  async function stretch(id: string, at: number, file: File, have: number): Promise<number> {
    const part = await bytesOf(file, have)
    while (true)
      try {
        return (await api(BatchProgress, 'PUT', path(`/${id}/files/${at}?from=${have}`), part)).have
      } catch (error) {
        if (!(error instanceof ApiFailure && error.isSignedOut)) throw error
        await until(() => session.lock).toBe(null)
      }
  }

  return { batch, arrived, trouble, send, stop: () => (isStopped = true) }
}

/** A chosen file that its owner has moved, changed or unplugged since. */
class MovedFile extends Error {}

async function bytesOf(file: File, from: number): Promise<Blob> {
  try {
    return new Blob([await file.slice(from, from + STRETCH_BYTES).arrayBuffer()])
  } catch {
    throw new MovedFile(
      `“${file.name}” cannot be read any more. What arrived is kept. Choose the files again to resume.`,
    )
  }
}
