import { InputError } from '../base/input-error'
import { atLeast, atMost } from '../base/tolerance'
import { maxDegreesBetweenPulls } from './tables'

/** What is bent, in order from one end: as it is measured along its sharp corners. */
export type BendItem =
  | { readonly kind: 'straight'; readonly lengthMm: number }
  | { readonly kind: 'offset'; readonly riseMm: number; readonly angleDeg: number }
  | { readonly kind: 'stub-90'; readonly heightMm: number }

export interface BendingAsked {
  readonly items: readonly BendItem[]
  /** To the middle of the pipe, in millimetres: of the bender's shoe, or of the former. */
  readonly radiusMm: number
  /** What the bender takes up in a quarter bend; null where nobody says. */
  readonly takeUpMm: number | null
  /** The lengths the pipe comes in; null: in one piece. */
  readonly stockMm: number | null
}

/** One bend as it is made, measured along the straight pipe from the first end, in millimetres. */
export interface MadeBend {
  readonly item: number
  readonly degrees: number
  /** To the left of the way, or back to the right: of an offset one and then the other. */
  readonly turn: 'left' | 'right'
  readonly fromMm: number
  readonly toMm: number
}
/** A piece of pipe between couplings, its bends measured from its own first end. */
export interface Piece {
  readonly lengthMm: number
  readonly bends: readonly (MadeBend & { readonly no: number })[]
}
export interface Bending {
  readonly cutMm: number
  readonly bends: readonly MadeBend[]
  readonly pieces: readonly Piece[]
  /** Where a quarter bend is marked by the bender's arrow, from the end of its stub; by the item it is of. */
  readonly arrows: readonly { readonly item: number; readonly fromEndMm: number }[]
  readonly totalDegrees: number
  /** Items after which a pull point must be, so that no more than 360 degrees lie between two. NFPA 70 358.26, 352.26. */
  readonly pullAfter: readonly number[]
}

/** So much straight pipe stays between a coupling and a bend. */
const STRAIGHT_AT_COUPLING_MM = 50
const SHORTEST_MM = 150

interface Corner {
  readonly item: number
  readonly degrees: number
  readonly turn: MadeBend['turn']
  /** Along the sharp corners, from the first end. */
  readonly atMm: number
}

/** Where the way turns, along its sharp corners; a stub that comes first is at the first end, any other beyond its bend. */
function cornersOf(items: readonly BendItem[]): { corners: Corner[]; lengthMm: number } {
  const corners: Corner[] = []
  let at = 0
  for (const [item, i] of items.entries()) {
    if (i.kind === 'straight') at += i.lengthMm
    else if (i.kind === 'stub-90') {
      if (item === 0) at += i.heightMm
      corners.push({ item, degrees: 90, turn: 'left', atMm: at })
      if (item > 0) at += i.heightMm
    } else {
      corners.push({ item, degrees: i.angleDeg, turn: 'left', atMm: at })
      at += i.riseMm / Math.sin((i.angleDeg * Math.PI) / 180)
      corners.push({ item, degrees: i.angleDeg, turn: 'right', atMm: at })
    }
  }
  return { corners, lengthMm: at }
}

/** Where a pull point must be: as late as may be. */
function pullPoints(items: readonly BendItem[]): number[] {
  const degrees = (i: BendItem) => (i.kind === 'straight' ? 0 : i.kind === 'offset' ? 2 * i.angleDeg : 90)
  const after: number[] = []
  let sum = 0
  for (const [n, i] of items.entries()) {
    if (!atMost(sum + degrees(i), maxDegreesBetweenPulls)) {
      after.push(n - 1)
      sum = 0
    }
    sum += degrees(i)
  }
  return after
}

/** Couplings as late as the pipe reaches, and in no bend. @throws InputError at `stockMm` where a bend is longer than the pipe */
function piecesOf(cutMm: number, bends: readonly MadeBend[], stockMm: number | null): Piece[] {
  const pieces: Piece[] = []
  let from = 0
  while (cutMm - from > 1e-9) {
    const whole = stockMm === null || atMost(cutMm, from + stockMm)
    // What is left over is long enough to be held while it is cut.
    let to = whole ? cutMm : Math.min(from + stockMm, cutMm - SHORTEST_MM)
    if (!whole)
      for (const b of bends.toReversed())
        if (to > b.fromMm - STRAIGHT_AT_COUPLING_MM && to < b.toMm + STRAIGHT_AT_COUPLING_MM) to = b.fromMm - STRAIGHT_AT_COUPLING_MM
    if (!whole && to - from < STRAIGHT_AT_COUPLING_MM)
      throw new InputError('stockMm', 'A bend and the straight pipe it wants on both sides are longer than the pipe comes in.')
    const [start, end] = [from, to]
    const within = bends.flatMap((b, no) => {
      if (b.fromMm < start - 1e-9 || b.toMm > end + 1e-9) return []
      return [{ ...b, no: no + 1, fromMm: b.fromMm - start, toMm: b.toMm - start }]
    })
    pieces.push({ lengthMm: to - from, bends: within })
    from = to
  }
  return pieces
}

