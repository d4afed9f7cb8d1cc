import { liveOf } from '../core/bench/live'
import { answering } from './answering'

/** Solves wiring. */
answering(liveOf)
