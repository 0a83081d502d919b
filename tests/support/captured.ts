import { runLantern } from '../../cli/program'

/** Runs the command in this process and answers its exit code and what it wrote. */
export function lantern(...words: string[]): { code: number; stdout: string; stderr: string } {
  const written = { stdout: '', stderr: '' }
  const code = runLantern(words, {
    out: (text) => (written.stdout += text),
    err: (text) => (written.stderr += text),
  })
  return { code, ...written }
}
