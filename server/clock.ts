/** The one clock of the server. Its time can be set at the start, and later where that is allowed. */
export interface Clock {
  /** ms since the epoch */
  now(): number
  /** Sets the time (ms since the epoch); it runs on from there. */
  set(time: number): void
}

export function clockFrom(startIso: string | undefined, systemNow: () => number = Date.now): Clock {
  const start = startIso ? Date.parse(startIso) : NaN
  if (startIso && Number.isNaN(start)) throw new Error(`LANTERN_NOW is not a valid time: ${startIso}`)
  let ahead = Number.isNaN(start) ? 0 : start - systemNow()
  return {
    now: () => systemNow() + ahead,
    set: (time) => {
      ahead = time - systemNow()
    },
  }
}
