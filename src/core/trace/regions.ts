import type { Observation, TraceInput } from './types'

/**
 * A region is what hangs below one place whose descendants are known exactly: a breaker that was switched off, a point
 * whose onward cables were parted, or (`rest`) all the breakers not yet tried, taken together. Regions share no layout
 * between them, so each is thought about alone. Within one, a point whose own descendants are known (`closed`) can be
 * nobody's parent; any other may be, within the cables counted in its box.
 */
export interface Region {
  /** Breakers, or the one point, that the region's tops are fed from. */
  readonly roots: readonly string[]
  readonly members: readonly string[]
  /** Members whose onward cables are not parted: possible parents in this region. */
  readonly open: readonly string[]
  readonly isOpen: ReadonlySet<string>
  /** Cables that the counts leave over, to be shared by members not counted (and the root, where it is not). */
  readonly leftOver: number
  /** Onward cables at the root, where it is a point whose box was counted. */
  readonly rootCables: number | null
  /** Onward cables of open members whose boxes were counted. */
  readonly cables: ReadonlyMap<string, number>
}

/** What the observations say, gathered by place. */
export interface Facts {
  readonly fed: ReadonlyMap<string, ReadonlySet<string>>
  readonly beyond: ReadonlyMap<string, ReadonlySet<string>>
  readonly cables: ReadonlyMap<string, number>
}

/** Gathers observations; null where two of the same place disagree, or a point is dead beyond itself. */
export function gather(observations: readonly Observation[]): Facts | null {
  const fed = new Map<string, ReadonlySet<string>>()
  const beyond = new Map<string, ReadonlySet<string>>()
  const cables = new Map<string, number>()
  const put = (map: Map<string, ReadonlySet<string>>, at: string, dead: readonly string[]): boolean => {
    const set = new Set(dead)
    const known = map.get(at)
    map.set(at, set)
    return known === undefined || sameSet(known, set)
  }
  for (const o of observations) {
    if (o.kind === 'breaker-off') {
      if (!put(fed, o.breaker, o.dead)) return null
    } else if (o.kind === 'disconnected') {
      if (o.dead.includes(o.point) || !put(beyond, o.point, o.dead)) return null
    } else {
      const known = cables.get(o.point)
      if (known !== undefined && known !== o.onward) return null
      cables.set(o.point, o.onward)
      // No onward cable: nothing is fed beyond, as surely as if it had been parted.
      if (o.onward === 0 && !put(beyond, o.point, [])) return null
    }
  }
  return { fed, beyond, cables }
}

const sameSet = (a: ReadonlySet<string>, b: ReadonlySet<string>): boolean => a.size === b.size && [...a].every((x) => b.has(x))
const within = (a: Iterable<string>, b: ReadonlySet<string>): boolean => [...a].every((x) => b.has(x))
const apart = (a: Iterable<string>, b: ReadonlySet<string>): boolean => [...a].every((x) => !b.has(x))

/** Whether the sets that went dead can nest as sets below places of one forest must. */
export function nested({ breakers, points }: TraceInput, { fed, beyond }: Facts): boolean {
  const feeds = [...fed.values()]
  for (const [i, a] of feeds.entries()) if (feeds.slice(i + 1).some((b) => !apart(a, b))) return false
  if (breakers.every((b) => fed.has(b)) && feeds.reduce((n, f) => n + f.size, 0) < points.length) return false
  const groups = [...beyond].map(([point, dead]) => ({ point, dead, all: [point, ...dead] }))
  for (const { all } of groups) if (feeds.some((f) => !within(all, f) && !apart(all, f))) return false
  for (const [i, p] of groups.entries())
    for (const q of groups.slice(i + 1)) if (!(within(q.all, p.dead) || within(p.all, q.dead) || apart(p.all, new Set(q.all)))) return false
  return true
}

/** The regions of consistent facts, root by root. */
export function regions({ breakers, points }: TraceInput, { fed, beyond, cables }: Facts): Region[] {
  const bySize = [...beyond].toSorted((a, b) => a[1].size - b[1].size)
  const members = new Map<string, string[]>()
  const rest: string[] = []
  for (const x of points) {
    const above = bySize.find(([, dead]) => dead.has(x))?.[0] ?? breakers.find((b) => fed.get(b)?.has(x))
    if (above === undefined) rest.push(x)
    else members.set(above, [...(members.get(above) ?? []), x])
  }
  const region = (roots: readonly string[], list: readonly string[]): Region => {
    const open = list.filter((x) => !beyond.has(x))
    const counted = open.flatMap((x) => (cables.has(x) ? [[x, cables.get(x)!] as const] : []))
    const root = roots.length === 1 ? roots[0]! : ''
    const rootCables = beyond.has(root) ? (cables.get(root) ?? null) : null
    const leftOver = list.length - counted.reduce((sum, [, n]) => sum + n, 0) - (rootCables ?? 0)
    return { roots, members: list, open, isOpen: new Set(open), leftOver, rootCables, cables: new Map(counted) }
  }
  const untried = breakers.filter((b) => !fed.has(b))
  return [
    ...[...beyond.keys(), ...fed.keys()].map((root) => region([root], members.get(root) ?? [])),
    ...(rest.length || untried.length ? [region(untried, rest)] : []),
  ]
}

/** Members that may have any number of onward cables. */
const uncounted = (r: Region): number => r.open.length - r.cables.size

/** Whether any forest of this region agrees with the cables counted. */
export function feasible(r: Region): boolean {
  const m = r.members.length
  if (m === 0) return (r.rootCables ?? 0) === 0
  if (r.roots.length === 0) return false
  const left = r.leftOver
  if (r.rootCables !== null) return r.rootCables >= 1 && (uncounted(r) > 0 ? left >= 0 : left === 0)
  return left >= 1
}

/** The most onward cables an open member may have. */
function mostCables(r: Region, x: string): number {
  const counted = r.cables.get(x)
  if (counted !== undefined) return counted
  return r.isOpen.has(x) ? r.leftOver - (r.rootCables === null ? 1 : 0) : 0
}

/** Whether a member may have anything hanging from it in this region. */
export const mayHaveChildren = (r: Region, x: string): boolean => mostCables(r, x) >= 1

/**
 * Everything that may be the parent of a member: exactly those that are so in some forest agreeing with the counts.
 * A single leaf on the root's only cable would leave the others hanging from nothing.
 */
export function parentCandidates(r: Region, x: string): string[] {
  const others = r.open.filter((y) => y !== x && mayHaveChildren(r, y))
  return mayHangFromRoot(r, x) ? [...r.roots, ...others] : others
}

/** How many places may be the parent of a member, without listing them; `possible` is the number of open members that may have children. */
export function candidateCount(r: Region, x: string, possible: number): number {
  return (mayHangFromRoot(r, x) ? r.roots.length : 0) + possible - (r.isOpen.has(x) && mayHaveChildren(r, x) ? 1 : 0)
}

function mayHangFromRoot(r: Region, x: string): boolean {
  if (r.members.length === 1) return true
  if (r.rootCables !== null) return r.rootCables >= 2 || mostCables(r, x) >= 1
  // The root is free: it may take two cables, or one where x carries the rest on.
  if (r.leftOver >= 2) return true
  return (r.cables.get(x) ?? 0) >= 1
}
