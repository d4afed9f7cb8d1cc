import createGraph, { type Graph, type NodeId } from 'ngraph.graph'
import { aStar } from 'ngraph.path'
import { existsSync, readFileSync } from 'node:fs'
import { calculateOne, calculators } from '../src/core/contract/calculators'
import { workDesign } from '../src/core/design/work'
import { lusolve } from 'mathjs'
import { houseOf } from '../src/core/wired/house'
import { noTrial } from '../src/core/wired/laid'
import { liveOf } from '../src/core/wired/live'
import { wiringOf } from '../src/core/meters/wiring-of'
import { meets, shownBy } from '../src/core/meters/measure'
import { alteredBy, loadedAt, mistakesOf } from '../src/core/faults/mistakes'
import { campaign, effectOf } from '../src/core/faults/campaign'
import { network } from '../src/core/network/network'
import type { Element, NetworkInput } from '../src/core/network/types'
import { route, routeInput } from '../src/core/building/route'
import { placed } from '../src/core/building/house'
import { adjacencyOf, cheapest, distance, placeAt } from '../src/core/building/search'
import { waysOf } from '../src/core/building/ways-of'
import { evaluate } from '../src/core/evaluate/evaluate'
import { read } from '../src/core/installation/installation'
import { applyEdit, type Edit } from '../src/core/job/edits'
import { newWay } from '../src/core/job/board'
import { type DayPlanInput, dayPlanInput } from '../src/core/schedule/day'
import { planByRule } from '../src/core/schedule/day-by-rule'
import { dayOf, dayPlan } from '../src/core/schedule/day-plan'
import { fromVersion2 } from '../src/core/job/older/bring-up'
import { newCircuit as newCircuit2, newJob as newJob2 } from '../src/core/job/older/version-2'
import { newPoint } from '../src/core/job/point'
import { demoJobs } from '../src/core/demo/demo'
import { type Job, newJob } from '../src/core/job/schema'
import { answer, fewestTests, type House, makeHouse, onwardCables } from '../src/core/trace/house'
import { deduce, trace } from '../src/core/trace/trace'
import type { Observation } from '../src/core/trace/types'
import { evaluateOfBoth } from './bench-old'
import { benchKept } from './bench-kept'
import { benchPages } from './bench-page'
import { serverParts } from './bench-server'
import { bigJob } from './big-job'

const now = () => performance.now()
const median = (list: number[]) => list.toSorted((a, b) => a - b)[Math.floor(list.length / 2)]!

/** Median milliseconds of a task after a warm-up. */
function time(task: () => unknown, times = 15): number {
  for (let i = 0; i < 3; i++) task()
  return median(
    Array.from({ length: times }, () => {
      const start = now()
      task()
      return now() - start
    }),
  )
}

const line = (name: string, value: string, aim = '') => console.log(`${name.padEnd(58)} ${value.padStart(14)}  ${aim}`)

/** A copy shares nothing, so that no earlier report can be used again. */
const cold = (job: Job): Job => structuredClone(job)

