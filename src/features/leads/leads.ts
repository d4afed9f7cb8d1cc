import { fitnessFor } from '@/core/catalogue/fitness'
import { findingPart } from '@/core/drawing/chain'
import type { OpenItem } from '@/core/evaluate/evaluate'
import type { Finding } from '@/core/base/finding'
import { regionIds } from '@/core/region/types'
import { worlds } from '@/core/region/worlds'
import type { FactName } from '@/core/rules/engine'
import { oldQuestionsFor } from '@/core/rules/old-work'
import type { SheetId, StageId } from '@/core/report/stages'
import type { DemandFact } from '@/core/survey/service'

/** Where a finding or an open thing is answered: a stage, its sheet, what is picked there, and the field by the label it wears. */
export interface Lead {
  readonly stage: StageId
  readonly sheet?: string
  /** A link of the chain (`part:cable`), what is there in an altered circuit (`found`), or what a finding is about (`way:ID`). */
  readonly at?: string
  /** Fields by label; the first that is on the page is opened. */
  readonly fields?: readonly string[]
}

const brief = (...fields: string[]): Lead => ({ stage: 'brief', fields })
/** A field that each link of the chain has, for what is put right there and nowhere more exactly. */
const ofPart: Readonly<Record<string, readonly string[]>> = {
  breaker: ['Minimum breaker'],
  cable: ['Smallest size'],
  outlet: ['Accessory here', 'Accessory'],
  cord: ['The cord is good for', 'There is a cord between outlet and appliance'],
  load: ['Draws', 'Power', 'Current', 'Energy used', 'Apparent power', 'Voltage'],
}
const part = (at: string, ...fields: string[]): Lead => ({
  stage: 'circuit',
  sheet: 'this',
  at: `part:${at}`,
  fields: fields.length ? fields : ofPart[at]!,
})
const protection = (...fields: string[]): Lead => ({ stage: 'circuit', sheet: 'protection', fields })
const all = (...fields: string[]): Lead => ({ stage: 'circuit', sheet: 'all', fields })
const survey = (sheet: SheetId<'survey'>, ...fields: string[]): Lead => ({ stage: 'survey', sheet, fields })
const board = (...fields: string[]): Lead => survey('board', ...fields)
const found = (...fields: string[]): Lead => ({ stage: 'circuit', sheet: 'this', at: 'found', fields })
const raceway = (...fields: string[]): Lead => ({ stage: 'circuit', sheet: 'raceways', fields })
const building = (...fields: string[]): Lead => ({ stage: 'route', sheet: 'house', fields })
const ways: Lead = { stage: 'route', sheet: 'way', fields: ['Routes'] }
const signal = (...fields: string[]): Lead => ({ stage: 'route', sheet: 'signal', fields })
const size: Lead = { stage: 'boxes', sheet: 'size', fields: ['Box'] }
const mount = (...fields: string[]): Lead => ({ stage: 'boxes', sheet: 'mount', fields })
/** The place of a breaker in its board, as each world calls it. */
const itsSpace = ['Space', 'Place on the rail'] as const

/** Whether a residual device protects a circuit, and where, as each world calls it. */
const protectedBy = regionIds.map((r) => `${worlds[r].words.rcd} protection`)
interface Question {
  readonly id: string
  readonly ask: string
}
const [fitness, old] = [regionIds.flatMap(fitnessFor), regionIds.flatMap(oldQuestionsFor)]
/** Of questions that are answered yes or no, those that are meant, in the words of every world. */
const asked = (questions: readonly Question[], meant: (id: string) => boolean): string[] => [
  ...new Set(questions.filter((q) => meant(q.id)).map((q) => q.ask)),
]
/** Where a reading is given; of a step that is said to be done its note, so that no key held too long says so. */
const testFields = ['Reading', 'New reading; the old one is kept', 'Note', 'Shut'] as const

