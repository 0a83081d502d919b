import type { Case } from '../shape/case'
import type { BinName, Device, Platform } from '../shape/device'
import { known } from '../shape/fact'

/** Bins that are always on where a family has them: nobody is asked whether they were. */
const ALWAYS_ON: Partial<Record<Platform, readonly BinName[]>> = { 'closed-phone': ['photos'] }

/** The bins of a device that matter for what is wanted, and of which it has to be asked whether they were on. */
export function binsAsked(ofCase: Case, device: Pick<Device, 'platform'> | undefined): BinName[] {
  const always = device && known(device.platform) ? (ALWAYS_ON[device.platform] ?? []) : []
  return binsFor(ofCase).filter((bin) => !always.includes(bin))
}

/** The bins that keep what is wanted. */
export function binsFor(ofCase: Case): BinName[] {
  const types = ofCase.wanted.map((set) => set.type as string)
  const has = (...wanted: string[]) => types.some((type) => wanted.includes(type))
  const bins: BinName[] = []
  if (has('photos', 'videos')) bins.push('photos')
  if (has('notes')) bins.push('notes')
  if (has('documents', 'spreadsheets', 'files', 'audio')) bins.push('files')
  if (has('messages')) bins.push('messages')
  if (has('mail')) bins.push('mail')
  return bins
}
