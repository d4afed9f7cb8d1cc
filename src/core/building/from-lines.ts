import type { Side } from './house'

/*
 * Rooms out of the lines of somebody's drawing: what lines close in. Walls drawn as two lines close in a strip that is no room, and a door
 * that is left open in them is closed again.
 */
export interface Line {
  readonly a: readonly [x: number, y: number]
  readonly b: readonly [x: number, y: number]
}
export interface FoundRoom {
  readonly west: number
  readonly south: number
  readonly lengthM: number
  readonly widthM: number
  /** One room round a corner is found as its parts: the part of it that this one is open to, by its place in the list. */
  readonly openTo: number | null
}
export interface FromLines {
  readonly rooms: readonly FoundRoom[]
  /** Closed places whose outline has too many corners to be a room. */
  readonly jagged: number
  /** Things that stand alone in a room, and are left out. */
  readonly loose: number
  /** Lines that stand askew to the walls, and are left out. */
  readonly askew: number
  /** Doorways that were closed. */
  readonly doorways: number
  /** How far the drawing was turned, in degrees. */
  readonly turned: number
  /** Why there is none. */
  readonly wrong: string | null
}

/** So near each other two lines are one. */
const SAME_M = 0.01
/** A gap in a wall that is no wider is a doorway. */
const DOORWAY_M = 1.3
/** What is narrower is the inside of a wall. */
const WALL_M = 0.45
const LEAST_ROOM_M2 = 0.5
const MOST_LINES = 20_000
const MOST_CELLS = 1_000_000
export const MOST_ROOMS = 60

const none = (wrong: string): FromLines => ({ rooms: [], jagged: 0, loose: 0, askew: 0, doorways: 0, turned: 0, wrong })

/** The angle most of the length is drawn at, of a quarter turn, in degrees. */
function slantOf(lines: readonly Line[]): number {
  const byDegree = new Map<number, number>()
  for (const { a, b } of lines) {
    const [x, y] = [b[0] - a[0], b[1] - a[1]]
    const degrees = ((((Math.atan2(y, x) * 180) / Math.PI) % 90) + 90) % 90
    const at = (Math.round(degrees * 2) / 2) % 90
    byDegree.set(at, (byDegree.get(at) ?? 0) + Math.hypot(x, y))
  }
  return [...byDegree].toSorted((p, q) => q[1] - p[1])[0]?.[0] ?? 0
}

/** A stretch of a wall: along x at some y, or along y at some x. */
interface Stretch {
  readonly level: boolean
  readonly at: number
  from: number
  to: number
}

/** Stretches that lie on one line and touch, as one. */
function joined(stretches: readonly Stretch[]): readonly Stretch[] {
  const whole: Stretch[] = []
  for (const s of stretches.toSorted((p, q) => Number(p.level) - Number(q.level) || p.at - q.at || p.from - q.from)) {
    const last = whole.at(-1)
    if (last && last.level === s.level && last.at === s.at && s.from <= last.to + SAME_M) last.to = Math.max(last.to, s.to)
    else whole.push({ ...s })
  }
  return whole
}

/** Those of a sorted list that lie between two places. */
function between(sorted: readonly Stretch[], from: number, to: number): readonly Stretch[] {
  let [low, high] = [0, sorted.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (sorted[middle]!.at < from) low = middle + 1
    else high = middle
  }
  let end = low
  while (end < sorted.length && sorted[end]!.at <= to) end++
  return sorted.slice(low, end)
}

