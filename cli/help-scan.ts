// A thread that follows files beside a scan on the command line.
import { answerQuestions } from '../disk/helper-answers'
import { openFile } from '../disk/file-source'

answerQuestions((medium) => openFile(String(medium)))
