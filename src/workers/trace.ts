import { nextTestsOf } from '../core/survey/traced'
import { answering } from './answering'

/** Works out the next tests. */
answering(nextTestsOf)