function benchEvaluate() {
  console.log('\nWhole-job evaluate, nothing remembered')
  const sizes = [10, 100, 1000]
  for (let i = 0; i < 60; i++) evaluate(bigJob(100), [])
  const times: number[][] = sizes.map(() => [])
  const floors: number[] = []
  for (let round = 0; round < 15; round++)
    for (const [i, n] of sizes.entries()) {
      const copy = cold(bigJob(n))
      const start = now()
      evaluate(copy, [])
      times[i]!.push(now() - start)
      if (n !== 100) continue
      // The least that must be worked out: each circuit's figures, without a rule, a box or a test.
      const job = read(cold(copy))
      const begun = now()
      for (const c of job.circuits) workDesign(job, c, c.designs[0]!)
      floors.push(now() - begun)
    }
  const fresh = times.map(median)
  sizes.forEach((n, i) => line(`  ${n} circuits`, `${fresh[i]!.toFixed(2)} ms`, n === 100 ? 'aim: under 16 ms' : ''))
  line(
    '  100 circuits, the floor: their arithmetic alone',
    `${median(floors).toFixed(2)} ms`,
    `${(fresh[1]! / median(floors)).toFixed(1)} × that`,
  )
  const exponent = Math.log(fresh[2]! / fresh[1]!) / Math.log(10)
  line('  growth exponent, 100 to 1000', exponent.toFixed(2), 'aim: at most 1.1')
  const job = bigJob(100)
  evaluate(job, [])
  let watts = 1000
  const incremental = time(() => {
    const edit: Edit = { kind: 'load.set', circuit: 'c50', patch: { amount: watts++ } }
    return evaluate(applyEdit(job, edit).job, [])
  }, 50)
  line(
    '  one edit on 100 circuits, the rest remembered',
    `${incremental.toFixed(2)} ms`,
    `${((100 * incremental) / fresh[1]!).toFixed(0)} % of a full evaluation`,
  )
}

/** The same jobs judged by the build of before, in the same run: what will be there is worked out and checked besides. */
async function benchAgainstOld() {
  const both = await evaluateOfBoth()
  if (!both) return console.log('  the build of before is not in this copy of the repository, and not measured beside')
  const jobOf = (n: number): Job => {
    const job = newJob2('united-kingdom', 'Bench', '')
    const circuits = Array.from({ length: n }, (_, i) => {
      const c = newCircuit2('united-kingdom', `c${i}`, `Circuit ${i}`)
      const design = { ...c.designs[0]!, accessory: i % 3 ? 'uk-socket-13' : 'uk-fcu', lengthM: 5 + (i % 50) }
      return { ...c, load: { ...c.load, amount: 500 + (i % 40) * 120 }, designs: [design], box: { ...c.box, kind: 'uk-metal-35' } }
    })
    return fromVersion2({ ...job, supply: { ...job.supply, zeOhm: 0.35 }, circuits })
  }
  const changed = (job: Job, amount: number): Job => ({
    ...job,
    circuits: job.circuits.map((c, i) => (i === 5 ? { ...c, load: { ...c.load, amount } } : c)),
  })
  /** Turn about, so that neither has the warmer machine: for so many times just started, and then, warm, for four seconds. */
  const measured = (name: string, times: number, jobs: (turn: number) => readonly [Job, Job]) => {
    const run = (goOn: (turn: number) => boolean, from: number) => {
      const [was, is]: [number[], number[]] = [[], []]
      let turn = from
      for (; goOn(turn); turn++) {
        const [a, b] = jobs(turn)
        const [t0, , t1, , t2] = [now(), both.was(a, []), now(), both.is(b, []), now()]
        was.push(t1 - t0)
        is.push(t2 - t1)
      }
      return { turn, was: median(was.slice(was.length / 10)), is: median(is.slice(is.length / 10)) }
    }
    const began = run((turn) => turn < times, 0)
    const until = now() + 4000
    const warm = run(() => now() < until, began.turn)
    for (const [when, { was, is }] of [
      ['just started', began],
      ['warm', warm],
    ] as const)
      line(`  ${name}, against the build of before, ${when}`, `${(is / was).toFixed(2)} ×`, `${is.toFixed(2)} ms, was ${was.toFixed(2)} ms`)
  }
  for (const n of [10, 100, 1000]) {
    const job = jobOf(n)
    measured(`${n} circuits`, Math.max(15, 2000 / n), () => [cold(job), cold(job)])
    measured('one edit of them', 400, (turn) => [changed(job, 1000 + turn / 10), changed(job, 1000 + turn / 10)])
  }
}

