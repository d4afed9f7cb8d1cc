/** A slip that changes nothing anybody could see: no test can catch it. */
interface EquivalentSlip {
  readonly file: string
  /** The line as the slip makes it. */
  readonly to: string
  readonly why: string
}

/** Slips that `npm run mutate` does not plant. */
export const equivalentSlips: readonly EquivalentSlip[] = [
  {
    file: 'src/core/design/conditions.ts',
    to: 'conductors > c.loadedConductors || circuits >= c.groupedCircuits',
    why: 'the larger of two equal counts is the same count',
  },
  {
    file: 'src/core/design/conditions.ts',
    to: 'conductors >= c.loadedConductors || circuits > c.groupedCircuits',
    why: 'the larger of two equal counts is the same count',
  },
  {
    file: 'src/core/calculate/cut-list.ts',
    to: 'b.length <= a.length ||',
    why: 'a length that another of the same length undercuts is then offered too, and never bought',
  },
  {
    file: 'src/core/workday/plan.ts',
    to: '...(p.fromMin != null && p.fromMin >= fromMin ? [{ ...gone, fromMin: 0, toMin: p.fromMin }] : []),',
    why: 'a person who comes as the day begins is away before it only',
  },
  {
    file: 'src/core/rules/circuit.ts',
    to: "applies: (f) => f.circuit.kind === 'feeder' && fedBy(f.job, f.circuit).length >= 0,",
    why: 'a feeder that feeds nothing yet carries no load, which is within any limit',
  },
]
