import { runLantern } from '../../cli/program'

/** Runs the command in this process and answers its exit code and what it wrote. */
export async function lantern(...words: string[]): Promise<{ code: number; stdout: string; stderr: string }> {
  const written = { stdout: '', stderr: '' }
  const code = await runLantern(words, {
    out: (text) => (written.stdout += text),
    err: (text) => (written.stderr += text),
  })
  return { code, ...written }
}