/** What a large survey weighs: 300 points, 400 observations. */
function benchSize() {
  const job = bigJob(1)
  for (let i = 0; i < 300; i++) job.points.push(newPoint(`p${i}`, `Point ${i}`, { state: 'existing' }))
  for (let i = 0; i < 40; i++) job.ways.push(newWay(`w${i}`, `Way ${i}`))
  for (let i = 0; i < 400; i++) {
    const dead = Array.from({ length: 8 }, (_, k) => `p${(i * 8 + k) % 300}`)
    const seen = { kind: 'breaker-off' as const, breaker: `w${i % 40}`, dead }
    job.observations.push({ id: `o${i}`, at: '2026-11-20T08:00:00.000Z', instrument: 'contact', withdrawn: false, seen, later: [] })
  }
  line('  a job of 300 points and 400 observations', `${(JSON.stringify(job).length / 1000).toFixed(0)} kB`, 'aim: under 1000 kB')
  const { patches } = applyEdit(bigJob(400), { kind: 'load.set', circuit: 'c50', patch: { amount: 77 } })
  line('  the answer to an edit at 400 circuits, its patches', `${JSON.stringify(patches).length} bytes`, 'was 906 kB, the job')
}

function benchCalculators() {
  console.log('\nCalculators, inputs a second, validation included')
  const cases: Record<string, string> = {
    ampacity: 'ampacity.north-america',
    'voltage-drop': 'voltage-drop.united-kingdom',
    'select-circuit': 'select-circuit.united-kingdom',
    'box-fill': 'box-fill',
    'fault-loop': 'fault-loop.united-kingdom',
  }
  for (const [name, file] of Object.entries(cases)) {
    const inputs = (JSON.parse(readFileSync(`tests/vectors/${file}.json`, 'utf8')) as { input: unknown }[]).map((c) => c.input)
    const many = Array.from({ length: 2000 }, (_, i) => inputs[i % inputs.length])
    const parse = time(() => many.forEach((one) => calculators[name]!.input.safeParse(one)), 5)
    const all = time(() => many.forEach((one) => calculateOne(calculators[name]!, one)), 5)
    line(`  ${name}`, `${Math.round((many.length / all) * 1000)} /s`, `${(all / parse).toFixed(2)} × zod parsing alone`)
  }
}

/** Traces a hidden house by the first suggestion each time; tests needed and the slowest suggestion in milliseconds. */
function traceHouse(house: House, known: 'nothing' | 'as opened' | 'all cables'): { tests: number; slowest: number } {
  const observations: Observation[] =
    known === 'all cables' ? house.points.map((point) => ({ kind: 'cables', point, onward: onwardCables(house, point) })) : []
  for (let tests = 0, slowest = 0; ; tests++) {
    const start = now()
    const out = trace({ breakers: [...house.breakers], points: [...house.points], observations })
    slowest = Math.max(slowest, now() - start)
    const next = out.nextTests[0]
    if (!next) return { tests, slowest }
    observations.push(...answer(house, next.test, known === 'as opened'))
  }
}

/** Every breaker in turn, or every box, and then the rest; stopped as soon as everything is proved. */
function inTurn(house: House, first: 'breakers' | 'boxes'): number {
  const off = house.breakers.map((breaker) => ({ kind: 'breaker-off' as const, breaker }))
  const parted = house.points.map((point) => ({ kind: 'disconnected' as const, point }))
  const observations: Observation[] = []
  for (const test of first === 'breakers' ? [...off, ...parted] : [...parted, ...off]) {
    if (trace({ breakers: [...house.breakers], points: [...house.points], observations }).nextTests.length === 0) break
    observations.push(...answer(house, test))
  }
  return observations.length
}

