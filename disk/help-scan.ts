// A thread that follows files beside a scan on the command line.
import { answerQuestions } from './helper-answers'
import { openImage } from './split-parts'

answerQuestions((medium) => openImage(String(medium)))
