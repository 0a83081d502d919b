import { toast } from 'vue-sonner'

/** Shows a failure wherever the reader is on the page. */
export function tellFailure(error: unknown) {
  toast.error(failureWords(error), { duration: 12_000 })
}

/** Shows what was done, with an undo. */
export function tellDone(words: string, undo?: () => void) {
  toast(words, undo ? { action: { label: 'Undo', onClick: undo } } : {})
}
