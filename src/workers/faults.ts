import { faultsOf } from '@/core/faults/ask'
import { answering } from './answering'

/** Tries mistakes. */
answering(faultsOf)
