import type { Circuit, Design } from '../installation/installation'
import type { Cable, Stretch } from '../job/cable'
import type { Conditions } from './conditions'

/** Where a stretch lies, as it is chosen. */
export const runPlaceNames: Readonly<Record<Stretch['place'], string>> = {
  surface: 'Along a wall, clipped',
  wall: 'In a wall',
  insulation: 'In insulation',
  attic: 'In the attic',
  underfloor: 'Under the floor',
  conduit: 'In conduit with others',
  buried: 'Buried',
  outdoors: 'Outdoors',
}

/** A cable of a circuit by the point it reaches: "to the stage", "back to the board"; null for the run of one load. */
export function cableName(circuit: Circuit, { to }: Pick<Cable, 'to'>): string | null {
  if (circuit.points.length === 0) return null
  return to.kind === 'point' ? `to ${circuit.points.find((p) => p.id === to.id)?.name ?? 'a point'}` : 'back to the board'
}

/** What conditions are of: "in the attic, to the stage", or what lies in one manner. */
export function stretchName(circuit: Circuit, design: Design, { cable, segment }: Conditions): string {
  const of = circuit.cables.find((k) => k.id === cable)
  const name = of ? cableName(circuit, of) : null
  const place = design.stretches.find((s) => s.cable === cable && s.id === segment)?.place
  if (place) return [runPlaceNames[place].toLowerCase(), name].filter((x) => x !== null).join(', ')
  return name === null ? (circuit.points.length > 0 ? 'what lies in one manner' : 'the run') : `${name}, in one manner`
}