function benchTrace() {
  console.log('\nTrace, 200 generated houses each: tests needed against the fewest that would prove the layout')
  const all: number[] = []
  const average = (list: number[]) => list.reduce((sum, x) => sum + x, 0) / list.length
  for (const [breakers, points] of [
    [4, 12],
    [8, 16],
    [6, 24],
    [10, 10],
  ] as const) {
    const houses = Array.from({ length: 200 }, (_, seed) => makeHouse(seed, breakers, points))
    const mean = (of: (h: House) => number) => houses.reduce((sum, h) => sum + of(h), 0) / houses.length
    const ratios = houses.map((h) => traceHouse(h, 'nothing').tests / fewestTests(h))
    all.push(...ratios)
    const plain = mean((h) => traceHouse(h, 'nothing').tests)
    const aim = points >= 2 * breakers ? 'aim: at most 1.15' : ''
    line(`  ${points} points on ${breakers} breakers`, `${average(ratios).toFixed(2)} ×`, aim)
    line(
      '    cables counted in each box as it is opened',
      `${(100 * (1 - mean((h) => traceHouse(h, 'as opened').tests) / plain)).toFixed(0)} % fewer`,
    )
    line(
      '    cables counted everywhere first',
      `${(100 * (1 - mean((h) => traceHouse(h, 'all cables').tests) / plain)).toFixed(0)} % fewer`,
      'aim: at least 25 %',
    )
    line('    plainly: each breaker in turn, then each box', `${mean((h) => inTurn(h, 'breakers') / fewestTests(h)).toFixed(2)} ×`)
    line('    plainly: each box in turn, then each breaker', `${mean((h) => inTurn(h, 'boxes') / fewestTests(h)).toFixed(2)} ×`)
  }
  line('  all of them', `${average(all).toFixed(2)} ×`, 'aim: at most 1.25')
  const slowest = Math.max(...[1, 2, 3].map((seed) => traceHouse(makeHouse(seed, 20, 60), 'nothing').slowest))
  line('  slowest suggestion, 60 points on 20 breakers', `${slowest.toFixed(0)} ms`, 'aim: within 300 ms')
}

/** One box miscounted at 200 points on 40 breakers, here and there: what an edit waits for while a trace contradicts itself. */
function benchContradictions() {
  const slow: number[] = []
  for (let seed = 1; seed <= 10; seed++) {
    const house = makeHouse(seed, 40, 200)
    const seen = [
      ...house.breakers.flatMap((b) => answer(house, { kind: 'breaker-off', breaker: b }, true)),
      ...house.points.flatMap((p) => answer(house, { kind: 'disconnected', point: p }, true)),
    ]
    for (let k = 0; k < 10; k++) {
      const i = seen.findIndex((o, n) => n >= k * 30 && o.kind === 'cables')
      const wrong = seen.map((o, n) => (n === i && o.kind === 'cables' ? { ...o, onward: o.onward + 1 } : o))
      const start = now()
      deduce({ breakers: [...house.breakers], points: [...house.points], observations: wrong })
      slow.push(now() - start)
    }
  }
  const p99 = slow.toSorted((a, b) => a - b)[Math.floor(slow.length * 0.99)]!
  line('  a contradiction, 200 points on 40 breakers, p99', `${p99.toFixed(0)} ms`, 'aim: under 300 ms')
}

