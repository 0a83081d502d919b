// npm run set-password -- NAME: sets somebody's password from the shop's machine, for an owner who has lost theirs.
import { resolve } from 'node:path'
import { NewPassword } from '../core/people/person'
import { recoverPassword } from '../server/people/recover'
import { typedSecret } from './typed-secret'

const UNUSABLE = 2

const [signIn, ...rest] = process.argv.slice(2)
try {
  if (!signIn || rest.length > 0) throw new Error('Say whose password: npm run set-password -- SIGN-IN-NAME')
  const read = NewPassword.safeParse({ password: await typedSecret('New password: ') })
  if (!read.success) throw new Error(`The password ${read.error.issues[0]!.message}.`)
  if (process.stdin.isTTY && (await typedSecret('Once more: ')) !== read.data.password)
    throw new Error('That was not the same password. Nothing was changed.')
  const name = recoverPassword(resolve(process.env.LANTERN_DATA || './data'), signIn, read.data.password, Date.now())
  process.stderr.write(`${name} signs in with the new password from now on. All their sessions have ended.\n`)
} catch (error) {
  process.stderr.write(`${(error as Error).message.replace(/^password /, 'The password ')}\n`)
  process.exitCode = UNUSABLE
}
