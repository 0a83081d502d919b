// npm run set-password -- NAME: sets somebody's password from the shop's machine, for an owner who has lost theirs.
import { createInterface } from 'node:readline'
import { resolve } from 'node:path'
import { Writable } from 'node:stream'
import { NewPassword } from '../core/people/person'
import { recoverPassword } from '../server/people/recover'

const UNUSABLE = 2

/** A line that is typed without being shown; where nobody types, the next line of the input. */
async function secret(question: string): Promise<string> {
  const isTyped = process.stdin.isTTY === true
  if (isTyped) process.stderr.write(question)
  const nowhere = new Writable({ write: (_chunk, _encoding, done) => done() })
  const lines = createInterface({ input: process.stdin, output: nowhere, terminal: isTyped })
  for await (const line of lines) {
    lines.close()
    if (isTyped) process.stderr.write('\n')
    return line
  }
  return ''
}

const [signIn, ...rest] = process.argv.slice(2)
try {
  if (!signIn || rest.length > 0) throw new Error('Say whose password: npm run set-password -- SIGN-IN-NAME')
  const read = NewPassword.safeParse({ password: await secret('New password: ') })
  if (!read.success) throw new Error(`The password ${read.error.issues[0]!.message}.`)
  if (process.stdin.isTTY && (await secret('Once more: ')) !== read.data.password)
    throw new Error('That was not the same password. Nothing was changed.')
  const name = recoverPassword(resolve(process.env.LANTERN_DATA || './data'), signIn, read.data.password, Date.now())
  process.stderr.write(`${name} signs in with the new password from now on. All their sessions have ended.\n`)
} catch (error) {
  process.stderr.write(`${(error as Error).message.replace(/^password /, 'The password ')}\n`)
  process.exitCode = UNUSABLE
}