/** A house of twelve rooms on two storeys, with an attic and a crawl space. */
function benchRoute() {
  console.log('\nRoute')
  const rooms = Array.from({ length: 12 }, (_, i) => {
    const [floor, n] = [Math.floor(i / 6), i % 6]
    return { id: `r${i}`, floor, lengthM: 4, widthM: 4, heightM: 2.5, at: [(n % 3) * 4, Math.floor(n / 3) * 4] }
  })
  const input = routeInput.parse({
    building: {
      rooms,
      points: [{ id: 'p', room: 'r11', side: 'north', atM: 3, heightM: 0.4 }],
      boards: [{ id: 'b', room: 'r0', side: 'west', atM: 1, heightM: 1.5 }],
      walls: { kind: 'timber', studM: 0.4 },
      attic: { headM: 1.2, hot: true },
      crawl: { headM: 0.6 },
    },
    from: { board: 'b' },
    to: [{ point: 'p' }],
  })
  const once = route({ ...input, graph: false, alternatives: 1 })
  line('  three ways, as the page asks for them', `${time(() => route({ ...input, graph: false }), 9).toFixed(0)} ms`)
  const sizes: { readonly nodes: number; readonly ms: number }[] = []
  for (const gridM of [0.16, 0.07, 0.045, 0.0235]) {
    const building = { ...input.building, gridM }
    const asked = { ...input, building, graph: false, alternatives: 1 }
    const rooms = placed(building)
    // Each time another building, as far as anybody kept the last one.
    let n = 0
    const anew = () => ({ ...asked, building: { ...building, gridM: gridM + 1e-9 * ++n } })
    const whole = time(() => route(anew()), 5)
    const again = time(() => route(asked), 5)
    // What somebody moves in the attic: all its ways are built again, and searched.
    const duct = () => ({ id: 'duct', space: 'attic' as const, room: 'r9', eastM: 1 + (++n % 50) / 100, northM: 1, lengthM: 1, widthM: 1 })
    const moved = time(() => route({ ...asked, building: { ...building, obstacles: [duct()] } }), 9)
    const ways = waysOf(building, rooms, input.weights)
    const near = adjacencyOf(ways)
    const [from, to] = [ways.of.get('b')!, ways.of.get('p')!]
    const memory = process.memoryUsage().heapUsed
    const search = time(() => cheapest(ways, near, from, new Set([to])), 9)
    // What somebody forbids on the plan: the graph stays, only what may be walked changes.
    const barred = ways.label.findIndex((l) => ways.labels[l]!.kind === 'top-plates')
    const around = time(() => cheapest(ways, near, from, new Set([to]), (i) => (i === barred ? Infinity : ways.cost[i]!)), 9)
    sizes.push({ nodes: ways.nodes, ms: search })
    const plain = createGraph<undefined, number>()
    for (let n = 0; n < ways.nodes; n++) plain.addNode(n)
    for (let i = 0; i < ways.edges; i++) plain.addLink(ways.a[i]!, ways.b[i]!, ways.cost[i]!)
    const finder = aStar(plain, {
      distance: (_a, _b, link) => link.data,
      heuristic: (a, b) =>
        distance(placeAt(ways, a.id as number), placeAt(ways, b.id as number)) * Math.min(near.least.aside, near.least.upright),
    })
    const other = time(() => finder.find(from, to), 3)
    const path = finder.find(from, to)
    const cost = path.slice(1).reduce((sum, n, i) => sum + Math.min(...linksOf(plain, path[i]!.id, n.id)), 0)
    const own = cheapest(ways, near, from, new Set([to]))!.cost
    line(
      `  ${ways.nodes} nodes, ${ways.edges} edges`,
      `${search.toFixed(1)} ms`,
      `${(other / search).toFixed(1)} × faster than a package, costs differ by ${Math.abs(cost - own).toExponential(1)}; ` +
        `one barred ${around.toFixed(1)} ms; with the building ${whole.toFixed(0)} ms, ` +
        `an obstacle moved ${moved.toFixed(0)} ms, asked again ${again.toFixed(0)} ms; ${(memory / 2 ** 20).toFixed(0)} MB`,
    )
  }
  const [a, b] = [sizes[0]!, sizes.at(-1)!]
  line('  growth exponent of the search', (Math.log(b.ms / a.ms) / Math.log(b.nodes / a.nodes)).toFixed(2), 'aim: at most 1.3')
  if (once.routes.length === 0) throw new Error('No way was found.')
}
/** Wiring as it branches: conductors in a tree of boxes with a few rings, and a load at every tenth node. */
function wired(nodes: number): NetworkInput {
  const elements: Element[] = []
  for (let i = 0; i < nodes; i++) {
    const up = i === 0 ? 'L' : `n${i % 7 === 0 ? Math.floor(i / 2) : i - 1}`
    elements.push({ id: `w${i}`, kind: 'wire', a: up, b: `n${i}`, ohm: 0.01 + (i % 13) / 1000 })
    if (i % 50 === 49) elements.push({ id: `r${i}`, kind: 'wire', a: `n${i}`, b: `n${i - 31}`, ohm: 0.02 })
    if (i % 10 === 9) elements.push({ id: `l${i}`, kind: 'impedance', a: `n${i}`, b: 'N', ohm: 400 + i, reactanceOhm: 0 })
  }
  const supply = { system: 'single-phase', volts: 230, frequencyHz: 50, sourceOhm: 0.1, earthing: 'tn' } as const
  return { supply, elements, probes: [] }
}
/** The same system as a dense matrix of conductances, solved by a general mathematics package. */
function dense({ supply, elements }: NetworkInput): { readonly solve: () => number[]; readonly names: string[] } {
  const names = [...new Set(elements.flatMap((e) => ('a' in e ? [e.a, e.b] : [])))]
  const at = new Map(names.map((n, i) => [n, i]))
  const g = names.map(() => names.map(() => 0))
  const driven = names.map(() => 0)
  const branch = (a: number, b: number | null, ohm: number) => {
    g[a]![a]! += 1 / ohm
    if (b === null) return
    g[b]![b]! += 1 / ohm
    g[a]![b]! -= 1 / ohm
    g[b]![a]! -= 1 / ohm
  }
  for (const e of elements) if (e.kind === 'wire' || e.kind === 'impedance') branch(at.get(e.a)!, at.get(e.b)!, e.ohm!)
  branch(at.get('L')!, null, supply.sourceOhm)
  branch(at.get('N')!, null, supply.sourceOhm)
  driven[at.get('L')!] = supply.volts / supply.sourceOhm
  return { names, solve: () => (lusolve(g, driven) as number[][]).map((x) => x[0]!) }
}

