import { type Finding, listed, type Severity } from '../base/finding'
import { asking, type CircuitFacts, facts, type Raised, type Rule } from './engine'
import type { Site } from './sites'

/** Kinds of protection and of accessory that rules ask for point by point. */
export const pointTypes = ['residual', 'residual-type', 'arc-fault', 'tamper', 'weather', 'surge', 'place'] as const
export type PointType = (typeof pointTypes)[number]

/** A rule on what one point needs by where it is and what it feeds. */
export interface PointRule extends Pick<Rule, 'id' | 'clause' | 'severity' | 'about' | 'looksAt'> {
  readonly type: PointType
  /** Whether it asks for facts about the point itself while they are not known. */
  readonly asksOfPoint?: true
  /** Whether it can ask for anything there at all. */
  readonly applies: (f: CircuitFacts, s: Site) => boolean
  /** Why it is needed there and what puts it right; null where nothing asks for it. */
  readonly needs: (f: CircuitFacts, s: Site) => Raised | null
  /** In what way it is there already, or null. */
  readonly given: (f: CircuitFacts, s: Site) => string | null
}

/** What one rule says of one point. `free`: nothing asks for it there. */
export interface PointVerdict {
  readonly type: PointType
  readonly state: 'missing' | 'unknown' | 'given' | 'free'
  readonly severity: Severity | null
  readonly words: string
  readonly clause: string
  readonly asks?: readonly string[]
}

/** Judges one point; null where the rule has nothing to do with it. What is there already asks no further facts. */
export function judgePoint(rule: PointRule, f: CircuitFacts, s: Site): PointVerdict | null {
  const clause = rule.clause[f.job.region]
  if (clause === undefined || !rule.applies(f, s)) return null
  const given = rule.given(f, s)
  if (given !== null) return { type: rule.type, state: 'given', severity: null, words: given, clause }
  const missing = rule.looksAt.filter((name) => facts[name].of(f) === null)
  if (missing.length)
    return {
      type: rule.type,
      state: 'unknown',
      severity: 'unknown',
      words: `${rule.about} Not judged: ${asking(missing, f)}.`,
      clause,
      asks: missing,
    }
  const needs = rule.needs(f, s)
  if (needs === null) return { type: rule.type, state: 'free', severity: null, words: '', clause }
  const own = typeof needs === 'string' ? null : needs
  const message = typeof needs === 'string' ? needs : needs.message
  const severity = own?.severity ?? rule.severity
  // What is counted on and nobody has seen is neither there nor missing.
  const presumed = rule.type === 'residual' && s.presumed && severity !== 'note'
  const unknown = presumed || severity === 'unknown'
  return {
    type: rule.type,
    state: unknown ? 'unknown' : 'missing',
    severity: presumed ? 'unknown' : severity,
    words: presumed ? `Whether it is protected as it must be is not known. ${message}` : message,
    clause: own?.clause ?? clause,
  }
}

/** What a rule has to say of one point, or null: what is there, or is asked for by nothing, is no finding. */
function saidOf(rule: PointRule, f: CircuitFacts, s: Site): PointVerdict | null {
  const verdict = judgePoint(rule, f, s)
  if (!verdict?.severity) return null
  // That the device at the board is not known is said once, of the circuit.
  const ofCircuit = rule.type === 'residual' && verdict.severity === 'unknown' && s.presumed && f.design.residual.at === 'board'
  return ofCircuit ? null : verdict
}

/** A verdict as a finding, of the points that are named. */
const findingOf = (rule: PointRule, { severity, clause, asks, words }: PointVerdict, names: string, first?: Site): Finding => {
  const message = names ? `${names}: ${words}` : words
  const about = names && first?.point ? `point:${first.point.id}` : undefined
  if (about) return { rule: rule.id, severity: severity!, clause, message, ...(asks ? { asks } : {}), about }
  return asks ? { rule: rule.id, severity: severity!, clause, message, asks } : { rule: rule.id, severity: severity!, clause, message }
}

const noFindings: readonly Finding[] = []
/** What a rule says of all points of a circuit: points of which it says the same thing are named together. */
export function pointFindings(rule: PointRule, f: CircuitFacts): readonly Finding[] {
  if (f.sites.length === 1) {
    const verdict = saidOf(rule, f, f.sites[0]!)
    return verdict ? [findingOf(rule, verdict, '')] : noFindings
  }
  const said = new Map<string, { verdict: PointVerdict; first: Site; names: string[] }>()
  for (const s of f.sites) {
    const verdict = saidOf(rule, f, s)
    if (!verdict) continue
    const key = `${verdict.severity} ${verdict.words}`
    const before = said.get(key)
    if (before) before.names.push(s.name)
    else said.set(key, { verdict, first: s, names: [s.name] })
  }
  return [...said.values()].map(({ verdict, first, names }) =>
    findingOf(rule, verdict, names.length === f.sites.length ? '' : listed(names), first),
  )
}

/** What a point needs of one type: the gravest of what its rules say. Null where no rule of that type looks at it. */
export function needOf(rules: readonly PointRule[], type: PointType, f: CircuitFacts, s: Site): PointVerdict | null {
  const order: readonly PointVerdict['state'][] = ['missing', 'unknown', 'given', 'free']
  const verdicts = rules.filter((r) => r.type === type).flatMap((r) => judgePoint(r, f, s) ?? [])
  return verdicts.toSorted((a, b) => order.indexOf(a.state) - order.indexOf(b.state))[0] ?? null
}
