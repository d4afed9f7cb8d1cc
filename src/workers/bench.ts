import { liveOf } from '@/core/wired/live'
import { answering } from './answering'

/** Solves wiring. */
answering(liveOf)
