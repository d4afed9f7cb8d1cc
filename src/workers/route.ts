import { waysOfAll } from '../core/building/route'
import { answering } from './answering'

/** Looks for ways. */
answering(waysOfAll)
