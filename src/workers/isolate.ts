import { isolationAsked } from '@/core/workday/isolation'
import { answering } from './answering'

/** Asks the wiring what makes a place dead. */
answering(isolationAsked)