/** Where each fact that a rule, or the demand of the service, may ask for is given. */
export const leadOfFact: Readonly<Record<FactName | DemandFact, Lead>> = {
  premises: brief('Kind of premises'),
  ze: brief('Ze measured at the board'),
  psc: protection('Fault current at the board'),
  breaking: protection('Its breaker breaks'),
  upstream: protection('Upstream of the board'),
  breaker: part('breaker', 'Minimum breaker'),
  feederDrop: all('Fed from', 'Name'),
  load: brief('Kind of appliance'),
  fuse: part('outlet', 'Fuse in it'),
  way: all('Way'),
  duty: brief('On for'),
  main: board('Main'),
  floorArea: board('Floor area'),
  recorded: board('Highest current recorded'),
  ways: board('What is there'),
  behindWays: survey('trace', 'Test to make'),
  pointLoads: survey('points', 'Load', 'Name'),
}

/** Where what a rule complains of is put right, where that is not the link of the chain it is at; the first that matches. */
const leadsOfRules: readonly (readonly [rule: RegExp, lead: Lead | ((finding: Finding) => Lead)])[] = [
  [/^fitness-/, ({ rule }) => brief(...asked(fitness, (id) => rule === `fitness-${id}`))],
  [/^earthing-not-known|^tt-needs/, brief('Earthing')],
  [/^(loop-not-known|zs-too-high|point-loop-too-high)$/, brief('Ze measured at the board')],
  [/^attic-ambient$/, part('cable', 'Ambient temperature')],
  [/^length-not-known$/, part('cable', 'Length, one way', 'Length', 'Cable from there', 'From the one before')],
  [/^(method-not-for-cable|concealed-cable)$/, part('cable', 'How it is run', 'Cable')],
  [/^cable-not-for-place$/, part('cable', 'Cable')],
  [/^spur-too-many$/, part('outlet', 'Outlets there')],
  [/^spur-on-spur$/, part('cable', 'Fed from')],
  [/^(branch-|ring-capacity|spur-)/, part('cable', 'Cable size', 'Smallest size')],
  [/^duty-not-known$/, part('load', 'On for')],
  [/^motor-current-not-known$/, part('load', 'Power factor', 'Nameplate gives')],
  [/^motor-overload$/, part('load', 'Overload protection', 'Current on the plate')],
  [/^motor-breaker-too-large$/, part('breaker', 'Minimum breaker')],
  [/^start-trips$/, part('breaker', 'Type', 'Minimum breaker')],
  [/^fuse-not-right$/, part('outlet', 'Fuse in it', 'Through a fuse', 'Accessory')],
  [/^alarm-on-switched-leg$/, part('cable', 'Fed from', 'Smallest size')],
  [/^aluminium-on-terminals$/, part('cable', 'Conductor')],
  [/^room-circuit-alone$/, protection('Kind of room')],
  [/^extension-as-wiring$/, part('cord', 'Through an extension cord')],
  [/^existing-cable/, found('Kind of the cable there', 'The cable that stays leads to', 'The way it sits on')],
  [/^existing-breaker/, found('Breaker that is there', 'The way it sits on')],
  [/^old-work-not-known$/, ({ about }) => found(...asked(old, (id) => about === `question:${id}`))],
  [/^old-/, ({ rule }) => found(...asked(old, (id) => rule === id || rule.startsWith(`old-${id}`)))],
  [/^way-already/, survey('trace', 'Test to make')],
  [/^(way-taken|two-pole-space|shared-neutral-tie)$/, ({ about }) => (about ? board('What is there') : all('Way'))],
  [/^wrong-neutral-bar$/, board('Neutral bar')],
  [/^neutral-bar-unknown$/, board('Protected by')],
  [/^neutral-bar$/, part('breaker', 'Protected by')],
  // A space that new circuits alone were given is theirs to change.
  [/^space-(taken-twice|beyond-board)$/, ({ about }) => (about ? board(...itsSpace) : all('Way'))],
  [/^tandem-two-pole$/, board('Tandem half', 'Poles')],
  [/^live-with-main-off$/, board('Fed from ahead of the main switch')],
  [/^second-source$/, board('What it is')],
  [/^main-switch/, board('Main switch')],
  [/^breaker-over-main$/, board('Main')],
  [/^residual-device-(sum|overloaded)/, board('Rating')],
  [/^residual-(device-not-said|rating-differs)/, part('breaker', 'Protected by', 'Rated residual current')],
  [/^service-/, board('Main', 'Floor area')],
  [/^signal-(with-power|sharing-unknown)$/, signal('In a raceway or box with power conductors')],
  [/^signal-parting-unknown$/, signal('A barrier or divider is between them')],
  [/^signal-(too-near|distance-unknown)$/, signal('Least distance to power cables')],
  [/^raceway-route-changed$/, { stage: 'route', sheet: 'way' }],
  [/^raceway-overfilled$/, raceway('Trade size', 'Size')],
  [/^raceway-nipple$/, raceway('Longest straight')],
  [
    /^raceway-(sheathed-cable|expansion)$/,
    ({ rule }) => raceway(rule === 'raceway-expansion' ? 'Coldest over the year' : 'Circuits in it'),
  ],
  [/^raceway-bends$/, raceway('Lengths the pipe comes in')],
  [/^raceway-/, raceway('Between draw-in points', 'Longest straight', 'Circuits in it')],
  [/^(tamper|shuttered)/, protection('Tamper-resistant, or shuttered')],
  [/^weather-/, protection('Weather-resistant, in-use cover')],
  [/^surge-/, protection('A surge device protects it')],
  [/^arc-fault/, protection('Arc-fault protection')],
  [/^residual-type$/, protection('Type marked on it', 'The place is')],
  [/^cord-not-known$/, part('cord')],
  [/^receptacle-of-point$/, part('outlet', 'Accessory here', 'Accessory')],
  [
    /^(residual-|socket-|bathroom-|lighting-|appliance-)/,
    ({ severity }) => (severity === 'unknown' ? protection('The place is') : part('breaker', ...protectedBy, 'Accessory here')),
  ],
  [/^breaking-capacity$/, protection('Its breaker breaks')],
  [/^selectivity$/, protection('Selective up to')],
  [/^outlet-spacing$/, survey('walls', 'Outlets along it')],
  [/^island-depth-not-known$/, survey('walls', 'Depth of its counter')],
  [/^island-outlets$/, survey('walls', 'Provision for a later outlet')],
  [/^outlet-height$/, survey('walls', 'Height of its centre')],
  [/^outlet-(near-|in-break|off-wall)/, survey('walls', 'From the left')],
  [/^trace-contradiction$/, survey('trace', 'Cannot be true with the others')],
  [/^way-overloaded$/, board('Rating')],
  [/^(point-damaged|condition-not-known)$/, survey('points', 'Condition')],
  [/^hidden-box$/, survey('points', 'Hidden: behind plaster or above a ceiling')],
  [/^fed-through-what-goes$/, survey('points', 'In this job it')],
  [/^report-/, survey('report', 'Kind')],
  [/^wall-not-closed$/, building('Obstruction')],
  [/^stud-depth-not-known$/, building('Depth of a stud')],
  [/^joist-depth-not-known$/, building('Depth of a joist')],
  [/^drawers-not-known$/, building('Behind its drawers')],
  [/^(bend|cable-size)-not-known$/, building('The cable, its larger side')],
  [/^attic-warmth-not-known$/, building('How warm it gets there')],
  [/^insulation-not-known$/, building('Filled with insulation', 'A cable lies in insulation there')],
  [/^(hole-too-|plate-needed)/, building('Hole size')],
  [/^route-length$/, ways],
  [/^(way-moved|outside-zones|beside-on-way|bend-too-tight|near-heat|near-pipe|attic-warmer|lies-in-|drawer-fouls|in-reach-of-bath)/, ways],
  [/^box-/, size],
  [/^mount-other-kind$/, size],
  [/^mount-not-looked$/, mount('Wall type')],
  [/^mount-thickness$/, mount('One layer more, further in')],
  [/^mount-too-(thick|thin)$/, mount('Clamp grips from')],
  [/^mount-set-back$/, mount('Set back from the face')],
  [/^mount-fan$/, mount('May a fan be hung there?')],
  [/^mount-(cavity|too-deep)$/, mount('Free behind it')],
  [/^mount-out-of-line$/, mount('Height of its middle')],
  [/^mount-/, mount('Middle to the nearest stud')],
  [/^length-(zero|doubtful)$/, part('cable', 'Length, one way', 'Length', 'Cable from there', 'From the one before')],
  [/^cable-(not-listed|aluminium)$/, part('cable', 'Cable', 'Conductor')],
  [/^point-unreached$/, { stage: 'circuit', sheet: 'this', fields: ['Point from the survey'] }],
  [/^point-above-ceiling$/, survey('points', 'Height of its centre')],
  [/^residual-delayed$/, board('Time-delayed (S)')],
  [/^day-(too-few|waits)/, { stage: 'day', sheet: 'plan', fields: ['Of our people', 'After', 'Begins'] }],
  [/^day-/, { stage: 'day', sheet: 'plan', fields: ['Begins', 'Ends'] }],
  [/^signed-/, { stage: 'day', sheet: 'isolation', fields: ['Who works under it'] }],
  [/^(reading-off-|line-neutral-differ|protective-ratio-off|ring-ends)/, { stage: 'test', sheet: 'tests', fields: testFields }],
  [/^reading-not-placed$/, { stage: 'test', sheet: 'tests' }],
]

