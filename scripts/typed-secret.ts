import { createInterface } from 'node:readline'
import { Writable } from 'node:stream'

/** A line that is typed without being shown; where nobody types, the next line of the input. */
export async function typedSecret(question: string): Promise<string> {
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
