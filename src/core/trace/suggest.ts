import { candidateCount, mayHaveChildren, type Region } from './regions'
import type { TraceInput, TraceTest } from './types'

/** log2 of n choose k. */
const logFactorials = [0]
function logFactorial(n: number): number {
  for (let i = logFactorials.length; i <= n; i++) logFactorials.push(logFactorials[i - 1]! + Math.log2(i))
  return logFactorials[n]!
}
const logChoose = (n: number, k: number): number =>
  k < 0 || k > n ? Number.NEGATIVE_INFINITY : logFactorial(n) - logFactorial(k) - logFactorial(n - k)
const times = (log: number, n: number): number => (n === 0 ? 0 : n * log)

/**
 * log2 of the number of forests of m members, `open` of which may be parents, below k roots. With the root's cables
 * counted there are C(m−1, c−1) · open^(m−c) trees, else k · (open + k)^(m−1); both by Prüfer's code.
 */
function logForests(m: number, open: number, k: number, rootCables: number | null): number {
  if (m === 0) return rootCables === null || rootCables === 0 ? 0 : Number.NEGATIVE_INFINITY
  if (k === 0) return Number.NEGATIVE_INFINITY
  if (rootCables === null) return Math.log2(k) + times(Math.log2(open + k), m - 1)
  if (rootCables < 1 || rootCables > m) return Number.NEGATIVE_INFINITY
  if (open === 0) return m === rootCables ? 0 : Number.NEGATIVE_INFINITY
  return logChoose(m - 1, rootCables - 1) + times(Math.log2(open), m - rootCables)
}

/** One kind of answer to a test: how many of each sort went dead, in how many ways, and how likely each way is. */
interface Answer {
  readonly openDead: number
  readonly closedDead: number
  readonly ways: number
  readonly logEach: number
}

/** All answers to a test, where `rest(o, c)` counts the forests left when o open and c closed members are dead. */
function answers(
  open: number,
  closed: number,
  logTotal: number,
  below: (o: number, c: number) => number,
  rest: (o: number, c: number) => number,
): Answer[] {
  const list: Answer[] = []
  for (let o = 0; o <= open; o++)
    for (let c = 0; c <= closed; c++) {
      const logEach = below(o, c) + rest(o, c) - logTotal
      const logWays = logChoose(open, o) + logChoose(closed, c)
      if (logEach > Number.NEGATIVE_INFINITY && logWays + logEach > -60)
        list.push({ openDead: o, closedDead: c, ways: 2 ** logWays, logEach })
    }
  return list
}

const entropy = (list: readonly Answer[]): number => list.reduce((sum, a) => sum - a.ways * 2 ** a.logEach * a.logEach, 0)

/** Answers to parting an open member's onward cables. */
function partingAnswers(r: Region): Answer[] {
  const [m, open, k] = [r.members.length, r.open.length, r.roots.length]
  return answers(
    open - 1,
    m - open,
    logForests(m, open, k, r.rootCables),
    (o, c) => logForests(o + c, o, 1, null),
    (o, c) => logForests(m - o - c, open - 1 - o, k, r.rootCables),
  )
}

/** Answers to switching one of the untried breakers off. */
function breakerAnswers(r: Region): Answer[] {
  const [m, open, k] = [r.members.length, r.open.length, r.roots.length]
  return answers(
    open,
    m - open,
    logForests(m, open, k, null),
    (o, c) => logForests(o + c, o, 1, null),
    (o, c) => logForests(m - o - c, open - o, k - 1, null),
  )
}

/**
 * Bits still unknown about one member's parent: each open member is as likely as the next, and an open one is fed from a root twice as
 * often.
 */
function parentBits(open: number, k: number, isOpen: boolean): number {
  const places = open + k
  if (!isOpen) return Math.log2(places)
  if (places <= 1) return 0
  const others = open - 1
  const rootShare = (k + 1) / (k * places)
  return (others / places) * Math.log2(places) - k * rootShare * Math.log2(rootShare)
}

