import { toast } from 'vue-sonner'

/** Says a failure where the reader is, whatever they do. */
export function tellFailure(error: unknown) {
  toast.error(failureWords(error), { duration: 12_000 })
}

/** Says what was done, with a way back. */
export function tellDone(words: string, undo?: () => void) {
  toast(words, undo ? { action: { label: 'Undo', onClick: undo } } : {})
}
