import type { Case } from '../shape/case'
import { known } from '../shape/fact'
import { TYPE_WORDS } from './words'

/** The case's own name, or one made of who and what: "Tarrant · survey photos". */
export function titleOf(ofCase: Case): string {
  if (ofCase.title) return ofCase.title
  const name = known(ofCase.client.name) ? ofCase.client.name : 'Client not named yet'
  const set = ofCase.wanted[0]
  const what = set && known(set.title) ? set.title : set && known(set.type) ? TYPE_WORDS[set.type] : null
  return what ? `${name} · ${what}` : name
}
