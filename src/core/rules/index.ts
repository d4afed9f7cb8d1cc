import { endingsOf } from '../design/endings'
import type { Finding } from '../base/finding'
import { type RegionId, regionIds } from '../region/types'
import { boardRules } from './board'
import { circuitRules } from './circuit'
import { type CircuitFacts, type GivenFacts, type Rule, runRule } from './engine'
import { existingRules, onNone } from './existing'
import { motorRules } from './motors'
import { oldWorkRules } from './old-work'
import { needOf, type PointRule, type PointType, pointTypes, type PointVerdict, pointFindings } from './point-rule'
import { pointRules } from './points'
import { protectionRules } from './protection'
import { runRules } from './run'
import { type Site, sitesOf } from './sites'
import { switchingRules } from './switching'
import { useRules } from './use'

export const rules: readonly Rule[] = [
  ...circuitRules,
  ...runRules,
  ...useRules,
  ...protectionRules,
  ...boardRules,
  ...switchingRules,
  ...existingRules,
  ...motorRules,
  ...oldWorkRules,
]

/** The rules that hold in each world, about the circuit and about each of its points. */
const inWorld: ReadonlyMap<RegionId, { readonly rules: readonly Rule[]; readonly points: readonly PointRule[] }> = new Map(
  regionIds.map((id) => [
    id,
    { rules: rules.filter((r) => r.clause[id] !== undefined), points: pointRules.filter((r) => r.clause[id] !== undefined) },
  ]),
)

/** The facts with the points of the circuit, and what is at them, as its rules see them. */
export const completed = ({ job, circuit, design, result, worked, fed, there }: GivenFacts): CircuitFacts => ({
  job,
  circuit,
  design,
  result,
  worked,
  fed,
  there,
  sites: sitesOf(job, circuit, design),
  endings: endingsOf(circuit, design),
})

/** Everything the rules have to say about one design. */
export function circuitFindings(given: GivenFacts): Finding[] {
  const facts = completed(given)
  const world = inWorld.get(facts.job.region)!
  const found: Finding[] = []
  for (const rule of world.points) found.push(...pointFindings(rule, facts))
  for (const rule of world.rules) {
    const finding = runRule(rule, facts)
    if (finding) found.push(finding)
  }
  return found
}

/** What each point needs of each type that any rule of its world looks at there, as a table. */
export interface PointNeeds {
  readonly types: readonly PointType[]
  readonly rows: readonly { readonly site: Site; readonly needs: Readonly<Partial<Record<PointType, PointVerdict>>> }[]
}

export function pointNeeds(given: Omit<GivenFacts, 'fed' | 'there'>): PointNeeds {
  const facts = completed({ fed: null, there: onNone, ...given })
  const { points } = inWorld.get(facts.job.region)!
  const rows = facts.sites.map((site) => ({
    site,
    needs: Object.fromEntries(pointTypes.flatMap((type) => needOf(points, type, facts, site) ?? []).map((v) => [v.type, v])) as Partial<
      Record<PointType, PointVerdict>
    >,
  }))
  return { types: pointTypes.filter((type) => rows.some((r) => r.needs[type])), rows }
}
