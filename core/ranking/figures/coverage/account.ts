import type { DataType } from '../../../cases/shape/data-types'
import { known, type Fact } from '../../../cases/shape/fact'
import { countOf } from '../../../cases/shape/wanted'
import { clamped, type Estimate } from '../../situation/estimate'
import { flat, type CoverageRule } from './coverage-rule'
import { fromMemory } from './shares'

/** The share that an account or a person usually has of a type of data: low, mid, high. */
export const usualShareOf = ({ share, shareOf }: UsualShares, type: Fact<DataType>): Estimate =>
  (known(type) ? shareOf?.[type] : undefined) ?? share

interface UsualShares {
  readonly share: Estimate
  readonly shareOf?: Readonly<Partial<Record<DataType, Estimate>>> | undefined
}

/** What such an account usually keeps of them. */
export const account: CoverageRule<'account'> = (binding, brings, axis) => {
  const { copy } = binding
  const { count } = axis.wanted
  const fact = copy ? `copies.${copy.id}.count` : null
  if (copy && known(copy.count) && known(count)) {
    const part = clamped(copy.count / countOf(axis.wanted))
    return {
      bySlice: flat(axis, fromMemory(part)),
      fact,
      says: () => `About ${copy.count} of about ${count} are in it.`,
    }
  }
  const usual = usualShareOf(brings, axis.wanted.type)
  const says = () =>
    usual[1] > 0.6 ? 'What was said in it is kept in it.' : 'Only what was ever posted or sent there is in it.'
  return { bySlice: flat(axis, usual), fact, says }
}
