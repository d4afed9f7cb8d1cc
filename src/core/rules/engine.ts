import type { Finding, Severity } from '../base/finding'
import type { Circuit, Design, Installation } from '../installation/installation'
import type { RegionId } from '../region/types'
import type { SelectedCircuit } from '../calculate/select-circuit'
import type { Ending } from '../design/endings'
import type { Fed } from '../design/fed'
import type { WorkedDesign } from '../design/work'
import type { Site } from './sites'

/** What was traced on the ways a circuit stays on, besides its own points. */
export interface OnItsWays {
  /** Null where nothing is known of what is on them. */
  readonly already: {
    readonly amps: number
    readonly unknown: number
    /** The first of them whose load is not known. */
    readonly unread: string | null
    readonly points: number
  } | null
  /** Whether the first of them was switched off and looked at. */
  readonly proved: boolean
}

/** What a rule about one circuit may look at. */
export interface CircuitFacts {
  readonly job: Installation
  readonly circuit: Circuit
  readonly design: Design
  readonly result: SelectedCircuit | null
  readonly worked: WorkedDesign
  /** The feeder it is on, if any; the job then has the supply of the sub-board. */
  readonly fed: Fed | null
  /** What hangs already on the ways it stays on. */
  readonly there: OnItsWays
  /** Its points, or the one at its end. */
  readonly sites: readonly Site[]
  /** Each kind of accessory on it. */
  readonly endings: readonly Ending[]
}
/** What is given; the rest follows from it. */
export type GivenFacts = Omit<CircuitFacts, 'sites' | 'endings'>

/** A fact that a rule needs, and how it is asked for while it is not known. */
export interface Fact {
  readonly of: (facts: CircuitFacts) => unknown
  readonly ask: string | ((facts: CircuitFacts) => string)
}

/** Facts by name; null means not known. */
export const facts = {
  premises: { of: ({ job }) => job.brief.premises, ask: 'what kind of premises it is: say so in the brief' },
  ze: {
    of: ({ job }) => job.supply.zeOhm,
    ask: ({ fed }) =>
      fed
        ? `the loop at the end of ${fed.name}: it comes with the feeder once that is worked out, and with Ze at the supply`
        : 'Ze at the board: measure it and enter it under the supply',
  },
  psc: { of: ({ job }) => job.supply.pscKa, ask: 'the prospective fault current at the board: measure it or ask the supplier' },
  breaking: { of: ({ design }) => design.breakingKa, ask: 'what the breaker can break: read the kA marked on it' },
  upstream: {
    of: ({ job }) => job.supply.upstream,
    ask: ({ fed }) =>
      fed
        ? `the breaker of ${fed.name}: it is not worked out yet`
        : 'the device upstream of the board: check it, and enter it under Protection',
  },
  breaker: { of: ({ result }) => result?.breakerA ?? null, ask: 'the breaker: the circuit is not worked out yet' },
  feederDrop: { of: ({ fed }) => (fed === null ? 0 : fed.dropPercent), ask: 'what the feeder loses: it is not worked out yet' },
  load: { of: ({ worked }) => worked.load, ask: 'what it draws: read the nameplate' },
  fuse: { of: ({ design }) => design.fuseA, ask: 'which fuse the connection unit has: look, or choose it' },
  way: { of: ({ circuit }) => circuit.way.trim() || null, ask: 'which way of the board it takes' },
  duty: { of: ({ circuit }) => circuit.load.duty, ask: 'the share of the time it draws its current: read the nameplate' },
} as const satisfies Record<string, Fact>
export type FactName = keyof typeof facts

/** What would have to be found out where these facts are missing. */
export const asking = (missing: readonly FactName[], f: CircuitFacts): string =>
  missing
    .map((name) => {
      const { ask }: Fact = facts[name]
      return typeof ask === 'string' ? ask : ask(f)
    })
    .join('; ')

/** What a rule says: words alone, of its own severity and clause, or with what differs. */
export type Raised = string | ({ readonly message: string } & Partial<Omit<Finding, 'rule' | 'message'>>)

/** What a rule says of one of several points, which can be picked; of the one at the end of a circuit the words alone. */
export const aboutPoint = (point: { readonly id: string } | null | undefined, message: string): Raised =>
  point ? { message, about: `point:${point.id}` } : message

/** A rule is data: its name, the clause it rests on in each world it holds in, what it looks at, and what it says. */
export interface Rule {
  readonly id: string
  readonly clause: Partial<Record<RegionId, string>>
  readonly severity: Severity
  /** In one line, for the list of rules. */
  readonly about: string
  readonly looksAt: readonly FactName[]
  /** Whether the rule has anything to say of this circuit at all. */
  readonly applies?: (f: CircuitFacts) => boolean
  /** What is wrong and what puts it right, or null. */
  readonly raised: (f: CircuitFacts) => Raised | null
}

const nothing: readonly FactName[] = []

/** Runs one rule: silent where it does not apply, `unknown` where a fact is missing, else what it says. */
export function runRule(rule: Rule, f: CircuitFacts): Finding | null {
  const clause = rule.clause[f.job.region]
  if (clause === undefined || rule.applies?.(f) === false) return null
  const missing = rule.looksAt.length ? rule.looksAt.filter((name) => facts[name].of(f) === null) : nothing
  if (missing.length)
    return { rule: rule.id, severity: 'unknown', clause, message: `${rule.about} Not judged: ${asking(missing, f)}.`, asks: missing }
  const raised = rule.raised(f)
  if (raised === null) return null
  return typeof raised === 'string'
    ? { rule: rule.id, severity: rule.severity, clause, message: raised }
    : { rule: rule.id, severity: rule.severity, clause, ...raised }
}
