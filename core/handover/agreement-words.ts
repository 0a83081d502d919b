import type { AgreedTo } from '../cases/shape/agreement'
import type { Case } from '../cases/shape/case'
import { deviceWords } from '../cases/telling/words'
import type { Shop } from '../playbook/shop'
import { priceWords } from './sheet-parts'

/**
 * The words that a client agrees to, made from what they agree to. `limit`: the most that it may cost, in the shop's currency;
 * needed where the price is agreed to.
 */
export function agreementWords(
  what: readonly AgreedTo[],
  ofCase: Pick<Case, 'devices' | 'authority'>,
  shop: Pick<Shop, 'name' | 'currency'>,
  limit: number | null,
): string {
  const things = ofCase.devices.map(deviceWords)
  const device = things.length === 0 ? 'the device' : things.join(' and ')
  const isOwn = ofCase.authority.basis === 'own'
  const words: Record<AgreedTo, string> = {
    'look-through': `${shop.name} may open and look through the data on ${device}, in the accounts and in the backups that I named, as far as the recovery needs it, and may copy what is recovered to its own storage.`,
    erase: `A route may erase or replace what is on ${device} now. A safety copy is made and checked first. What was not on the device when that copy was made does not come back.`,
    laboratory: `${device} may be sent to a laboratory. Other people than ${shop.name} will see the data, and the medium may be opened.`,
    repair: `${shop.name} may open and repair ${device} as far as the recovery needs it. A repair can fail.`,
    price: `The work may cost up to ${priceWords(limit ?? 0, shop.currency)} in all. Beyond that I am asked again first.`,
    result: `I went through what came back with ${shop.name}. I was told what did not come back, and why.`,
  }
  const rights = [
    isOwn
      ? 'The data are mine.'
      : 'The data are not mine alone; I have the right to ask for them, and showed proof of it.',
    'I can take this back at any time, for what has not been done yet.',
  ]
  // Whoever signs for a result allows nothing by it.
  return [...what.map((one) => words[one]), ...(what.every((one) => one === 'result') ? [] : rights)].join('\n')
}
