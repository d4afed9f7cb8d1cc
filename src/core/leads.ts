import type { Finding } from './finding'
import { findingPart } from './drawing/chain'
import type { StageId } from './stages'
import type { FactName } from './rules/engine'
import type { DemandFact } from './survey/service'

/** Where a finding or an open thing is answered: a stage, its sheet, what is picked there, and the field by the label it wears. */
export interface Lead {
  readonly stage: StageId
  readonly sheet?: string
  /** A link of the chain (`part:cable`), or what is there in an altered circuit (`found`). */
  readonly at?: string
  /** Fields by label; the first that stands there is gone to. */
  readonly fields?: readonly string[]
}

const brief = (...fields: string[]): Lead => ({ stage: 'brief', fields })
const part = (at: string, ...fields: string[]): Lead => ({ stage: 'circuit', sheet: 'this', at: `part:${at}`, fields })
const protection = (...fields: string[]): Lead => ({ stage: 'circuit', sheet: 'protection', fields })
const board = (...fields: string[]): Lead => ({ stage: 'survey', sheet: 'board', fields })
const survey = (sheet: string): Lead => ({ stage: 'survey', sheet })
const found = (...fields: string[]): Lead => ({ stage: 'circuit', sheet: 'this', at: 'found', fields })

/** Where each fact that a rule, or the demand of the service, may ask for is given. */
export const leadOfFact: Readonly<Record<FactName | DemandFact, Lead>> = {
  premises: brief('Kind of premises'),
  ze: brief('Ze measured at the board'),
  psc: protection('Fault current at the board'),
  breaking: protection('Its breaker breaks'),
  upstream: protection('Upstream of the board'),
  breaker: part('breaker', 'Wanted at least'),
  feederDrop: { stage: 'circuit', sheet: 'all' },
  load: brief('Kind of appliance'),
  fuse: part('outlet', 'Fuse in it'),
  way: { stage: 'circuit', sheet: 'all', fields: ['Way'] },
  duty: brief('On for'),
  main: board('Main'),
  floorArea: board('Floor area'),
  recorded: board('Highest current recorded'),
  behindWays: survey('trace'),
  pointLoads: survey('points'),
}

/** Where what a rule complains of is put right, where that is not the link of the chain it stands at; the first that matches. */
const leadsOfRules: readonly (readonly [rule: RegExp, lead: Lead])[] = [
  [/^fitness-/, { stage: 'brief' }],
  [/^earthing-not-known|^tt-needs/, brief('Earthing')],
  [/^(loop-not-known|zs-too-high|point-loop-too-high)$/, brief('Ze measured at the board')],
  [/^attic-ambient$/, part('cable', 'Warmest ambient')],
  [/^length-not-known$/, part('cable', 'Length, one way', 'Length')],
  [/^existing-cable/, found('Kind of the cable there', 'The cable that stays leads to', 'The way it sits on')],
  [/^existing-breaker/, found('Breaker that is there', 'The way it sits on')],
  [/^old-/, found()],
  [/^way-already/, survey('trace')],
  [/^(way-taken|two-pole-space|shared-neutral-tie|neutral-bar$|wrong-neutral|neutral-bar-unknown|space-|tandem)/, board()],
  [/^breaker-over-main$/, board('Main')],
  [/^main-switch|^live-with-main-off|^second-source/, board('Main switch')],
  [/^residual-device-(sum|overloaded)/, board('Its rating')],
  [/^residual-(device-not-said|rating-differs)/, part('breaker', 'It stands behind', 'Rated residual current')],
  [/^service-/, board('Main', 'Floor area')],
  [/^raceway-/, { stage: 'circuit', sheet: 'raceways' }],
  [
    /^(residual-|socket-|bathroom-|lighting-|appliance-|arc-fault|tamper|weather|surge|receptacle-of|shuttered)/,
    protection('The place is'),
  ],
  [/^(breaking-capacity|selectivity)$/, protection('Its breaker breaks')],
  [/^(outlet-(spacing|height|near|in-break|off-wall))/, survey('walls')],
  [/^(trace-contradiction|way-overloaded)/, survey('trace')],
  [/^(point-damaged|hidden-box|fed-through-what-goes)/, survey('points')],
  [/^report-/, survey('report')],
  [/^(wall-not-closed|stud-depth-not-known|joist-depth-not-known|drawers-not-known)$/, { stage: 'route', sheet: 'house' }],
  [/^(bend|cable-size)-not-known$/, { stage: 'route', sheet: 'house', fields: ['The cable, its larger side'] }],
  [/^attic-warmth-not-known$/, { stage: 'route', sheet: 'house', fields: ['How warm it gets there'] }],
  [/^insulation-not-known$/, { stage: 'route', sheet: 'house', fields: ['Filled with insulation', 'A cable lies in insulation there'] }],
  [/^(way-moved|plate-needed|outside-zones|beside-on-way|hole-too-)/, { stage: 'route', sheet: 'way' }],
  [
    /^(bend-too-tight|near-heat|near-pipe|attic-warmer|lies-in-insulation|drawer-fouls|in-reach-of-bath)$/,
    { stage: 'route', sheet: 'way' },
  ],
  [/^box-/, { stage: 'boxes', sheet: 'size', fields: ['Box'] }],
  [/^mount-/, { stage: 'boxes', sheet: 'mount' }],
  [/^(reading-|line-neutral-differ|protective-ratio-off|ring-ends)/, { stage: 'test' }],
]

/** Where a finding is answered: at the fact it lacks, else where its rule is put right, else at the link of the chain it stands at. */
export function leadOf(finding: Finding, stage: StageId): Lead {
  const [fact] = finding.asks ?? []
  if (fact !== undefined && fact in leadOfFact) return leadOfFact[fact as FactName | DemandFact]
  const own = leadsOfRules.find(([rule]) => rule.test(finding.rule))
  if (own) return own[1]
  if (stage === 'wiring') return { stage, sheet: 'bench' }
  return stage === 'circuit' ? part(findingPart(finding)) : { stage }
}

const byField: Readonly<Record<string, Lead>> = {
  request: brief('In the customer’s words'),
  environment: brief('The place is'),
  volts: brief('Voltage'),
  amount: brief('Power', 'Current', 'Energy used', 'Apparent power', 'Kind of appliance'),
  hours: brief('in so many hours'),
  points: { stage: 'circuit', sheet: 'this', fields: ['Draws', 'A point that is there'] },
  fitness: { stage: 'brief' },
  tests: { stage: 'test' },
  zeOhm: brief('Ze measured at the board'),
  way: brief('Way'),
  lengthM: part('cable', 'Length, one way', 'Length'),
  accessory: part('outlet', 'Accessory'),
  sightings: survey('trace'),
  kind: { stage: 'boxes', sheet: 'size', fields: ['Box'] },
}

/** Where what is still open is given. */
export const leadOfOpen = ({ field, stage }: { readonly field: string; readonly stage: StageId }): Lead => byField[field] ?? { stage }
