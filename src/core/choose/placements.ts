import type { Circuit, Design, Installation } from '../installation/installation'
import { behindFirst, behindOutlets, guardsDownstream } from '../design/guards'
import { countFitted } from '../design/endings'
import { guardsFromOutlets } from '../catalogue/accessories'
import { priceOf } from '../design/prices'

/** One place for residual protection, with what it costs and what goes dark when it trips. */
export interface Placement {
  readonly at: Design['residual']['at']
  readonly words: string
  readonly cost: number
  readonly dark: string
  readonly guards: string
}

/** Outlets of a kind that has its residual device in it. */
export const ownWords = (own: number, plugged: number): string =>
  own < plugged ? `In ${own} of ${plugged} outlets` : plugged > 1 ? 'In each outlet' : 'In the outlet'

/** The places residual protection may sit, compared; for outlets and fixed loads alike. */
export function placements(job: Installation, circuit: Circuit, design: Design): Placement[] {
  const outlets = Math.max(1, circuit.points.length || design.accessories)
  const plugged = countFitted(circuit, design, (a) => a.outlets > 0)
  // Outlets of a kind that has its device in it cost the same whatever else is said.
  const own = countFitted(circuit, design, (a) => a.residual)
  const more = priceOf(job, 'outlet with residual protection') - priceOf(job, 'outlet')
  const all = outlets === 1 ? 'the one point' : `all ${outlets} points`
  const through = circuit.points.length ? behindOutlets(circuit, design).size : 0
  const list: Placement[] = [
    own && through
      ? {
          at: 'none',
          words: `${ownWords(own, plugged)}, and ${through} more from the load side`,
          cost: 0,
          dark: 'the outlet that trips and the points downstream of it',
          guards: 'what is plugged in there, and the points downstream',
        }
      : own
        ? {
            at: 'none',
            words: ownWords(own, plugged),
            cost: 0,
            dark: 'the one outlet where the fault is',
            guards: 'what is plugged in there, not the cable',
          }
        : { at: 'none', words: 'None', cost: 0, dark: 'nothing by a residual fault', guards: 'no one: only where no rule asks for it' },
    {
      at: 'board',
      words: 'At the board',
      cost: priceOf(job, 'breaker with residual protection') - priceOf(job, 'breaker'),
      dark: `${all}; somebody walks to the board`,
      guards: 'the cable and everything on it',
    },
  ]
  if (plugged === 0) return list
  const behind = circuit.points.length ? behindFirst(circuit).size : outlets
  const past = outlets - behind
  if (outlets > 1 && guardsDownstream(circuit) && (guardsFromOutlets(job.region) || design.residual.at === 'first'))
    list.push({
      at: 'first',
      words: 'In the first outlet, guarding those downstream',
      cost: more,
      dark: `${past ? `${behind} of ${outlets} points` : all}; reset at the first outlet`,
      guards: `the first outlet and all after it, not the cable that reaches it${past ? `, nor the ${past} fed past it` : ''}`,
    })
  if (own === plugged) return list
  return [
    ...list,
    {
      at: 'outlet',
      words: outlets > 1 ? 'In each outlet' : 'In the outlet',
      cost: more * (plugged - own),
      dark: 'the one outlet where the fault is',
      guards: 'what is plugged in there, not the cable',
    },
  ]
}
