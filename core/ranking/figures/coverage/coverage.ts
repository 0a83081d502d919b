import type { Binding } from '../../../playbook/bind'
import type { Brings } from '../../../playbook/kinds/route-kind'
import type { Axis } from '../../situation/axis'
import type { Situation } from '../../situation/situation'
import { account } from './account'
import { autosave } from './autosave'
import { bin } from './bin'
import type { Coverage, CoverageRule } from './coverage-rule'
import { keptFolder } from './kept-folder'
import { library } from './library'
import { libraryBin } from './library-bin'
import { nothing } from './nothing'
import { otherDevice } from './other-device'
import { person } from './person'
import { place } from './place'
import { present } from './present'
import { rolling } from './rolling'
import { rows } from './rows'
import { snapshot } from './snapshot'
import { asStated } from './stated'
import { storage } from './storage'
import { versions } from './versions'

/** Every coverage rule, by its name in the playbook. A new one is one file, its sample in the test, a line here and one in the playbook's schema. */
export const COVERAGE_RULES: { readonly [By in Brings['by']]: CoverageRule<By> } = {
  bin,
  'library-bin': libraryBin,
  versions,
  library,
  snapshot,
  storage,
  person,
  place,
  autosave,
  rows,
  account,
  present,
  'other-device': otherDevice,
  rolling,
  'kept-folder': keptFolder,
  nothing,
}

/** The share of a wanted set that a copy covers: by its kind, and by what was said of this one. */
export function coverageOf(binding: Binding, axis: Axis, situation: Situation): Coverage {
  const { brings } = binding.kind
  const rule = COVERAGE_RULES[brings.by] as CoverageRule<Brings['by']>
  return asStated(rule(binding, brings, axis, situation), binding.copy, brings.by, axis, situation)
}
