import { accessory } from '../catalogue/accessories'
import type { Finding } from '../base/finding'
import { listed } from '../base/finding'
import { grouped } from '../base/grouped'
import { cablesAt } from '../installation/cables-at'
import { boxOf, boxPoints, type Box, unitsAhead } from '../build/box'
import { isSwitched, planOf } from '../build/carries'
import { type BoxContents, evaluateBox, wettestOf, widthsOf } from '../build/choose-box'
import { fittedAt } from '../design/endings'
import { doneSteps, stepIds } from '../build/steps'
import { areaMm2 } from '../design/prices'
import type { Installation } from '../installation/installation'
import { newBox } from '../job/box'
import type { PlacedPoint } from '../job/point'
import { once, sameParts } from '../base/memory'
import { wiringFindings } from '../wired/judge'
import {
  type CircuitReport,
  countOf,
  type DesignedCircuit,
  type EndReport,
  leftToTest,
  type OpenItem,
  partedOf,
  placedAt,
  type PlacedFinding,
} from '../report/report'

/* The boxes of each circuit: built, filled, wired; what is wrong with them and what is left to do. */

const byBox = once((points: Installation['points']) => grouped(points, (p) => p.box.id))
/** Other points in the box of a point. */
const standsWith = (job: Installation, point: PlacedPoint): Installation['points'] =>
  (byBox(job.points).get(point.box.id) ?? []).filter((p) => p.id !== point.id)

const memory = new WeakMap<DesignedCircuit, { readonly parts: readonly unknown[]; readonly report: CircuitReport }>()

/** Each circuit with its boxes. One whose design and whose boxes are as before keeps its report. */
export function withBoxes(job: Installation, designed: readonly DesignedCircuit[]): readonly CircuitReport[] {
  const of = new Map(designed.map((d) => [d.circuit.id, d]))
  const { schools, environment } = job.brief
  return designed.map((d) => {
    const { circuit } = d
    // Other circuits whose cables come into its boxes, and the place it begins at.
    const others = boxPoints(d).flatMap((p) => [
      ...cablesAt(job, p.id).flatMap((k) => (k.circuit === circuit.id || k.circuit === null ? [] : [of.get(k.circuit)])),
      // And circuits of what else is in them.
      ...standsWith(job, p).flatMap((o) => [o, of.get(job.circuitOfPoint.get(o.id) ?? '')]),
    ])
    const from = circuit.cables.flatMap((k) => (k.from.kind === 'point' ? [job.points.find((p) => p.id === k.from.id)?.name] : []))
    const parts = [schools, environment, ...others, ...from]
    const hit = memory.get(d)
    if (hit && sameParts(hit.parts, parts)) return hit.report
    const report = built(job, of, d)
    memory.set(d, { parts, report })
    return report
  })
}

function built(job: Installation, of: ReadonlyMap<string, DesignedCircuit>, designed: DesignedCircuit): CircuitReport {
  const { circuit, untested } = designed
  const points = boxPoints(designed)
  const ends = points.length ? points.map((p) => endOf(job, of, designed, p, points.length > 1)) : [noBox(job, designed)]
  const boxes = [...new Map(ends.flatMap((e) => (e.built ? [[e.built.id, e.built] as const] : []))).values()]
  const findings: PlacedFinding[] = [
    ...designed.findings,
    ...together(
      ends.flatMap((e) => (e.lead ? e.boxReport.findings : []).map((f) => ({ where: e.where, point: e.points[0], f }))),
      ({ f }) => `${f.rule} ${f.message}`,
    ).map(({ items, where }) => placedAt(aboutBox(items[0]!.f, where, items[0]!.point), 'boxes', circuit.id)),
    ...wiringFindings(job, designed, boxes).map((f) => placedAt({ ...f, about: `point:${f.point}` }, 'wiring', circuit.id)),
  ]
  const open: OpenItem[] = [
    ...designed.open,
    ...(circuit.kind === 'feeder' ? [] : [...unswitched(job, designed), ...leftToDo(circuit.id, ends)]),
  ]
  const said = {
    findings: partedOf(findings),
    open: partedOf([...open, ...leftToTest(circuit.id, untested)]),
    counts: countOf(findings),
  }
  const { upstream, designs, chosen, tests } = designed
  return { circuit, upstream, designs, chosen, ends, tests, untested, testReport: untested, said, findings, open }
}

const aboutBox = (f: Finding, where: string, point: string | undefined): Finding =>
  where && point ? { ...f, message: `${where}: ${f.message}`, about: `point:${point}` } : f

/** What is said of several boxes alike is said once, with all their names. */
function together<T extends { readonly where: string }>(items: readonly T[], key: (item: T) => string) {
  return [...grouped(items, key).values()].map((list) => ({
    items: list,
    where: listed(list.map((x) => x.where).filter(Boolean), 6, '; '),
  }))
}

/** New lights that no switch turns on and off. */
function unswitched(job: Installation, designed: DesignedCircuit): OpenItem[] {
  const places = [...planOf(job.region, designed).places.values()]
  const lights = places.filter(
    (p) =>
      p.fitted?.kind === 'light' &&
      p.point.state === 'new' &&
      p.point.kind === 'light' &&
      p.fitted.pattern !== 'shaver' &&
      !isSwitched(p.line) &&
      !p.point.mustHold,
  )
  const [first] = lights
  if (!first) return []
  const names = listed(
    lights.map((p) => p.point.name || designed.circuit.name),
    6,
    '; ',
  )
  return [
    {
      stage: 'circuit',
      circuit: designed.circuit.id,
      field: 'points',
      ask: `${names}: which switch turns it on?`,
      about: `point:${first.point.id}`,
    },
  ]
}