/** Connected lines that take less room than this are something in a room, and is no wall. */
const LEAST_HOUSE_M2 = 2
/** Stretches without what stands alone in the middle of a room: a table, a pillar, a letter drawn in lines. */
function withoutLoose(walls: readonly Stretch[]): { readonly kept: readonly Stretch[]; readonly loose: number } {
  const upright = walls.flatMap((w, i) => (w.level ? [] : [{ ...w, i }])).toSorted((p, q) => p.at - q.at)
  const up = walls.map((_, i) => i)
  const of = (i: number): number => {
    let at = i
    while (up[at] !== at) at = up[at] = up[up[at]!]!
    return at
  }
  for (const [i, w] of walls.entries())
    if (w.level)
      for (const o of between(upright, w.from - SAME_M, w.to + SAME_M))
        if (o.from <= w.at + SAME_M && o.to >= w.at - SAME_M) up[of(i)] = of((o as (typeof upright)[number]).i)
  const boxes = new Map<number, Box>()
  for (const [i, w] of walls.entries()) {
    const [b, at] = [boxes.get(of(i)), of(i)]
    const own: Box = w.level
      ? { west: w.from, east: w.to, south: w.at, north: w.at }
      : { west: w.at, east: w.at, south: w.from, north: w.to }
    const { min, max } = Math
    boxes.set(
      at,
      b
        ? { west: min(b.west, own.west), east: max(b.east, own.east), south: min(b.south, own.south), north: max(b.north, own.north) }
        : own,
    )
  }
  // A wall that nothing meets may be led on over a doorway yet.
  const small = (b: Box) => areaOf(b) < LEAST_HOUSE_M2 && leastSide(b) > SAME_M
  return { kept: walls.filter((_, i) => !small(boxes.get(of(i))!)), loose: [...boxes.values()].filter(small).length }
}

/**
 * Walls led on over doorways: an end that meets no other wall goes on to the next one that is near, straight on or across. The frame of a
 * door, no longer than a wall is thick, is no wall.
 */
function doorsClosed(walls: readonly Stretch[]): { readonly closed: readonly Stretch[]; readonly doorways: number } {
  const across = [true, false].map((level) => walls.filter((w) => w.level === level).toSorted((p, q) => p.at - q.at))
  const added: Stretch[] = []
  for (const w of walls) {
    const [own, others] = w.level ? [across[0]!, across[1]!] : [across[1]!, across[0]!]
    const reaches = (o: Stretch) => o.from <= w.at + SAME_M && o.to >= w.at - SAME_M
    for (const end of [w.from, w.to]) {
      const way = end === w.to ? 1 : -1
      const met = between(others, end - SAME_M, end + SAME_M).some((o) => reaches(o) && o.to - o.from > WALL_M)
      if (met) continue
      const [low, high] = way > 0 ? [end + SAME_M, end + DOORWAY_M] : [end - DOORWAY_M, end - SAME_M]
      const ahead = [
        ...between(others, low, high).flatMap((o) => (reaches(o) && o.to - o.from > WALL_M ? [o.at] : [])),
        ...between(own, w.at, w.at).flatMap((o) => {
          const near = way > 0 ? o.from : o.to
          return o !== w && near >= low && near <= high ? [near] : []
        }),
      ]
      if (ahead.length === 0) continue
      const to = ahead.toSorted((p, q) => Math.abs(p - end) - Math.abs(q - end))[0]!
      added.push({ level: w.level, at: w.at, from: Math.min(end, to), to: Math.max(end, to) })
    }
  }
  // Met from both sides a doorway is closed once; drawn by two lines each of them is.
  const once = new Set(added.map((d) => `${d.level} ${d.at} ${d.from} ${d.to}`))
  return { closed: joined([...walls, ...added]), doorways: once.size }
}

/** Numbers that are nearly one made one; each by what it becomes. */
function snapped(values: readonly number[]): (v: number) => number {
  const sorted = [...new Set(values)].toSorted((a, b) => a - b)
  const to = new Map<number, number>()
  let first = Number.NaN
  for (const v of sorted) {
    if (!(v - first <= SAME_M)) first = v
    to.set(v, first)
  }
  return (v) => to.get(v)!
}

