import { atSurvey } from './at-survey'
import { dairy } from './dairy'
import { finished } from './finished'
import { hall } from './hall'
import { honey } from './honey'
import type { DemoJob } from './kit'

/** The demo jobs: three half way in three worlds, one finished, and one at its survey; each says what it shows. */
export const demoJobs: readonly DemoJob[] = [dairy, hall, honey, finished, atSurvey]
