const listeners = new Set<(caseId: number) => void>()

/** Calls `listener` whenever something about the scans of a case changes; returns the function that ends it. */
export function onPassNews(tell: (caseId: number) => void): () => void {
  listeners.add(tell)
  return () => listeners.delete(tell)
}

/** Says that something about the scans of a case is new. */
export const tellNews = (caseId: number) => {
  for (const tell of listeners) tell(caseId)
}