function placeOf(finding: Finding, stage: StageId): Lead {
  const [fact] = finding.asks ?? []
  if (fact !== undefined && fact in leadOfFact) return leadOfFact[fact as FactName | DemandFact]
  const own = leadsOfRules.find(([rule]) => rule.test(finding.rule))?.[1]
  if (own) return typeof own === 'function' ? own(finding) : own
  if (stage === 'wiring') return { stage, sheet: 'bench', fields: ['Box you work on'] }
  return stage === 'circuit' ? part(findingPart(finding)) : { stage }
}

/**
 * Where a finding is answered: at the fact it lacks, else where its rule is put right, else at the link of the chain it is at. What it
 * is about is picked there; what is there in an altered circuit is picked whatever of it is asked.
 */
export function leadOf(finding: Finding, stage: StageId): Lead {
  const lead = placeOf(finding, stage)
  return finding.about === undefined || lead.at === 'found' ? lead : { ...lead, at: finding.about }
}

const byField: Readonly<Record<string, Lead>> = {
  request: brief('In the customer’s words'),
  environment: brief('The place is'),
  volts: brief('Voltage'),
  amount: brief('Power', 'Current', 'Energy used', 'Apparent power', 'Kind of appliance'),
  hours: brief('in so many hours'),
  points: { stage: 'circuit', sheet: 'this', fields: ['Draws', 'Point from the survey'] },
  zeOhm: brief('Ze measured at the board'),
  way: brief('Way'),
  lengthM: part('cable', 'Length, one way', 'Length'),
  accessory: part('outlet', 'Accessory'),
  sightings: survey('trace', 'Test to make'),
  tests: { stage: 'test', sheet: 'tests', fields: testFields },
  kind: size,
  done: { stage: 'wiring', sheet: 'order', fields: ['Order of work'] },
}

/** Where what is still open is given, with what it is about picked. */
export function leadOfOpen({ field, stage, about }: Pick<OpenItem, 'field' | 'stage' | 'about'>): Lead {
  const lead = field === 'fitness' ? brief(...asked(fitness, (id) => about === `question:${id}`)) : (byField[field] ?? { stage })
  return about === undefined ? lead : { ...lead, at: about }
}
