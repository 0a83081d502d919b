// A thread that follows files beside a scan on the command line.
import { openedSource } from '../core/volumes/luks/opened'
import { answerQuestions } from './helper-answers'
import type { HelpedImage } from './helper-program'
import { openImage } from './split-parts'

answerQuestions((medium) => {
  const { path, opened } = medium as HelpedImage
  return openedSource(openImage(path), opened)
})
