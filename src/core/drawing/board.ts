import { worlds } from '../region/worlds'
import { columns } from './board-columns'
import { list } from './board-list'
import type { BoardFacts } from './board-parts'
import { rail } from './board-rail'
import type { Drawing } from './shape'

/** A rail has as many modules in a row as are read on a tablet, or on paper. */
const RAIL = { wide: 700, paper: 780 }

/**
 * The board as it is found: columns with legs, or a rail of modules behind their residual devices; on a narrow screen a list of its
 * ways.
 */
export function boardDrawing(facts: BoardFacts, format: 'wide' | 'narrow' | 'paper' = 'wide'): Drawing {
  if (format === 'narrow') return list(facts)
  return worlds[facts.job.region].boardManner === 'columns' ? columns(facts) : rail(facts, RAIL[format])
}