/** @param lines in metres */
export function roomsFromLines(lines: readonly Line[]): FromLines {
  if (lines.length > MOST_LINES) return none(`${lines.length} lines are too many: choose the layers of the walls alone.`)
  const turned = slantOf(lines)
  const [cos, sin] = [Math.cos((-turned * Math.PI) / 180), Math.sin((-turned * Math.PI) / 180)]
  const turn = ([x, y]: Line['a']): [number, number] => [x * cos - y * sin, x * sin + y * cos]
  const straight = lines.map(({ a, b }) => [turn(a), turn(b)] as const)
  // A hundredth of its length aside, or a centimetre, is straight.
  const upright = straight.map(([[x, y], [p, q]]) => {
    const [w, h] = [Math.abs(p - x), Math.abs(q - y)]
    if (Math.max(w, h) < SAME_M) return null
    const off = Math.max(SAME_M, 0.01 * Math.max(w, h))
    return h <= off ? ('level' as const) : w <= off ? ('upright' as const) : null
  })
  const kept = straight.flatMap((s, i) => (upright[i] ? [{ s, level: upright[i] === 'level' }] : []))
  const xs = snapped(kept.flatMap(({ s: [p, q], level }) => (level ? [p[0], q[0]] : [(p[0] + q[0]) / 2])))
  const ys = snapped(kept.flatMap(({ s: [p, q], level }) => (level ? [(p[1] + q[1]) / 2] : [p[1], q[1]])))
  const stretches = kept.map(({ s: [p, q], level }): Stretch => {
    const ends = level ? [xs(p[0]), xs(q[0])] : [ys(p[1]), ys(q[1])]
    const at = level ? ys((p[1] + q[1]) / 2) : xs((p[0] + q[0]) / 2)
    return { level, at, from: Math.min(...ends), to: Math.max(...ends) }
  })
  const { kept: walls, loose } = withoutLoose(joined(stretches))
  const { closed, doorways } = doorsClosed(walls)
  const askew = straight.filter(([p, q], i) => upright[i] === null && Math.hypot(q[0] - p[0], q[1] - p[1]) >= SAME_M).length
  const cells = cellsOf(closed)
  if (!cells) return none('Too many lines cross to find the rooms: choose only the layers of the walls.')
  const { rooms, jagged } = closedIn(cells)
  if (rooms.length > MOST_ROOMS)
    return none(`${rooms.length} closed places are more than ${MOST_ROOMS} rooms: choose the layers of the walls alone.`)
  const wrong = rooms.length ? null : 'No lines close a room in: the ends of walls must meet, but for doorways.'
  return { rooms, jagged, loose, askew, doorways, turned, wrong }
}

/** The drawing parted at every line, and which of the parts have a wall to their west and to their south. */
interface Cells {
  readonly xs: readonly number[]
  readonly ys: readonly number[]
  readonly westWall: Uint8Array
  readonly southWall: Uint8Array
}
function cellsOf(stretches: readonly Stretch[]): Cells | null {
  const sorted = (values: readonly number[]) => [...new Set(values)].toSorted((a, b) => a - b)
  const xs = sorted(stretches.flatMap((s) => (s.level ? [s.from, s.to] : [s.at])))
  const ys = sorted(stretches.flatMap((s) => (s.level ? [s.at] : [s.from, s.to])))
  // A row and a column more all round, from which everything outside is reached.
  const wide = xs.length + 1
  if (wide * (ys.length + 1) > MOST_CELLS) return null
  const [westWall, southWall] = [new Uint8Array(wide * (ys.length + 1)), new Uint8Array(wide * (ys.length + 1))]
  const [column, row] = [new Map(xs.map((x, i) => [x, i])), new Map(ys.map((y, i) => [y, i]))]
  for (const s of stretches) {
    const [along, across] = s.level ? [column, row] : [row, column]
    // Cell i + 1 lies between line i and the next.
    for (let k = along.get(s.from)!; k < along.get(s.to)!; k++)
      if (s.level) southWall[(across.get(s.at)! + 1) * wide + k + 1] = 1
      else westWall[(k + 1) * wide + across.get(s.at)! + 1] = 1
  }
  return { xs, ys, westWall, southWall }
}

/** What is closed in, as rectangles: of a place round a corner its parts, each open to one before it. */
function closedIn({ xs, ys, westWall, southWall }: Cells): Pick<FromLines, 'rooms' | 'jagged'> {
  const [wide, tall] = [xs.length + 1, ys.length + 1]
  const seen = new Uint8Array(wide * tall)
  const rooms: FoundRoom[] = []
  let jagged = 0
  for (let start = 0; start < seen.length; start++) {
    if (seen[start]) continue
    const place: number[] = []
    let outside = false
    const stack = [start]
    seen[start] = 1
    while (stack.length) {
      const at = stack.pop()!
      place.push(at)
      const [i, j] = [at % wide, Math.floor(at / wide)]
      // Beyond the last line of either kind lies the outside.
      if (i === 0 || j === 0 || i === xs.length || j === ys.length) outside = true
      const go = (to: number, wall: number | undefined) => {
        if (wall || seen[to]) return
        seen[to] = 1
        stack.push(to)
      }
      if (i > 0) go(at - 1, westWall[at])
      if (i + 1 < wide) go(at + 1, westWall[at + 1])
      if (j > 0) go(at - wide, southWall[at])
      if (j + 1 < tall) go(at + wide, southWall[at + wide])
    }
    const parts = outside
      ? []
      : partsOf(
          place.map((at) => [at % wide, Math.floor(at / wide)] as const),
          xs,
          ys,
          rooms.length,
        )
    if (parts) rooms.push(...parts)
    else jagged++
  }
  return { rooms, jagged }
}

