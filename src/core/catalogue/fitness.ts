import { inRegion } from '../region/spelling'
import { type RegionId, regionIds } from '../region/types'
import type { FitnessId } from '../region/world'
import { worlds } from '../region/worlds'

export const fitnessAnswers = ['yes', 'no', 'unknown'] as const

/** A question whose answer can stop the job. */
export interface FitnessQuestion {
  readonly id: FitnessId
  readonly ask: string
  readonly stopsOn: 'yes' | 'no'
  readonly reason: string
}

export const fitnessQuestions: readonly FitnessQuestion[] = [
  {
    id: 'permitted',
    ask: 'May you do this work here: licence, permit or notification settled?',
    stopsOn: 'no',
    reason: 'This work may not start until a licence, permit or notification is in place. Settle it, or pass the job to somebody licensed.',
  },
  {
    id: 'isolation',
    ask: 'Can the supply to this work be switched off and locked off?',
    stopsOn: 'no',
    reason: 'There is no means of isolation upstream. Stop: the supplier or a licensed person must provide one first.',
  },
  {
    id: 'board',
    ask: 'Is the board whole, dry, and of a kind you understand?',
    stopsOn: 'no',
    reason: 'A damaged or unknown board is not to be opened or added to. Have it examined by a licensed person.',
  },
  {
    id: 'earth',
    ask: 'Is there a means of earthing, seen and measured?',
    stopsOn: 'no',
    reason: 'Without an earth the protection cannot work. Stop until there is one.',
  },
  {
    id: 'aluminium',
    ask: 'Is any of the branch wiring you must join to aluminium?',
    stopsOn: 'yes',
    reason: 'Joints to aluminium branch wiring burn unless made with connectors and skill meant for it. Call a licensed person.',
  },
  {
    id: 'service',
    ask: 'Does the work touch the service conductors or anything before the main switch?',
    stopsOn: 'yes',
    reason: 'Conductors before the main switch stay live. They belong to the supplier or to a licensed person.',
  },
  {
    id: 'dust',
    ask: 'Might anything that is to be drilled, cut or chased hold asbestos or lead paint, and was it not tested?',
    stopsOn: 'yes',
    reason:
      'Do not drill, cut or chase what may hold asbestos or lead paint. Keep off it, or have it sampled and dealt with by those who may. ' +
      'In an older building textured coatings, boards, lagging and old paint are suspected until they are known.',
  },
  {
    id: 'unexplained',
    ask: 'Is there anything in the existing wiring that you do not understand?',
    stopsOn: 'yes',
    reason: 'Do not work on what is not understood. Find out what it is, or call somebody who can.',
  },
]

/** A question in the words of a world, with the clause that it rests on there. */
export interface AskedFitness extends FitnessQuestion {
  readonly clause: string
}
const inWords = new Map(
  regionIds.map((region) => [
    region,
    fitnessQuestions.map((q): AskedFitness => ({
      ...q,
      ask: inRegion(region, q.ask),
      reason: inRegion(region, q.reason),
      clause: worlds[region].fitness[q.id],
    })),
  ]),
)
/** The questions of a world. */
export const fitnessFor = (region: RegionId): readonly AskedFitness[] => inWords.get(region)!
