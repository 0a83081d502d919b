const listeners = new Set<(caseId: number) => void>()

/** Tells whoever listens that something about the passes of a case is new; answers how to stop listening. */
export function onPassNews(tell: (caseId: number) => void): () => void {
  listeners.add(tell)
  return () => listeners.delete(tell)
}

/** Says that something about the scans of a case is new. */
export const tellNews = (caseId: number) => {
  for (const tell of listeners) tell(caseId)
}
