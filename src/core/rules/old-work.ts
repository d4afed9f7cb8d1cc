import { listed } from '../base/finding'
import { atMost } from '../base/tolerance'
import { type Replacing, replacedWithoutEarth, replacingOutlets } from '../design/replaced'
import { inRegion } from '../region/spelling'
import { type RegionId, regionIds } from '../region/types'
import type { CircuitFacts, Rule } from './engine'
import { worlds } from '../region/worlds'

/** What must be known of old wiring that stays in an altered circuit. */
export interface OldQuestion {
  readonly id: string
  readonly ask: string
  readonly regions: readonly RegionId[]
}
const all: readonly RegionId[] = regionIds

const oldQuestions: readonly OldQuestion[] = [
  { id: 'no-earth', ask: 'Is any of its outlets or boxes without a protective conductor?', regions: all },
  { id: 'three-wire', ask: 'Is an appliance outlet on it three-wire, its frame on the neutral?', regions: ['north-america'] },
  { id: 'rubber', ask: 'Is any of its cable rubber or fabric covered?', regions: all },
  { id: 'aluminium', ask: 'Is any of its conductors aluminium?', regions: all },
  { id: 'old-colours', ask: 'Does it have conductors in the colours before today’s?', regions: ['united-kingdom', 'southern-africa'] },
  { id: 'borrowed', ask: 'Does it share a neutral with another circuit?', regions: all },
]

const inWords = new Map(
  regionIds.map((region) => [
    region,
    oldQuestions.filter((q) => q.regions.includes(region)).map((q) => ({ ...q, ask: inRegion(region, q.ask) })),
  ]),
)
/** The questions of a world, in its words. */
export const oldQuestionsFor = (region: RegionId): readonly OldQuestion[] => inWords.get(region)!

const altered = (f: CircuitFacts): boolean => f.circuit.work === 'altered'
const says = (question: string) => (f: CircuitFacts) => altered(f) && f.circuit.old[question] === 'yes'

