import type { Finding } from '../finding'
import { type RegionId, regionIds } from '../region/types'
import { boardRules } from './board'
import { circuitRules } from './circuit'
import { type CircuitFacts, type Rule, runRule } from './engine'
import { oldWorkRules } from './old-work'
import { protectionRules } from './protection'

export const rules: readonly Rule[] = [...circuitRules, ...protectionRules, ...boardRules, ...oldWorkRules]

/** The rules that hold in each world. */
const inWorld: ReadonlyMap<RegionId, readonly Rule[]> = new Map(regionIds.map((id) => [id, rules.filter((r) => r.clause[id] !== undefined)]))

/** Everything the rules have to say about one design. */
export function circuitFindings(facts: CircuitFacts): Finding[] {
  const found: Finding[] = []
  for (const rule of inWorld.get(facts.job.region)!) {
    const finding = runRule(rule, facts)
    if (finding) found.push(finding)
  }
  return found
}