/**
 * How a pipe is marked, cut and bent: each bend by where it begins on the straight pipe, with what every bend before it spared.
 * @throws InputError at `items.N` where two bends would run into each other or over an end, at `stockMm` where no coupling finds room
 */
export function bending({ items, radiusMm, takeUpMm, stockMm }: BendingAsked): Bending {
  const { corners, lengthMm } = cornersOf(items)
  let spared = 0
  const bends = corners.map((c): MadeBend => {
    const angle = (c.degrees * Math.PI) / 180
    const tangent = radiusMm * Math.tan(angle / 2)
    const fromMm = c.atMm - tangent - spared
    spared += 2 * tangent - radiusMm * angle
    return { item: c.item, degrees: c.degrees, turn: c.turn, fromMm, toMm: fromMm + radiusMm * angle }
  })
  const cutMm = lengthMm - spared
  for (const [n, b] of bends.entries()) {
    const before = bends[n - 1]
    if (!atLeast(b.fromMm, before?.toMm ?? 0))
      throw new InputError(
        `items.${b.item}`,
        before?.item === b.item
          ? 'The offset is too small for its two bends; take a flatter angle.'
          : 'There is no room for this bend after what comes before it.',
      )
    if (!atMost(b.toMm, cutMm)) throw new InputError(`items.${b.item}`, 'There is no room for this bend before the end of the pipe.')
  }
  const arrows = items.flatMap((i, item) => {
    const ends = item === 0 || item === items.length - 1
    return i.kind === 'stub-90' && ends && takeUpMm !== null && atLeast(i.heightMm, takeUpMm)
      ? [{ item, fromEndMm: i.heightMm - takeUpMm }]
      : []
  })
  return {
    cutMm,
    bends,
    pieces: piecesOf(cutMm, bends, stockMm),
    arrows,
    totalDegrees: corners.reduce((sum, c) => sum + c.degrees, 0),
    pullAfter: pullPoints(items),
  }
}

/**
 * Where straps go, along the straight pipe, in millimetres from its first end: near both ends, no further apart than is allowed, and on no
 * bend. On straight pipe they are evenly spaced.
 */
export function strapsAlong(
  lengthMm: number,
  { near, apart }: { readonly near: number; readonly apart: number },
  bends: readonly Pick<MadeBend, 'fromMm' | 'toMm'>[] = [],
): readonly number[] {
  if (lengthMm <= near && bends.length === 0) return [lengthMm / 2]
  const bendAt = (x: number) => bends.find((b) => x > b.fromMm && x < b.toMm)
  const first = Math.min(near, lengthMm / 2)
  const at = [bendAt(first)?.fromMm ?? first]
  while (lengthMm - at.at(-1)! > near + 1e-9) {
    const [last, left] = [at.at(-1)!, lengthMm - near - at.at(-1)!]
    const next = last + left / Math.ceil(left / apart - 1e-9)
    const on = bendAt(next)
    // Beyond the bend where that is not too far, before it where it is.
    at.push(!on ? next : on.toMm - last <= apart + 1e-9 || on.fromMm <= last ? on.toMm : on.fromMm)
  }
  return at
}

/**
 * How far an expansion fitting is pulled out at today's temperature, in millimetres from fully closed: shut in the greatest heat, open by
 * the whole change in the greatest cold.
 * @throws InputError at `nowC` where the temperature is outside the range the fitting was chosen for
 */
export function openedBy(changeMm: number, { minC, maxC, nowC }: { minC: number; maxC: number; nowC: number }): number {
  if (nowC < minC || nowC > maxC) throw new InputError('nowC', 'Today is outside the range of the year that was given.')
  return maxC === minC ? 0 : (changeMm * (maxC - nowC)) / (maxC - minC)
}
