import { runLantern } from './program'

process.exitCode = await runLantern(process.argv.slice(2), {
  out: (text) => void process.stdout.write(text),
  err: (text) => void process.stderr.write(text),
})
