import { type Connector, connectorFor } from '../catalogue/connectors'
import { followed } from '../catalogue/schools'
import type { Finding } from '../base/finding'
import { listed } from '../base/finding'
import { once } from '../base/memory'
import type { Installation, Point } from '../installation/installation'
import type { BoxRecord } from '../job/box'
import { worlds } from '../region/worlds'
import { evaluateSurvey } from '../survey/traced'
import type { WorkStep } from './steps'

/* What is taken out is work: what is done there, what is left behind, what it takes. */

/** A point that this job takes out. */
export interface Removed {
  readonly point: Point
  /** Other points stay in its box. */
  readonly stays: boolean
  /** What is left; null: not decided. In a box where others stay its conductors are capped or joined. */
  readonly left: NonNullable<BoxRecord['left']> | null
  /** Points that stay and are fed through it. */
  readonly through: readonly Point[]
  /** The way it is on; null: not traced. */
  readonly way: string | null
  /** Cables that come to its box; null: not opened. */
  readonly cables: number | null
}

/** All that is taken out, in the order of the record. */
export const removedFrom = once((job: Installation): readonly Removed[] => {
  const gone = job.standing.filter((p) => p.state === 'removed')
  if (gone.length === 0) return []
  const { trace, proved } = evaluateSurvey(job)
  return gone.map((point): Removed => {
    const stays = job.points.some((p) => p.box.id === point.box.id)
    const led = job.foundCables.flatMap((k) =>
      k.circuit === null && k.proof !== 'left-over' && k.from.kind === 'point' && k.from.id === point.id ? [k.to.id] : [],
    )
    const through = job.points.filter((p) => trace.parents[p.id] === point.id || led.includes(p.id))
    const way = trace.feeds[point.id] ?? null
    const seen = job.observations.findLast(({ seen: s, withdrawn }) => !withdrawn && s.kind === 'cables' && s.point === point.id)?.seen
    return {
      point,
      stays,
      left: stays ? 'capped' : (point.box.left ?? null),
      through,
      way: way !== null && proved.has(way) ? way : null,
      cables: seen?.kind === 'cables' ? seen.onward + 1 : null,
    }
  })
})

/** Conductors of an ordinary cable: a line, a neutral and the protective conductor. */
const CONDUCTORS = 3

/** The connectors that its conductors are capped or joined in, by kind; null: nobody knows how many cables come there. */
export function connectorsLeft(job: Installation, { cables, left }: Removed): { readonly of: Connector; readonly count: number } | null {
  if (left !== 'capped' || cables === null) return null
  const twist = followed(job.brief.schools, 'joints') === 'twist'
  return { of: connectorFor(job.region, Math.max(2, cables), twist), count: CONDUCTORS }
}

/** The order of work where a point is taken out. */
export function removalSteps(job: Installation, removed: Removed): readonly WorkStep[] {
  const { cites, words } = worlds[job.region]
  const { left, through, stays } = removed
  const names = listed(
    through.map((p) => p.name),
    4,
  )
  const reach = cites.jointReached
  const joins: WorkStep[] = through.length
    ? [
        {
          id: 'join',
          text:
            `Join what goes on to ${names}: each ${words.protective}, each ${words.neutral} and each ${words.line} in a connector of ` +
            'its own.',
          clause: cites.joints,
        },
      ]
    : []
  const cap: WorkStep = {
    id: 'cap',
    text: 'Cap each conductor that is left by itself and coil it; do not cut it off.',
    clause: cites.joints,
  }
  const blank: WorkStep = {
    id: 'blank',
    text: stays
      ? 'Close its place in the plate with a blank.'
      : 'Fit a blank cover. The box stays where it can be reached; write on the cover what is in it.',
    clause: reach,
  }
  const ends: Readonly<Record<NonNullable<Removed['left']>, readonly WorkStep[]>> = {
    capped: [...joins, ...(through.length ? [] : [cap]), blank],
    'pulled-out': [
      { id: 'draw', text: 'Disconnect its cable at the other end too, and draw it out.' },
      ...(stays ? [] : [{ id: 'empty', text: 'Fit a blank cover on the empty box, or take it out.' }]),
    ],
    'made-good': [
      { id: 'draw', text: 'Disconnect its cable at the other end too, and draw it out.' },
      { id: 'good', text: 'Take the box out and make the wall good.' },
    ],
  }
  return [
    { id: 'dead', text: 'Prove it dead here, between every pair of conductors, before you touch any.', clause: cites.provedDead },
    { id: 'off', text: 'Photograph how it is joined. Take the accessory off its conductors.' },
    ...(left ? ends[left] : []),
    { id: 'test', text: through.length ? `Test the points downstream: ${names}.` : 'Test the circuit that stays.' },
  ]
}

/** What cannot be left so: a cable drawn out that others are fed by. */
export function removalFindings(job: Installation): readonly Finding[] {
  return removedFrom(job).flatMap(({ point, left, through }): Finding[] =>
    left !== null && left !== 'capped' && through.length
      ? [
          {
            rule: 'feed-drawn-out',
            severity: 'error',
            clause: worlds[job.region].cites.jointReached,
            message:
              `${point.name} is taken out with its cable, and ${listed(through.map((p) => p.name))} ` +
              `${through.length === 1 ? 'is' : 'are'} fed through it: that would be dead. Leave a joint in its box under a blank cover, ` +
              'or feed it from elsewhere first.',
            about: `point:${point.id}`,
          },
        ]
      : [],
  )
}
