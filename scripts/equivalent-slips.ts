/** A slip that changes nothing anybody could see: no test can catch it. */
interface EquivalentSlip {
  readonly file: string
  /** The line as the slip makes it. */
  readonly to: string
  readonly why: string
}

/** Slips that `npm run mutate` does not plant. */
export const equivalentSlips: readonly EquivalentSlip[] = []
