// A thread that follows files beside a scan on the command line.
import { openedSource, type OpenedVolume } from '../core/volumes/luks/opened'
import { answerQuestions } from './helper-answers'
import { openImage } from './split-parts'

answerQuestions((medium) => {
  const { path, opened } = medium as { path: string; opened: readonly OpenedVolume[] }
  return openedSource(openImage(path), opened)
})