interface Box {
  readonly west: number
  readonly south: number
  readonly east: number
  readonly north: number
}
const areaOf = (b: Box): number => (b.east - b.west) * (b.north - b.south)
const leastSide = (b: Box): number => Math.min(b.east - b.west, b.north - b.south)

/** More corners than this an outline has only where it is no wall. */
const MOST_STEPS = 40
/** Neighbours in one direction that have the same neighbours in the other are one: how many lines there are outside tells nothing. */
function steps(
  place: readonly (readonly [number, number])[],
  of: 0 | 1,
): { readonly stepOf: ReadonlyMap<number, number>; readonly last: readonly number[] } {
  const crossed = new Map<number, number[]>()
  for (const cell of place) {
    const list = crossed.get(cell[of])
    if (list) list.push(cell[1 - of]!)
    else crossed.set(cell[of], [cell[1 - of]!])
  }
  const stepOf = new Map<number, number>()
  const last: number[] = []
  let before = { at: Number.NEGATIVE_INFINITY, key: '' }
  for (const [at, list] of [...crossed].toSorted((p, q) => p[0] - q[0])) {
    const key = list.toSorted((p, q) => p - q).join()
    if (before.key === key && before.at === at - 1) last[last.length - 1] = at
    else last.push(at)
    stepOf.set(at, last.length - 1)
    before = { at, key }
  }
  return { stepOf, last }
}

/** A closed place as few rectangles: the largest that lies in it, then the largest in what is left; null of one that is too jagged. */
function partsOf(
  place: readonly (readonly [number, number])[],
  xs: readonly number[],
  ys: readonly number[],
  before: number,
): FoundRoom[] | null {
  const [columns, rows] = [steps(place, 0), steps(place, 1)]
  if (columns.last.length > MOST_STEPS || rows.last.length > MOST_STEPS) return null
  const cells = new Set(place.map(([i, j]) => `${columns.stepOf.get(i)! + 1} ${rows.stepOf.get(j)! + 1}`))
  // Cell i lies between line i - 1 and the next, of those that are left.
  const lines = (all: readonly number[], { last, stepOf }: typeof columns) => {
    const first = [...stepOf].flatMap(([at, step]) => (stepOf.get(at - 1) === step ? [] : [[step, at] as const]))
    const from = new Map(first)
    return { from: last.map((_, k) => all[from.get(k)! - 1]!), to: last.map((at) => all[at]!) }
  }
  const [x, y] = [lines(xs, columns), lines(ys, rows)]
  const boxes: Box[] = []
  while (cells.size) {
    const best = largestIn(cells, x, y)
    boxes.push(best.box)
    for (const key of best.keys) cells.delete(key)
  }
  // The inside of a wall, and the corners that are left of one, are no rooms.
  const kept = boxes.filter((b) => leastSide(b) >= WALL_M)
  if (kept.reduce((sum, b) => sum + areaOf(b), 0) < LEAST_ROOM_M2) return []
  // Each after one that it is open to; what is joined to the rest by less than a wall's width is a room of its own.
  const parts: { readonly box: Box; readonly open: number | null }[] = []
  const left = [...kept]
  while (left.length) {
    const at = left.findIndex((b) => parts.some((o) => sideFacing(o.box, b, SAME_M) !== null))
    const [box] = left.splice(Math.max(at, 0), 1) as [Box]
    const open = parts.findIndex((o) => sideFacing(o.box, box, SAME_M) !== null)
    parts.push({ box, open: open < 0 ? null : open })
  }
  return parts.map(({ box: b, open }) => ({
    west: b.west,
    south: b.south,
    lengthM: b.east - b.west,
    widthM: b.north - b.south,
    openTo: open === null ? null : before + open,
  }))
}