function benchNetwork() {
  console.log('\nNetwork')
  const sizes = [100, 1000, 10_000].map((n) => ({ n, input: wired(n), ms: 0 }))
  // In turn, so that warming up does not pass for growth.
  for (const s of sizes) network(s.input)
  for (const s of sizes.toReversed()) s.ms = time(() => network(s.input), s.n > 5000 ? 5 : 15)
  for (const { n, ms } of sizes) line(`  solved once, ${n} nodes`, `${ms.toFixed(1)} ms`)
  const [small, , large] = sizes
  line('  growth exponent, 100 to 10,000', (Math.log(large!.ms / small!.ms) / Math.log(100)).toFixed(2), 'aim: at most 1.2')
  const middle = sizes[1]!
  const { names, solve } = dense(middle.input)
  const start = now()
  const other = solve()
  const ms = now() - start
  const ours = network(middle.input).nodes
  const apart = Math.max(...names.map((name, i) => Math.abs(ours[name]! - Math.abs(other[i]!))))
  line('  dense LU of mathjs on 1,000 nodes', `${ms.toFixed(0)} ms`, `${(ms / middle.ms).toFixed(0)} x ours; aim: 30 x`)
  line('  agree to', apart.toExponential(1), 'aim: 1e-9 of 230 V')
  for (const d of demoJobs.slice(0, 3)) {
    const job = read(d.edits.reduce((j, e) => applyEdit(j, e).job, newJob(d.region, d.title, d.place)))
    const report = evaluate(job, [])
    const made = time(() => houseOf(job, report.circuits, noTrial))
    const house = houseOf(job, report.circuits, noTrial)
    const solved = time(() => liveOf(house))
    line(`  ${d.title}: wiring put together, solved`, `${made.toFixed(1)} + ${solved.toFixed(1)} ms`, 'aim: within 16 ms')
  }
}

