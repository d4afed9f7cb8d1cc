import { faultsOf } from '../core/fault/ask'
import { answering } from './answering'

/** Tries mistakes. */
answering(faultsOf)