function leftToDo(circuit: string, ends: readonly EndReport[]): OpenItem[] {
  const item = (stage: OpenItem['stage'], field: string, ask: string, about: string | undefined): OpenItem =>
    about ? { stage, circuit, field, ask, about: `point:${about}` } : { stage, circuit, field, ask }
  const named = (where: string, ask: string) => (where ? `${where}: ${ask}` : `${ask[0]!.toUpperCase()}${ask.slice(1)}`)
  const without = together(
    ends
      .filter((e) => e.lead && e.box.kind === null && !e.box.planned && !e.box.measured)
      .map((e) => ({ where: e.where, point: e.points[0], name: e.fitted?.name ?? '' })),
    (e) => e.name,
  )
  const unfitted = ends.some((e) => !e.joint && !e.fitted)
  const wiring = together(
    ends.flatMap((e) => {
      const left = !e.lead || e.joint || !e.fitted ? 0 : e.steps.length - e.done.length
      return left ? [{ where: e.where, point: e.points[0], ask: `${left} of ${e.steps.length} wiring steps to do` }] : []
    }),
    (e) => e.ask,
  )
  return [
    ...without.map(({ items, where }) =>
      item('boxes', 'kind', named(where, 'which box does it go in?'), where ? items[0]!.point : undefined),
    ),
    ...(unfitted ? [item('wiring', 'accessory', 'Choose the accessory in the circuit stage first', undefined)] : []),
    ...wiring.map(({ items, where }) => item('wiring', 'done', named(where, items[0]!.ask), where ? items[0]!.point : undefined)),
  ]
}

/** A circuit that has no box: a feeder, or one that is not laid. */
const noBox = (job: Installation, { chosen, circuit }: DesignedCircuit): EndReport => ({
  fitted: undefined,
  points: [],
  where: '',
  lead: true,
  built: null,
  joint: false,
  size: chosen.result?.size ?? null,
  cables: 0,
  box: newBox('none'),
  boxReport: evaluateBox(job, newBox('none'), null, wettestOf(job, circuit)),
  steps: [],
  done: [],
})

function endOf(
  job: Installation,
  of: ReadonlyMap<string, DesignedCircuit>,
  designed: DesignedCircuit,
  point: PlacedPoint,
  several: boolean,
): EndReport {
  const { circuit, chosen } = designed
  const box = boxOf(job, of, designed, point)
  const fitted = fittedAt(chosen.design, point)
  const entering = box.cables.filter((k) => k.side !== 'load').length
  const lead = box.points[0]?.id === point.id
  const steps = box.points.some((p) => p.fitted) ? stepIds(box) : []
  const contents = contentsOf(job, designed, box, point)
  const here = new Set(box.points.map((p) => p.id))
  const beside = here.size > 1 ? job.points.filter((p) => here.has(p.id)) : [point]
  return {
    fitted,
    points: [point.id],
    where: several ? point.name : '',
    lead,
    built: box,
    joint: point.kind === 'box',
    size: contents?.size ?? chosen.result?.size ?? null,
    cables: entering + point.box.others,
    box: point.box,
    boxReport: evaluateBox(job, point.box, contents, wettestOf(job, circuit, beside)),
    steps,
    done: doneSteps(steps, point.box.done),
  }
}

/** What is in a box, counted: each cable that enters it in its own size, those recorded besides, and what is fitted. */
function contentsOf(
  job: Installation,
  { chosen: { result } }: DesignedCircuit,
  box: Box,
  { box: { others: more } }: PlacedPoint,
): BoxContents | null {
  if (box.points.some((p) => !p.fitted && !p.joint) || !result?.size || !result.protectiveSize) return null
  const entering = box.cables.flatMap((k) => {
    // A cord leaves through the accessory; of a cable to the appliance one may be counted by hand already.
    if (k.side === 'load' && (k.size === null || more > 0)) return []
    return [{ size: k.size ?? result.size!, conductors: k.ends.filter((e) => e.conductor.role !== 'pe').length }]
  })
  const usual = entering[0]?.conductors ?? 2
  const cables = [...entering, ...Array.from({ length: more }, () => ({ size: result.size!, conductors: usual }))]
  // The cable that comes to it was taken out: what will fill it is not known.
  if (!cables.length) return null
  const protective = box.cables.flatMap((k) => k.protectiveSize ?? [])
  const ahead = unitsAhead(box)
  const gangs = widthsOf(box.devices.filter((d) => !ahead.includes(d)).map((d) => accessory(d.kind.id)))
  const nameOf = (id: string) => job.points.find((p) => p.id === id)?.name ?? 'A point'
  return {
    fitted: box.points.flatMap((p) => p.fitted ?? []),
    unknown: more > 0 ? [] : box.besides.map(nameOf),
    gangs: [...gangs, ...box.besides.map(() => 1 as const)],
    size: thickest(cables.map((k) => k.size)),
    protectiveSize: thickest([result.protectiveSize, ...protective]),
    cables,
  }
}
const thickest = (sizes: readonly string[]): string => sizes.reduce((most, s) => (areaMm2(s) > areaMm2(most) ? s : most))