/** Rules on old work: what may be kept, what must change, what stops the job. */
export const oldWorkRules: readonly Rule[] = [
  {
    id: 'old-work-not-known',
    about: 'What the old part of an altered circuit is made of.',
    clause: { 'north-america': '110.12; 250.4', 'united-kingdom': '641.5; 132.16', 'southern-africa': 'SANS 10142-1 alterations' },
    severity: 'unknown',
    looksAt: [],
    applies: altered,
    raised: (f) => {
      const open = oldQuestionsFor(f.job.region).filter((q) => f.circuit.old[q.id] === undefined || f.circuit.old[q.id] === 'unknown')
      const [first] = open
      return first
        ? {
            severity: 'unknown',
            message:
              `Of the old part ${open.length === 1 ? 'one thing is' : `${open.length} things are`} not known: ` +
              `${open.map((q) => q.ask.toLowerCase()).join(' ')} Open a box and look.`,
            about: `question:${first.id}`,
          }
        : null
    },
  },
  {
    id: 'old-no-earth',
    about: 'Outlets without a protective conductor.',
    clause: { 'north-america': '250.114; 406.4(D)(2)', 'united-kingdom': '411.3.1.1', 'southern-africa': 'SANS 10142-1 earthing' },
    severity: 'error',
    looksAt: [],
    applies: says('no-earth'),
    raised: (f) => {
      const { noEarth, noEarthMarks } = worlds[f.job.region].says
      const replaced = noEarthMarks.length === 0 ? [] : replacedWithoutEarth(f.job, f.circuit)
      if (replaced.length === 0) return noEarth
      const { personMa } = worlds[f.job.region]
      /** Whether a residual device for persons protects it; null: one is counted on, and is not known to be there, or was not read. */
      const guarded = (p: Replacing): boolean | null => {
        const site = f.sites.find((s) => s.point === null || s.point.id === p.id)
        if (!site || site.presumed) return site ? null : false
        if (site.residual !== 'board') return site.residual !== null
        return site.residualMa === null ? null : atMost(site.residualMa, personMa)
      }
      const [bare, unseen] = [replaced.filter((p) => guarded(p) === false), replaced.filter((p) => guarded(p) === null)]
      const marks = noEarthMarks.map((m) => `“${m}”`).join(' and ')
      const names = (list: readonly Replacing[]) =>
        `${listed(list.map((p) => p.name))} ${list.length === 1 ? 'replaces an outlet' : 'replace outlets'}`
      if (bare.length > 0)
        return {
          severity: 'error',
          message:
            `${names(bare)} where there is no ground: run one to it, fit an outlet without a ground slot, or protect it by a GFCI and ` +
            `mark it ${marks}.`,
        }
      return unseen.length > 0
        ? {
            severity: 'unknown',
            message: `${names(unseen)} where there is no ground, and whether a GFCI protects it is not known: look, and test it.`,
          }
        : {
            severity: 'warning',
            message:
              `${names(replaced)} without a ground, behind a GFCI: mark the cover ${marks}, run no ground from it to another outlet, ` +
              'and plug in nothing that needs one.',
          }
    },
  },
  {
    id: 'replacement-outlet',
    about: 'What a replaced outlet must have that the old one had not.',
    clause: { 'north-america': '406.4(D)(3) to (6)' },
    severity: 'note',
    looksAt: [],
    applies: (f) => replacingOutlets(f.job, f.circuit).length > 0,
    raised: (f) => {
      const replacing = replacingOutlets(f.job, f.circuit)
      const one = replacing.length === 1
      return (
        `${listed(replacing.map((p) => p.name))} ${one ? 'takes the place of an old outlet' : 'take the place of old outlets'}: GFCI and ` +
        `arc-fault protection, tamper and weather resistance are asked of ${one ? 'it' : 'them'} as of a new one there.`
      )
    },
  },
  {
    id: 'old-three-wire',
    about: 'Three-wire appliance outlets whose frame is on the neutral.',
    clause: { 'north-america': '250.140; 250.142(B)' },
    severity: 'error',
    looksAt: [],
    applies: says('three-wire'),
    raised: () =>
      'It may stay only as it is, on its old circuit. A circuit that is new, moved or lengthened has four wires: neutral and ' +
      'ground apart, a four-wire outlet, and the strap in the appliance taken off.',
  },
  {
    id: 'old-rubber',
    about: 'Rubber or fabric covered cable.',
    clause: {
      'north-america': '110.12(B); 300.3',
      'united-kingdom': '134.1.1; 643.3',
      'southern-africa': 'SANS 10142-1 condition of cables',
    },
    severity: 'error',
    looksAt: [],
    applies: says('rubber'),
    raised: () =>
      'Its insulation crumbles when it is bent. Stop: add nothing to it, disturb it as little as can be, test its insulation, ' +
      'and plan to replace it.',
  },
  {
    id: 'old-aluminium',
    about: 'Aluminium conductors in old branch wiring.',
    clause: {
      'north-america': '110.14; 406.3(C)',
      'united-kingdom': '526.2; maker’s instructions',
      'southern-africa': 'maker’s instructions',
    },
    severity: 'error',
    looksAt: [],
    applies: says('aluminium'),
    raised: (f) =>
      inRegion(
        f.job.region,
        'Stop and call somebody licensed for it: every joint and every device must be listed for aluminium, and an ordinary ' +
          'connector on it burns.',
      ),
  },
  {
    id: 'old-colours',
    about: 'Conductors in two generations of colours.',
    clause: { 'united-kingdom': '514.14.1', 'southern-africa': 'SANS 10142-1 identification of conductors' },
    severity: 'note',
    looksAt: [],
    applies: says('old-colours'),
    raised: () =>
      'It may stay. Put the notice about two colour codes at the board, mark each conductor where old meets new, and never tell ' +
      'line from neutral by colour there.',
  },
  {
    id: 'old-borrowed-neutral',
    about: 'A neutral shared with another circuit.',
    clause: { 'north-america': '200.4; 210.4', 'united-kingdom': '314.4', 'southern-africa': 'SANS 10142-1 neutral conductors' },
    severity: 'error',
    looksAt: [],
    applies: says('borrowed'),
    raised: () =>
      'It must change before anything is added: with its own breaker off the neutral may still be live. Find where the two meet ' +
      'and give each circuit its own.',
  },
]
