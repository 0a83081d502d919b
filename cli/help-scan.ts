// A thread that follows files beside a scan on the command line.
import { answerQuestions } from '../disk/helper-answers'
import { openImage } from '../disk/split-parts'

answerQuestions((medium) => openImage(String(medium)))
