/** Faults of the program itself, whose messages name parts of the program. */
const OF_PROGRAM = new Set(['TypeError', 'ReferenceError', 'RangeError', 'AssertionError', 'DataFault'])

/**
 * Writes an unexpected error to the log of the server: its kind, its code and where it happened. Messages are left out unless
 * they can only speak of the program: those of files, databases and parsers name clients’ files or repeat what was typed.
 */
export function logFault(error: unknown, about = ''): void {
  console.error([about, ...faultLines(error, 0)].filter(Boolean).join('\n'))
}

const MAX_DEPTH = 4

function faultLines(error: unknown, depth: number): string[] {
  if (!(error instanceof Error) || depth > MAX_DEPTH) return ['An error that is none']
  const { code, syscall } = error as NodeJS.ErrnoException
  const isOfProgram = OF_PROGRAM.has(error.name) && code === undefined
  const head = [error.name, code, syscall, isOfProgram ? error.message : ''].filter(Boolean).join(' ')
  const frames = (error.stack ?? '')
    .replace(error.message, '')
    .split('\n')
    .filter((line) => /^\s+at /.test(line))
  const inner = error instanceof AggregateError ? error.errors : error.cause === undefined ? [] : [error.cause]
  return [head, ...frames, ...inner.flatMap((one) => faultLines(one, depth + 1).map((line) => `  ${line}`))]
}
