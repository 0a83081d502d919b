import type { Case } from '../shape/case'
import { IN_AN_ACCOUNT, type Copy } from '../shape/copy'
import { nextId } from '../shape/next-id'
import { known } from '../shape/fact'
import type { Change, FactPath } from '../facts/facts'
import type { Option } from './asking'
import { optionFor } from './matching'
import { copyWords, deviceWords } from './words'

/** On none of the devices and media of the case. */
export const APART: Option = {
  value: 'apart',
  words: 'apart from all of them',
  also: ['apart', 'elsewhere', 'somewhere else', 'in another house', 'at home', 'away'],
}

/** The devices and media of a case as answers; `without` leaves one copy out. */
export function partOptions(ofCase: Case, without?: string): Option[] {
  const media = ofCase.copies.filter((copy) => copy.kind === 'medium' && copy.id !== without)
  return [
    ...ofCase.devices.map((device) => ({ value: device.id, words: on(deviceWords(device)) })),
    ...media.map((copy) => ({ value: copy.id, words: on(copyWords(copy)) })),
  ]
}

const on = (words: string) => `on ${words}`

type SecretKind = 'account' | 'password'
const NAMING: Record<SecretKind, 'accountOf' | 'passwordOf'> = { account: 'accountOf', password: 'passwordOf' }

/** The accounts or passwords that copies can share: those of the case, and those of the copies that name none yet. */
export function secretOptions(ofCase: Case, path: FactPath, kind: SecretKind): Option[] {
  const own = path.split('.')[1]
  const named = ofCase.secrets
    .filter((secret) => !known(secret.kind) || (secret.kind === 'account') === (kind === 'account'))
    .map((secret) => ({ value: secret.id, words: known(secret.label) ? secret.label : `the ${kind} ${secret.id}` }))
  const others = ofCase.copies
    .filter((copy) => copy.id !== own && !known(copy[NAMING[kind]]) && hasSecret(copy, kind))
    .map((copy) => ({ value: `of:${copy.id}`, words: `the one of ${copyWords(copy)}` }))
  return [...named, ...others]
}

const PASSWORD_KINDS: readonly string[] = [
  'computer-backup',
  'trusted-computer',
  'disk-image',
  'system-image',
  'app-copies',
]

/** True for kinds of copies that are opened with an account, or with a password of their own. */
export const hasSecret = ({ kind }: Pick<Copy, 'kind'>, secret: SecretKind): boolean =>
  (secret === 'account' ? IN_AN_ACCOUNT : PASSWORD_KINDS).includes(kind)

/** The changes after which a copy shares the account or password that was typed: one of the case, or a new one. */
export function secretAnswer(ofCase: Case, path: FactPath, kind: SecretKind, typed: string): Change[] {
  const naming = NAMING[kind]
  const id = path.split('.')[1] ?? ''
  const option = optionFor(secretOptions(ofCase, path, kind), typed)
  if (option && !option.value.startsWith('of:')) return [{ fact: path, is: option.value }]
  const other = option ? ofCase.copies.find((copy) => copy.id === option.value.slice('of:'.length)) : undefined
  const holder = other ?? ofCase.copies.find((copy) => copy.id === id)
  const secret = nextId('s', ofCase.secrets)
  const label = other ? `${kind} of ${copyWords(other)}`.slice(0, 80) : typed.slice(0, 80)
  return [
    { fact: `secrets.${secret}`, is: { kind, label, state: holder?.[kind] ?? 'unknown' } },
    { fact: path, is: secret },
    ...(other ? [{ fact: `copies.${other.id}.${naming}`, is: secret }] : []),
  ]
}