/** Every mistake of a chain of forty points tried. */
function benchCampaign() {
  console.log('\nMistakes')
  const circuit = 'c1'
  const points = Array.from({ length: 40 }, (_, i) => ({ id: `p${i}`, name: `P${i}`, lengthM: 3, from: i ? `p${i - 1}` : null, watts: 50 }))
  const edits: Edit[] = [
    { kind: 'load.set', circuit, patch: { name: 'x', volts: 230, basis: 'watts', amount: 2000, connection: 'plug' } },
    { kind: 'circuit-point.add', circuit, points },
    { kind: 'design.set', circuit, design: 'a', patch: { accessory: 'uk-socket-13' } },
  ]
  const job = read(edits.reduce((j, e) => applyEdit(j, e).job, newJob('united-kingdom', 'Chain', '')))
  const report = evaluate(job, []).circuits[0]!
  const wiring = wiringOf(job, report)!
  const start = now()
  const { tried } = campaign(wiring, report.tests)
  const ms = now() - start
  line(`  ${tried.length} mistakes on 40 points`, `${ms.toFixed(0)} ms`, 'aim: under 2 s')
  // The same verdicts with nothing kept from one reading to the next: a wiring that nobody asked of before for each.
  const some = mistakesOf(wiring).filter((_, i) => i % 20 === 0)
  const same = new Map(tried.map((t) => [t.id, t]))
  const begun = now()
  for (const m of some) {
    const places = alteredBy(wiring, m)
    const { effect } = effectOf({ ...wiring }, m.difference, places, loadedAt(wiring, m))
    const caughtBy = report.tests.flatMap((t) => {
      const shown = shownBy({ ...wiring }, m.difference, t, places)
      return shown !== null && !meets(t, shown) ? [t.id] : []
    })
    if (effect !== same.get(m.id)!.effect || caughtBy.join() !== same.get(m.id)!.caughtBy.join())
      throw new Error(`${m.id} is told otherwise.`)
  }
  const afresh = ((now() - begun) * tried.length) / some.length
  line('  each reading solved afresh', `${afresh.toFixed(0)} ms`, `${(afresh / ms).toFixed(1)} x ours, the same verdicts; aim: 10 x`)
}

/** A day of sixty tasks for four people, one of whom helps and one of whom leaves early, two windows, and supplies that must hold. */
function bigDay(): DayPlanInput {
  const tasks = Array.from({ length: 10 }, (_, c) => {
    const of = (kind: string) => `${kind} ${c}`
    const hold = c < 4 ? [`back on ${Math.floor(c / 2)}`] : []
    return [
      { id: of('run'), minutes: 30 + 5 * (c % 5), power: 'any' as const },
      { id: of('box'), minutes: 15, power: 'any' as const, after: [of('run')] },
      { id: of('fit'), minutes: 20, skilled: 1, power: 'any' as const, after: [of('box')] },
      {
        id: of('board'),
        minutes: 15,
        skilled: 1,
        power: 'off' as const,
        after: [of('fit'), ...(c >= 2 && c < 4 ? ['back on 0'] : []), ...(c >= 4 ? ['back on 1'] : [])],
      },
      { id: of('live'), minutes: 10, skilled: 1, power: 'on' as const, after: [of('board'), ...hold] },
      { id: of('label'), minutes: 5, power: 'any' as const, after: [of('live')] },
    ]
  }).flat()
  // The supply is back between lots, so that a freezer and an alarm recover; plaster and a meter come at their hours.
  const backOn = [0, 1].map((k) => ({
    id: `back on ${k}`,
    minutes: 10,
    power: 'on' as const,
    after: [2 * k, 2 * k + 1].map((c) => `board ${c}`),
  }))
  const windows = [
    { id: 'plaster', minutes: 60, power: 'any' as const, earliestMin: 540, latestMin: 640 },
    { id: 'meter', minutes: 30, power: 'on' as const, earliestMin: 660, latestMin: 720 },
  ]
  const { tasks: whole, ...rest } = dayPlanInput.parse({
    startMin: 480,
    crew: 4,
    skilled: 3,
    away: [{ fromMin: 720, toMin: 1440, crew: 1, skilled: 1 }],
    tasks: [],
  })
  return { ...rest, tasks: [...whole, ...[...tasks.slice(0, 56), ...backOn, ...windows].map((t) => ({ crew: 1, after: [], ...t }))] }
}