interface Lines {
  readonly from: readonly number[]
  readonly to: readonly number[]
}
function largestIn(cells: ReadonlySet<string>, x: Lines, y: Lines): { readonly box: Box; readonly keys: readonly string[] } {
  let best: { box: Box; keys: string[] } | null = null
  for (const key of cells) {
    const [i, j] = key.split(' ').map(Number) as [number, number]
    // Grown to the east a column at a time, as far north as all columns reach.
    let north = Number.POSITIVE_INFINITY
    const columns: number[] = []
    for (let east = i; cells.has(`${east} ${j}`); east++) {
      let top = j
      while (top < north && cells.has(`${east} ${top}`)) top++
      north = Math.min(north, top)
      columns.push(east)
      const box = { west: x.from[i - 1]!, south: y.from[j - 1]!, east: x.to[east - 1]!, north: y.to[north - 2]! }
      if (best && areaOf(box) <= areaOf(best.box)) continue
      best = { box, keys: columns.flatMap((c) => Array.from({ length: north - j }, (_, k) => `${c} ${j + k}`)) }
    }
  }
  return best!
}

/** Which side of one box another is on, within what a wall takes; null where it is on none. */
function sideFacing(o: Box, b: Box, thick: number): Side | null {
  const meets = (from: number, to: number, p: number, q: number) => Math.min(to, q) - Math.max(from, p) > 0.1
  const near = (p: number, q: number) => q - p > -SAME_M && q - p <= thick
  const [level, upright] = [meets(o.south, o.north, b.south, b.north), meets(o.west, o.east, b.west, b.east)]
  if (level && near(o.east, b.west)) return 'east'
  if (level && near(b.east, o.west)) return 'west'
  if (upright && near(o.north, b.south)) return 'north'
  return upright && near(b.north, o.south) ? 'south' : null
}

/** A room as it is entered: its size, and what it lies beside of those before it in the list. */
export interface EnteredRoom {
  /** Its place in what was found. */
  readonly found: number
  readonly lengthM: number
  readonly widthM: number
  readonly beside: {
    readonly room: number
    readonly side: Side | 'over'
    readonly shiftM: number
    readonly northM: number
    readonly open: boolean
  } | null
}

/** Rooms in an order in which each lies beside one before it; what lies by itself is measured from the first. */
export function asEntered(rooms: readonly FoundRoom[]): readonly EnteredRoom[] {
  const boxes = rooms.map((r): Box => ({ west: r.west, south: r.south, east: r.west + r.lengthM, north: r.south + r.widthM }))
  const left = new Set(rooms.keys())
  const entered: EnteredRoom[] = []
  const put = (i: number, beside: EnteredRoom['beside']) => {
    left.delete(i)
    entered.push({ found: i, lengthM: rooms[i]!.lengthM, widthM: rooms[i]!.widthM, beside })
  }
  const by = (i: number, o: number, open: boolean): EnteredRoom['beside'] => {
    const side = sideFacing(boxes[o]!, boxes[i]!, open ? SAME_M : WALL_M)
    if (side === null) return null
    const shiftM = side === 'east' || side === 'west' ? boxes[i]!.south - boxes[o]!.south : boxes[i]!.west - boxes[o]!.west
    return { room: o, side, shiftM: Math.abs(shiftM) < SAME_M ? 0 : shiftM, northM: 0, open }
  }
  while (left.size) {
    const next = [...left]
      .flatMap((i) => {
        const to = rooms[i]!.openTo
        const others = to === null ? entered.map((e) => e.found) : left.has(to) ? [] : [to]
        return others.flatMap((o) => {
          const beside = by(i, o, to !== null)
          return beside ? [{ i, beside }] : []
        })
      })
      // Parts of a room by each other before anything else.
      .toSorted((p, q) => Number(q.beside.open) - Number(p.beside.open))[0]
    if (next) {
      put(next.i, next.beside)
      continue
    }
    const largest = [...left].filter((i) => rooms[i]!.openTo === null).toSorted((p, q) => areaOf(boxes[q]!) - areaOf(boxes[p]!))[0]!
    const first = entered[0]
    put(
      largest,
      first
        ? {
            room: first.found,
            side: 'over',
            shiftM: boxes[largest]!.west - boxes[first.found]!.west,
            northM: boxes[largest]!.south - boxes[first.found]!.south,
            open: false,
          }
        : null,
    )
  }
  return entered
}
