import type { Case } from '../shape/case'
import { FACTS_OF_COPY, heldOf, LIES_ON_SOMETHING, type Copy, type CopyFact } from '../shape/copy'
import { known } from '../shape/fact'
import { WHOLE_LOSSES } from '../shape/loss'
import type { FactPath } from '../facts/facts'
import { hasSecret } from './own-parts'
import { said, word, type Piece, type Sentence } from './sentence'
import { COPY_KIND_WORDS, isPlural, setWords, withArticle } from './words'

/** The words before each fact of a copy. */
const LEADS: Partial<Record<CopyFact, string>> = {
  label: ', ',
  taken: ', taken ',
  account: ', account ',
  sync: ', sync before the loss ',
  syncedUntil: ', synced until ',
  keeps: ', keeping ',
  keepsFor: ', keeping things for ',
  replaced: ', replaced ',
  password: ', its password ',
  covers: ', with those made ',
  lies: ', lying ',
  placeholders: ', with ',
  lastOnline: ', last online ',
  ended: ', the account closed ',
  accountOf: ', the account: ',
  passwordOf: ', the password: ',
}

/** Facts that every kind of copy has; they are in its sentence where they are known or where the story asks for them. */
export const FACTS_OF_EVERY_COPY = [
  'exists',
  'lies',
  'covers',
  'keepsFor',
  'placeholders',
  'ended',
  'accountOf',
  'passwordOf',
] as const satisfies readonly CopyFact[]

/** Every fact of a copy as a path, for the docket: its own, those of every copy, and what it holds of each wanted set. */
export function factsOfCopy(copy: Copy, ofCase: Case): FactPath[] {
  const own = FACTS_OF_COPY[copy.kind].filter((fact) => fact !== 'count')
  const general = FACTS_OF_EVERY_COPY.filter(
    (fact) =>
      !(own as readonly string[]).includes(fact) &&
      ((fact !== 'accountOf' && fact !== 'ended') || hasSecret(copy, 'account')) &&
      (fact !== 'passwordOf' || hasSecret(copy, 'password')),
  )
  return [
    ...[...own, ...general].flatMap((fact) => pathsOf(copy, fact)),
    ...heldPaths(
      copy,
      ofCase.wanted.map(({ id }) => id),
      true,
    ),
  ]
}

/** A secret that several copies share is asked about once, by its own path. */
function pathsOf(copy: Copy, fact: CopyFact): FactPath[] {
  if (fact === 'account' && known(copy.accountOf)) return [`secrets.${copy.accountOf}.state`]
  if (fact === 'password' && known(copy.passwordOf)) return [`secrets.${copy.passwordOf}.state`]
  return [`copies.${copy.id}.${fact}`]
}

/** The sentence about one copy. */
export function copySentence(copy: Copy, ofCase: Case): Sentence {
  const kind = COPY_KIND_WORDS[copy.kind]
  const at = (fact: string) => word(`copies.${copy.id}.${fact}`)
  const part = { list: 'copies', id: copy.id, words: kind } as const
  const isStated = known(copy.exists)
  const begin = isStated
    ? [said(`${capitalised(withArticle(kind))}: `), at('exists')]
    : [said(`There ${isPlural(kind) ? 'are' : 'is'} ${withArticle(kind)}`)]
  const pieces: Piece[] =
    copy.exists === 'no' ? begin : [...begin, ...factPieces(copy, ofCase), ...heldPieces(copy, ofCase)]
  return { id: `copy-${copy.id}`, part, pieces: [...pieces, said('.')] }
}

const capitalised = (words: string) => words.charAt(0).toUpperCase() + words.slice(1)

function factPieces(copy: Copy, ofCase: Case): Piece[] {
  const own = FACTS_OF_COPY[copy.kind].filter(
    (fact) =>
      fact !== 'count' &&
      (fact !== 'password' || copy.encrypted !== 'no') &&
      (fact !== 'ran' || known(copy.ran)) &&
      !isAskedBefore(copy, fact, ofCase),
  )
  const more = FACTS_OF_EVERY_COPY.filter(
    (fact) =>
      fact !== 'exists' &&
      !(own as readonly string[]).includes(fact) &&
      (known(copy[fact]) || isNeeded(copy, fact, ofCase)),
  )
  return [...own, ...more].flatMap((fact) =>
    pathsOf(copy, fact).flatMap((path) => [said(LEADS[fact] ?? ', '), word(path)]),
  )
}

/** Whether an account or password that this copy shares is in the sentence of an earlier copy. */
function isAskedBefore(copy: Copy, fact: CopyFact, { copies }: Case): boolean {
  const naming = fact === 'account' ? 'accountOf' : fact === 'password' ? 'passwordOf' : null
  if (naming === null || !known(copy[naming])) return false
  return copies.slice(0, copies.indexOf(copy)).some((one) => one.exists !== 'no' && one[naming] === copy[naming])
}

function isNeeded(copy: Copy, fact: (typeof FACTS_OF_EVERY_COPY)[number], ofCase: Case): boolean {
  if (fact === 'lies') return LIES_ON_SOMETHING.includes(copy.kind) && WHOLE_LOSSES.includes(ofCase.loss.how)
  if (fact === 'placeholders')
    return ofCase.wanted.some((set) => set.placeholders === 'yes') && LIES_ON_SOMETHING.includes(copy.kind)
  const secret = fact === 'accountOf' ? 'account' : fact === 'passwordOf' ? 'password' : null
  if (secret === null || !hasSecret(copy, secret)) return false
  return ofCase.copies
    .slice(0, ofCase.copies.indexOf(copy))
    .some((one) => one.exists !== 'no' && hasSecret(one, secret))
}

/**
 * What a copy holds, set by set: where somebody said it, or where it is asked for. A number that was given for all of
 * them together (`count`, version 1) stands for the sets of which nobody has said more.
 */
function heldPaths(copy: Copy, wanted: readonly string[], isAsked: boolean): FactPath[] {
  const isCounted = known(copy.count)
  const sets = wanted.filter((id) => known(heldOf(copy, id)) || (isAsked && !isCounted))
  return [...(isCounted ? [`copies.${copy.id}.count`] : []), ...sets.map((id) => `copies.${copy.id}.holds.${id}`)]
}

function heldPieces(copy: Copy, ofCase: Case): Piece[] {
  const wanted = ofCase.wanted.length > 0 ? ofCase.wanted.map(({ id }) => id) : ['w1']
  return heldPaths(copy, wanted, FACTS_OF_COPY[copy.kind].includes('count')).flatMap((path, index) => {
    const set = wanted.length > 1 ? ofCase.wanted.find(({ id }) => path.endsWith(`.holds.${id}`)) : undefined
    return [said(index === 0 ? ', with ' : ', '), word(path), said(set ? ` of the ${setWords(set)}` : ' of them')]
  })
}
