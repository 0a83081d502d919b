import type { Device } from '../../cases/shape/device'
import type { Limits } from '../../cases/shape/terms'
import type { Estimate } from '../situation/estimate'

/** A copy that follows from something else that the client said. */
export const SUPPOSED: Estimate = [0.6, 0.85, 0.97]
/** What a client thinks they know is right so often. */
export const THOUGHT_KNOWN: Estimate = [0.5, 0.75, 0.9]

/** How likely a client who has named no sum would pay for a laboratory; null where they said nothing of it. */
export function payableOf(budget: Limits['budget']): Estimate | null {
  if (budget === 'little') return [0.02, 0.08, 0.2]
  return budget === 'whatever' ? [0.85, 0.95, 0.99] : null
}

/** How likely a device works that was wet and has not been tried since; null where it was not wet. */
export function workingUnknown(device: Pick<Device, 'wet'> | null): Estimate | null {
  return device?.wet === 'wet' ? [0.1, 0.3, 0.55] : device?.wet === 'dried' ? [0.3, 0.55, 0.75] : null
}

/** What can be read of a device that runs, but not as it should. */
export const HALF_WORKING: Partial<Record<string, Estimate>> = {
  cracked: [0.2, 0.45, 0.7],
  'touch-dead': [0.5, 0.75, 0.9],
  'system-crashed': [0.1, 0.3, 0.55],
}