async function benchDay() {
  console.log('\nDay')
  const input = bigDay()
  const start = now()
  const plan = await dayPlan(input)
  const ms = now() - start
  const clockOf = (min: number) => `${Math.floor(min / 60)}:${String(Math.round(min % 60)).padStart(2, '0')}`
  line(`  ${input.tasks.length} tasks, four people`, `${(ms / 1000).toFixed(1)} s`, 'aim: under 5 s')
  for (const tasks of [input.tasks.slice(0, 15), input.tasks.slice(0, 30)]) {
    // Wanted at once, and no task whole in five minutes: the solver has many slots to read.
    const odd = tasks.map((t) => ({ ...t, minutes: t.minutes + 1, after: t.after.filter((a) => tasks.some((x) => x.id === a)) }))
    const begun = now()
    await dayPlan({ ...input, tasks: odd, seconds: 0.8 })
    line(`  ${tasks.length} tasks in 0.8 s`, `${((now() - begun) / 1000).toFixed(2)} s`, 'aim: under 1 s')
  }
  if (plan.findings[0]) return line('  no plan', plan.findings[0].message)
  const { bound } = plan
  line(
    '  ends',
    clockOf(plan.finishMin),
    bound ? `no plan before ${clockOf(bound.finishMin)}: a gap of ${plan.finishMin - bound.finishMin} min` : 'proved',
  )
  line('  off', `${plan.outageMin} min`, bound ? `no plan under ${bound.outageMin} min` : 'proved')
  // As a list is worked off: each task in turn where it first goes, longest way to the end first.
  const plain = planByRule(dayOf(input), () => true)
  if (plain) {
    line('  by a plain list', clockOf(plain.finishMin), `ours ends ${plain.finishMin - plan.finishMin} min earlier`)
    line('  by a plain list, off', `${plain.outageMin} min`, `ours is off ${plain.outageMin - plan.outageMin} min less`)
  }
}

const linksOf = (graph: Graph<undefined, number>, from: NodeId, to: NodeId): number[] => {
  const costs: number[] = []
  graph.forEachLinkedNode(from, (n, link) => void (n.id === to && costs.push(link.data)), false)
  return costs
}

const parts: Record<string, () => unknown> = {
  evaluate: benchEvaluate,
  before: benchAgainstOld,
  size: benchSize,
  calculators: benchCalculators,
  trace: benchTrace,
  contradictions: benchContradictions,
  route: benchRoute,
  network: benchNetwork,
  mistakes: benchCampaign,
  day: benchDay,
  kept: () => benchKept(line),
}
const served: Record<string, (to: typeof line) => unknown> = { ...serverParts, pages: benchPages }

/** `npm run bench` measures everything, `npm run bench -- papers edits` those parts alone. */
const asked = process.argv.slice(2)
const unknown = asked.filter((name) => !(name in parts || name in served))
if (unknown.length)
  throw new Error(`Nothing is measured by the name ${unknown.join(', ')}; there are ${Object.keys({ ...parts, ...served }).join(', ')}`)
const wanted = (name: string) => asked.length === 0 || asked.includes(name)

console.log(`Node ${process.version}`)
for (const [name, measure] of Object.entries(parts)) if (wanted(name)) await measure()
const onServer = Object.entries(served).filter(([name]) => wanted(name))
if (onServer.length) console.log('\nServer')
if (onServer.length && !existsSync('.next/BUILD_ID')) console.log('  Build the application first (npm run demo) to measure the server.')
else for (const [, measure] of onServer) await measure(line)
