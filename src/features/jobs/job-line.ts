import type { Hit } from '@/core/documents/hits'

/** Which jobs are listed; empty: any. It is in the address, so that it can be gone back to. */
export interface Shown {
  readonly search: string
  readonly world: string
  readonly stage: string
  readonly wrong: boolean
  /** Those one worked on last, with something still open. */
  readonly mine: boolean
  readonly deleted: boolean
}
/** The address of a list. */
export const listAt = ({ search, world, stage, wrong, mine, deleted }: Shown, page = 1): string => {
  const said = {
    q: search,
    world,
    stage,
    wrong: wrong ? '1' : '',
    mine: mine ? '1' : '',
    deleted: deleted ? '1' : '',
    page: page > 1 ? String(page) : '',
  }
  return `/?${new URLSearchParams(Object.entries(said).filter(([, value]) => value !== ''))}`
}

/** A job as the list of jobs shows it. */
export interface JobLine {
  id: string
  title: string
  place: string
  region: string
  stage: string
  errors: number
  warnings: number
  /** Whether they were counted since it was changed last. */
  counted: boolean
  /** Why it could not be brought up to this version; null: it could. */
  setAside: string | null
  updatedAt: string
  /** Where in it what was searched for was found. */
  hits?: readonly Hit[]
}