/** Bits a parting of `x` is expected to tell of the parent of a goal point in the region. */
function bitsAboutParent(r: Region, list: readonly Answer[], goalOpen: boolean, isGoal: boolean): number {
  const [open, k] = [r.open.length, r.roots.length]
  const othersOpen = open - 1
  const closed = r.members.length - open
  const after = list.reduce((sum, a) => {
    const p = a.ways * 2 ** a.logEach
    const left = open - 1 - a.openDead
    if (isGoal) return sum + p * parentBits(left, k, false)
    const among = goalOpen ? othersOpen : closed
    const share = among === 0 ? 0 : (goalOpen ? a.openDead : a.closedDead) / among
    return sum + p * (share * parentBits(a.openDead, 1, goalOpen) + (1 - share) * parentBits(left, k, goalOpen))
  }, 0)
  return Math.max(0, parentBits(open, k, goalOpen) - after)
}

function bitsOfBreakerAboutParent(r: Region, list: readonly Answer[], goalOpen: boolean): number {
  const [open, k] = [r.open.length, r.roots.length]
  const among = goalOpen ? open : r.members.length - open
  const after = list.reduce((sum, a) => {
    const share = (goalOpen ? a.openDead : a.closedDead) / among
    return (
      sum +
      a.ways * 2 ** a.logEach * (share * parentBits(a.openDead, 1, goalOpen) + (1 - share) * parentBits(open - a.openDead, k - 1, goalOpen))
    )
  }, 0)
  return Math.max(0, parentBits(open, k, goalOpen) - after)
}

const binaryEntropy = (p: number): number => (p <= 0 || p >= 1 ? 0 : -p * Math.log2(p) - (1 - p) * Math.log2(1 - p))
const LEAST_BITS = 1e-9

/**
 * Tests worth making, most telling first. Every forest that agrees with what was seen is taken as equally likely; tests
 * whose answer is implied are left out. With a goal, the bits are about the goal, and tests that tell nothing of it are
 * left out too.
 */
export function suggest(
  input: TraceInput,
  found: readonly Region[],
  parents: Readonly<Record<string, string | null>>,
  feeds: Readonly<Record<string, string | null>>,
): { test: TraceTest; bits: number }[] {
  const { goal } = input
  const list = found.flatMap((r) => {
    if (r.members.length === 0 || r.members.every((x) => parents[x] !== null)) return []
    const goals = goal ? goal.points.filter((p) => r.members.includes(p) && (goal.want === 'feeds' ? feeds : parents)[p] === null) : []
    if (goal && goals.length === 0 && !(goal.want === 'feeds' && r.roots.length > 1)) return []
    return [...breakerTests(input, r, goals, feeds), ...partingTests(input, r, goals)]
  })
  return list.filter((t) => t.bits > LEAST_BITS).toSorted((a, b) => b.bits - a.bits)
}

function breakerTests(
  { goal }: TraceInput,
  r: Region,
  goals: readonly string[],
  feeds: Readonly<Record<string, string | null>>,
): { test: TraceTest; bits: number }[] {
  if (r.roots.length < 2) return []
  const list = breakerAnswers(r)
  const wanted = goal?.want === 'feeds' ? goal.points.filter((p) => feeds[p] === null).length : 0
  const bits = !goal
    ? entropy(list)
    : goal.want === 'feeds'
      ? wanted * binaryEntropy(1 / r.roots.length)
      : goals.reduce((sum, p) => sum + bitsOfBreakerAboutParent(r, list, r.isOpen.has(p)), 0)
  return r.roots.map((breaker) => ({ test: { kind: 'breaker-off', breaker }, bits }))
}

function partingTests({ goal }: TraceInput, r: Region, goals: readonly string[]): { test: TraceTest; bits: number }[] {
  if (goal?.want === 'feeds') return []
  const askable = telling(r)
  if (askable.length === 0) return []
  const list = partingAnswers(r)
  const bitsOf = (x: string): number =>
    goal ? goals.reduce((sum, p) => sum + bitsAboutParent(r, list, r.isOpen.has(p), p === x), 0) : entropy(list)
  // Counts of single boxes make the model rough; a test that may tell something is never rated as telling nothing.
  return askable.map((x) => ({ test: { kind: 'disconnected', point: x }, bits: Math.max(bitsOf(x), goal ? 0 : 2 * LEAST_BITS) }))
}

/** Members whose parting tells something: they may have children, and some other member's parent is not settled yet. */
function telling(r: Region): string[] {
  const possible = r.open.filter((x) => mayHaveChildren(r, x))
  const unsettled = r.members.filter((y) => candidateCount(r, y, possible.length) > 1)
  return possible.filter((x) => unsettled.some((y) => y !== x))
}
