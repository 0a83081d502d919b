// A thread that follows files beside a scan of the bench.
import { answerQuestions } from '../../disk/helper-answers'
import { MediumPlace, openMedium } from './open-medium'

answerQuestions((medium) => openMedium(MediumPlace.parse(medium)))
