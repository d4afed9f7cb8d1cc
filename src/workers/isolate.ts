import { isolationAsked } from '@/core/evaluate/isolation-asked'
import { answering } from './answering'

/** Asks the wiring what makes a place dead. */
answering(isolationAsked)
