import { inRegion } from '../region/spelling'
import { type RegionId, regionIds } from '../region/types'

export const fitnessAnswers = ['yes', 'no', 'unknown'] as const

/** A question whose answer can stop the job. */
export interface FitnessQuestion {
  readonly id: string
  readonly ask: string
  readonly stopsOn: 'yes' | 'no'
  readonly reason: string
  readonly clause: Readonly<Record<RegionId, string>>
}

export const fitnessQuestions: readonly FitnessQuestion[] = [
  {
    id: 'permitted',
    ask: 'May you do this work here: licence, permit or notification settled?',
    stopsOn: 'no',
    reason: 'This work may not start until a licence, permit or notification is in place. Settle it, or pass the job to somebody licensed.',
    clause: {
      'north-america': 'Local permit and licensing rules; 90.4',
      'united-kingdom': 'Building Regulations Part P; Electricity at Work Regulations reg. 16; verify the edition in force',
      'southern-africa':
        'Electrical Installation Regulations: registered person and certificate of compliance; verify the edition in force',
    },
  },
  {
    id: 'isolation',
    ask: 'Can the supply to this work be switched off and locked off?',
    stopsOn: 'no',
    reason: 'There is no means of isolation upstream. Stop: the supplier or a licensed person must provide one first.',
    clause: {
      'north-america': '110.25; NFPA 70E 120',
      'united-kingdom': '462.1; 537.2',
      'southern-africa': 'SANS 10142-1 disconnecting devices',
    },
  },
  {
    id: 'board',
    ask: 'Is the board whole, dry, and of a kind you understand?',
    stopsOn: 'no',
    reason: 'A damaged or unknown board is not to be opened or added to. Have it examined by a licensed person.',
    clause: {
      'north-america': '110.3(B), 110.12(B)',
      'united-kingdom': '132.16; 651.2',
      'southern-africa': 'SANS 10142-1 distribution boards',
    },
  },
  {
    id: 'earth',
    ask: 'Is there a means of earthing, seen and measured?',
    stopsOn: 'no',
    reason: 'Without an earth the protection cannot work. Stop until there is one.',
    clause: { 'north-america': '250.4(A); 250.114', 'united-kingdom': '411.3.1; 542.1', 'southern-africa': 'SANS 10142-1 earthing' },
  },
  {
    id: 'aluminium',
    ask: 'Is any of the branch wiring you must join to aluminium?',
    stopsOn: 'yes',
    reason: 'Joints to aluminium branch wiring burn unless made with connectors and skill meant for it. Call a licensed person.',
    clause: { 'north-america': '110.14; 310.3(B)', 'united-kingdom': '526.2', 'southern-africa': 'SANS 10142-1 joints of unlike metals' },
  },
  {
    id: 'service',
    ask: 'Does the work touch the service conductors or anything before the main switch?',
    stopsOn: 'yes',
    reason: 'Conductors before the main switch stay live. They belong to the supplier or to a licensed person.',
    clause: {
      'north-america': '230.70; NFPA 70E 130',
      'united-kingdom': 'Supplier’s equipment; ESQCR; verify the edition in force',
      'southern-africa': 'Supplier’s equipment; SANS 10142-1 point of supply',
    },
  },
  {
    id: 'dust',
    ask: 'Might anything that is to be drilled, cut or chased hold asbestos or lead paint, and was it not tested?',
    stopsOn: 'yes',
    reason:
      'Do not drill, cut or chase what may hold asbestos or lead paint. Keep off it, or have it sampled and dealt with by those who may. ' +
      'In an older building textured coatings, boards, lagging and old paint are suspected until they are known.',
    clause: {
      'north-america': '29 CFR 1926.1101; 40 CFR 745 (housing built before 1978); local rules',
      'united-kingdom': 'Control of Asbestos Regulations 2012 reg. 5; verify the edition in force',
      'southern-africa': 'Asbestos Abatement Regulations 2020; verify the edition in force',
    },
  },
  {
    id: 'unexplained',
    ask: 'Is there anything in the existing wiring that you do not understand?',
    stopsOn: 'yes',
    reason: 'Do not work on what is not understood. Find out what it is, or call somebody who can.',
    clause: {
      'north-america': '90.1; local practice',
      'united-kingdom': 'Electricity at Work Regulations reg. 16; verify the edition in force',
      'southern-africa': 'Electrical Installation Regulations reg. 5; verify the edition in force',
    },
  },
]

const inWords = new Map(
  regionIds.map((region) => [
    region,
    fitnessQuestions.map((q) => ({ ...q, ask: inRegion(region, q.ask), reason: inRegion(region, q.reason) })),
  ]),
)
/** The questions in the words of a world. */
export const fitnessFor = (region: RegionId): readonly FitnessQuestion[] => inWords.get(region)!
