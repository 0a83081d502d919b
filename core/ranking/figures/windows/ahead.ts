import { IN_AN_ACCOUNT } from '../../../cases/shape/copy'
import { known } from '../../../cases/shape/fact'
import { spanWords } from '../../../cases/telling/words'
import type { Binding } from '../../../playbook/bind'
import { zoneOf, type Situation } from '../../situation/situation'
import { shareAfter } from '../../situation/spread'
import { NEVER, type Closing } from './window-rule'

/** What is not lost yet closes when it will be: on the device, or in the cloud where that is the only place. */
export function aheadClosing({ copy }: Binding, situation: Situation): Closing {
  const { ofCase, loss } = situation
  if (ofCase.loss.how !== 'not-lost-yet' || !known(ofCase.loss.when)) return NEVER
  const places = ofCase.wanted.flatMap((set) => (known(set.lived) ? set.lived.map(({ place }) => place) : []))
  const isCloudLost = places.includes('cloud') || places.length === 0
  const isDeviceLost = places.length === 0 || places.some((place) => place !== 'cloud')
  const isLost =
    copy === null || copy.kind === 'medium' ? isDeviceLost : IN_AN_ACCOUNT.includes(copy.kind) && isCloudLost
  if (!isLost) return NEVER
  return {
    survival: (time) => (time > loss.to ? 0 : loss.from === loss.to || time <= loss.from ? 1 : shareAfter(loss, time)),
    earliest: loss.from,
    latest: loss.to,
    fact: 'loss.when',
    says: () => `It will be lost ${spanWords(loss, zoneOf(situation), situation.now)}: copy it off before that.`,
  }
}
