import { dairy } from './dairy'
import { hall } from './hall'
import { honey } from './honey'
import type { DemoJob } from './kit'

/** The demo jobs: three worlds, three characters, three stages, each with honest findings to resolve. */
export const demoJobs: readonly DemoJob[] = [dairy, hall, honey]
