import { metricProtectiveSize, type SelectedCircuit } from '../calculate/select-circuit'
import { protectiveOf } from '../design/protective'
import type { Working } from '../design/working'
import { sentence } from '../job/part'
import type { ExtraTestKind } from '../job/circuit'
import { chosenDesign, type Circuit, type CircuitPoint, type Installation } from '../installation/installation'
import { listed } from '../base/finding'
import { formatOhm, formatSize, trim } from '../base/format'
import { loopLimit } from '../design/loop-limit'
import { r1r2At20 } from '../calculate/fault-loop'
import { runLengthM } from '../design/conditions'
import { allEndsChosen, type Ending, endingsOf, systemOf, whereEnding } from '../design/endings'
import { type GuardingDevice, guardingDevices } from '../design/guards'
import { isMeasured, type LayoutReport, type MeasuredPoint, type PointReport } from '../design/layout'
import { cableM } from '../job/cable'
import { grouped } from '../base/grouped'
import { type CableData, dataOf, metricRegions } from '../region/metric'
import { M_PER_KFT, naAlpha75C, naClauses, naOhmPerKft } from '../region/north-america/awg'
import type { CircuitSystem } from '../region/colours'
import type { RegionId } from '../region/types'
import { worlds } from '../region/worlds'
import { followed } from '../catalogue/schools'
import type { BoxKind } from '../catalogue/boxes'
import { enclosureOf } from '../build/choose-box'

export const phases = ['isolation', 'dead', 'live'] as const
export type Phase = (typeof phases)[number]

/** A step that is done or seen, or a value that is measured against what the design says it should be. */
export type Expectation =
  | { readonly kind: 'confirm' }
  /** It cannot be said what should be read until something is known: a reading is kept and not judged. */
  | { readonly kind: 'unknown'; readonly ask: string }
  | {
      readonly kind: 'range'
      readonly nominal: number | null
      readonly min: number | null
      readonly max: number | null
      readonly tolerance: string
      readonly working: Working | null
    }

export interface Test {
  readonly id: string
  readonly phase: Phase
  readonly title: string
  readonly how: string
  readonly unit: '' | 'Ω' | 'MΩ' | 'V' | 'A' | 'ms'
  readonly expect: Expectation
  readonly clause: string
  /** A test whose absence does not hold the record open. */
  readonly optional?: true
  /** Made at each point of its circuit, where the same is expected, or the loop cold, with or without that of the supply. */
  readonly each?: 'same' | 'cold' | 'zs'
}

/** A point that a test is made at, with what is expected there: nearer the board a loop is less than at the farthest. */
export interface TestPoint {
  readonly id: string
  readonly name: string
  readonly expect: Expectation
}

/** Leads and contacts add up to this; length and temperature are known to about a fifth. */
export const OHM_TOLERANCE = { fixed: 0.05, part: 0.2 }
/** Cold measurements are compared with this part of a limit that is for hot conductors. OSG. */
const COLD_LIMIT_FACTOR = 0.8
/** What a low-impedance tester may still show on a dead circuit, in volts. */
const DEAD_V = 1
/** Neutral to earth at the outlet, volts: more is worth a question. */
const NEUTRAL_EARTH_V = 3

/** Tests that depend on world and wiring system alone are made once; whole jobs of many circuits share them. */
function remembered<K extends string, V>(make: (key: K) => V): (key: K) => V {
  const known = new Map<K, V>()
  return (key) => {
    let value = known.get(key)
    if (value === undefined) known.set(key, (value = make(key)))
    return value
  }
}

const confirm: Expectation = { kind: 'confirm' }

function around(nominal: number, what: string, working: Working): Expectation {
  const spread = OHM_TOLERANCE.fixed + OHM_TOLERANCE.part * nominal
  return {
    kind: 'range',
    nominal,
    min: Math.max(0, nominal - spread),
    max: nominal + spread,
    tolerance: `${what} ± (${OHM_TOLERANCE.fixed} Ω + ${OHM_TOLERANCE.part * 100} %) for leads, contacts and temperature`,
    working,
  }
}

const atMostV = (max: number): Expectation => ({
  kind: 'range',
  nominal: 0,
  min: 0,
  max,
  tolerance: `up to ${max} V is taken as nothing`,
  working: null,
})

interface SupplyBand {
  readonly low: number
  readonly high: number
  readonly clause: string
}
const supplyBands: Record<RegionId, SupplyBand> = {
  'north-america': { low: 0.95, high: 1.05, clause: 'ANSI C84.1 range A, ± 5 %' },
  'united-kingdom': { low: 0.94, high: 1.1, clause: 'Electricity Safety, Quality and Continuity Regulations: 230 V + 10 %, − 6 %' },
  'southern-africa': { low: 0.9, high: 1.1, clause: 'NRS 048: 230 V ± 10 %' },
}

const volts = (region: RegionId, nominal: number): Expectation => voltsByKey(`${region} ${nominal}`)
const voltsByKey = remembered((key: string): Expectation => {
  const [region, volt] = key.split(' ') as [RegionId, string]
  const nominal = Number(volt)
  const band = supplyBands[region]
  return {
    kind: 'range',
    nominal,
    min: nominal * band.low,
    max: nominal * band.high,
    tolerance: `${band.clause}: ${trim(nominal * band.low, 1)} to ${trim(nominal * band.high, 1)} V`,
    working: null,
  }
})

interface Pair {
  readonly id: string
  readonly a: string
  readonly b: string
  readonly liveV: number
}

type Wired = `${RegionId} ${CircuitSystem}`
/** What comes to the points: of two lines with a shared neutral both, and in a feeder too, whatever is at one of them. */
function wiredOf(job: Installation, circuit: Circuit, endings: readonly Ending[] = endingsOf(circuit, chosenDesign(circuit))): Wired {
  return `${job.region} ${systemOf(job.region, circuit, endings)}`
}
const readWired = (wired: Wired) => wired.split(' ') as [RegionId, CircuitSystem]

/** Every pair of conductors at the point, and the voltage between them when live. */
const pairs = remembered((wired: Wired): readonly Pair[] => {
  const [region, system] = readWired(wired)
  const { line, neutral, protectiveVerb: earth } = worlds[region].words
  const pair = (id: string, a: string, b: string, liveV: number): Pair => ({ id, a, b, liveV })
  if (system === 'line-neutral') {
    const liveV = worlds[region].lineV
    return [pair('l-n', line, neutral, liveV), pair('l-e', line, earth, liveV), pair('n-e', neutral, earth, 0)]
  }
  const lineLine = [
    pair('l1-l2', `${line} 1`, `${line} 2`, 240),
    pair('l1-e', `${line} 1`, earth, 120),
    pair('l2-e', `${line} 2`, earth, 120),
  ]
  if (system === 'line-line') return lineLine
  return [...lineLine, pair('l1-n', `${line} 1`, neutral, 120), pair('l2-n', `${line} 2`, neutral, 120), pair('n-e', neutral, earth, 0)]
})

const isolationClause: Record<RegionId, string> = {
  'north-america': 'NFPA 70E 120.5; OSHA 1910.147 and 1910.333',
  'united-kingdom': 'Electricity at Work Regulations reg. 12 to 14; HSE GS38 for test leads',
  'southern-africa': 'Occupational Health and Safety Act; Electrical Installation Regulations; SANS 10142-1',
}

type ProtectiveLoop = Working & { ohm: number }

/** The point farthest from the board: by its loop, or by the cable to it where the loop is not asked for. */
const farthest = (layout: LayoutReport | null): MeasuredPoint | null =>
  layout?.points.filter(isMeasured).toSorted((a, b) => (b.loopOhm ?? b.distanceM) - (a.loopOhm ?? a.distanceM))[0] ?? null
const lengthsKnown = (layout: LayoutReport | null): boolean => layout === null || layout.measured
const unknownLength: Expectation = { kind: 'unknown', ask: 'the length of every cable of the circuit' }

/** Line and protective conductor there and back, at 20 °C, worked out from the run as designed; to one of several points. */
function protectiveLoop(job: Installation, circuit: Circuit, r: SelectedCircuit, far: MeasuredPoint | null): ProtectiveLoop {
  const design = chosenDesign(circuit)
  const { metric } = worlds[job.region]
  if (far?.loopOhm != null && metric) return loopToPoint(dataOf(metric, design.cable), far)
  const lengthM = far?.distanceM ?? runLengthM(circuit, design)!
  if (metric === null) {
    const factor = 1 + naAlpha75C[design.conductor] * 55
    const line = naOhmPerKft(design.conductor, r.size!)!
    const ground = naOhmPerKft('copper', r.protectiveSize!)!
    const ohm = ((line / factor + ground / (1 + naAlpha75C.copper * 55)) * lengthM) / M_PER_KFT
    return {
      ohm,
      title: 'Line and ground joined at the panel, read at the outlet',
      result: formatOhm(ohm),
      formula: '(R line + R ground) × L, brought from 75 °C to 20 °C',
      numbers: `(${line} + ${ground}) Ω/kft / ${trim(factor, 3)} × ${trim(lengthM, 2)} m / ${M_PER_KFT} = ${trim(ohm, 4)} Ω`,
      inputs: [
        { name: `Line ${r.size}`, value: `${line} Ω/kft at 75 °C` },
        { name: `Ground ${r.protectiveSize}`, value: `${ground} Ω/kft at 75 °C` },
      ],
      clauses: [naClauses.resistance, 'Chapter 9 Table 8 note 2'],
    }
  }
  const protective = metricProtectiveSize(metric, design.cable, r.size!)
  const data = dataOf(metric, design.cable)
  const ohm = r1r2At20(data, r.size!, protective, lengthM)
  const [r1, r2] = [data.milliOhmPerMetre20C[r.size!]!, data.milliOhmPerMetre20C[protective]!]
  return {
    ohm,
    title: 'R1 + R2',
    result: formatOhm(ohm),
    formula: '(r1 + r2) × L / 1000 at 20 °C',
    numbers: `(${r1} + ${r2}) mΩ/m × ${trim(lengthM, 2)} m / 1000 = ${trim(ohm, 4)} Ω`,
    inputs: [
      { name: `Line ${formatSize(r.size!)}`, value: `${r1} mΩ/m` },
      { name: `Protective ${formatSize(protective)}`, value: `${r2} mΩ/m` },
    ],
    clauses: [data.resistanceClause],
  }
}

/** To one of several points: what the layout found hot, brought to 20 °C. */
function loopToPoint(data: CableData, far: MeasuredPoint): ProtectiveLoop {
  const ohm = far.loopOhm! / data.operatingMultiplier
  return {
    ohm,
    title: `R1 + R2 at ${far.point.name}`,
    result: formatOhm(ohm),
    formula: `the loop hot, as designed, / ${data.operatingMultiplier.toFixed(2)}`,
    numbers: `(${far.loopWords}) / ${data.operatingMultiplier} = ${trim(ohm, 4)} Ω`,
    inputs: [{ name: 'Along the cable', value: `${trim(far.distanceM, 2)} m` }],
    clauses: [data.resistanceClause],
  }
}

/** One cable of a ring, from socket to socket or to the board. */
interface RingLeg {
  readonly lengthM: number
  readonly line: string
  readonly protective: string
}
/** The legs of a ring in their own sizes; `measured` where every length is known. */
function ringLegs(
  circuit: Circuit,
  r: SelectedCircuit,
): { readonly legs: readonly RingLeg[]; readonly measured: boolean; readonly lengthM: number } {
  const inRing = new Set(circuit.points.filter((p) => p.from === null).map((p) => p.id))
  const cables = circuit.cables.filter((k) => k.state !== 'removed' && (k.to.kind !== 'point' || inRing.has(k.to.id)))
  const { cable } = chosenDesign(circuit)
  const legs = cables.map((k): RingLeg => {
    const line = k.size ?? r.size!
    return { lengthM: cableM(k) ?? 0, line, protective: protectiveOf('united-kingdom', cable, r, k.size)! }
  })
  return { legs, measured: cables.every((k) => cableM(k) !== null), lengthM: legs.reduce((n, l) => n + l.lengthM, 0) }
}
const milliOhm = (size: string): number => metricRegions['united-kingdom'].usual.milliOhmPerMetre20C[size]!

/**
 * Of a ring, before it is joined in the board: each conductor end to end, then, with line joined to the other end's neutral and to its
 * protective conductor, every socket in the ring, where all read alike. BS 7671 643.2.1; OSG, continuity of ring final circuits.
 */
function ringTests(circuit: Circuit, r: SelectedCircuit): Test[] {
  const { legs, measured, lengthM } = ringLegs(circuit, r)
  const sum = (of: (l: RingLeg) => number) => legs.reduce((n, l) => n + of(l), 0)
  const r1 = sum((l) => (milliOhm(l.line) * l.lengthM) / 1000)
  const r2 = sum((l) => (milliOhm(l.protective) * l.lengthM) / 1000)
  const about = (ohm: number, working: Working): Expectation => (measured ? around(ohm, formatOhm(ohm), working) : unknownLength)
  const along = (size: (l: RingLeg) => string): string =>
    [...grouped(legs, size)]
      .map(
        ([of, list]) =>
          `${milliOhm(of)} mΩ/m × ${trim(
            list.reduce((n, l) => n + l.lengthM, 0),
            2,
          )} m`,
      )
      .join(' + ')
  const ends = (id: string, title: string, ohm: number, size: (l: RingLeg) => string): Test => ({
    id,
    phase: 'dead',
    title,
    how: 'Both its ends out of the board; measure from one to the other. No reading at all is a ring that is broken.',
    unit: 'Ω',
    expect: about(ohm, {
      title,
      result: formatOhm(ohm),
      formula: 'r × L / 1000 at 20 °C',
      numbers: `(${along(size)}) / 1000 = ${trim(ohm, 4)} Ω`,
      inputs: [{ name: 'Once round', value: `${trim(lengthM, 2)} m` }],
      clauses: ['643.2.1; 433.1.204'],
    }),
    clause: '643.2.1; OSG continuity of ring final circuit conductors',
  })
  const inRing = circuit.points.filter((p) => p.from === null)
  const crossed = (p: CircuitPoint, other: 'neutral' | 'CPC', ohm: number): Test => ({
    id: `ring-crossed-${other === 'CPC' ? 'protective' : other}-${p.id}`,
    phase: 'dead',
    title: `Ring cross-connected, line to ${other} at ${p.name}`,
    how:
      `At the board the line of each end joined to the ${other} of the other. Every socket in the ring reads alike` +
      `${other === 'CPC' ? ', a little less towards the board where the CPC is thinner than the line' : ''}; one that reads ` +
      'off is wired wrong, or a link crosses the ring. A point on a spur reads more by the length of its spur.',
    unit: 'Ω',
    expect: about(ohm, {
      title: `Line to ${other}, ends crossed`,
      result: formatOhm(ohm),
      formula: other === 'CPC' ? '(r1 + r2) / 4' : '(r1 + rn) / 4',
      numbers: `(${trim(r1, 4)} + ${trim(other === 'CPC' ? r2 : r1, 4)}) / 4 = ${trim(ohm, 4)} Ω`,
      inputs: [{ name: 'Once round', value: `${trim(lengthM, 2)} m` }],
      clauses: ['643.2.1; OSG continuity of ring final circuit conductors'],
    }),
    clause: '643.2.1; OSG continuity of ring final circuit conductors',
  })
  return [
    ends('ring-line', 'Ring end to end, line (r1)', r1, (l) => l.line),
    ends('ring-neutral', 'Ring end to end, neutral (rn)', r1, (l) => l.line),
    ends('ring-protective', 'Ring end to end, CPC (r2)', r2, (l) => l.protective),
    ...inRing.map((p) => crossed(p, 'neutral', (2 * r1) / 4)),
    ...inRing.map((p) => crossed(p, 'CPC', (r1 + r2) / 4)),
  ]
}

const isolationTests = remembered((wired: Wired): readonly Test[] => {
  const [region] = readWired(wired)
  const clause = isolationClause[region]
  const proved = volts(region, worlds[region].lineV)
  const step = (id: string, title: string, how: string, unit: Test['unit'], expect: Expectation): Test => ({
    id,
    phase: 'isolation',
    title,
    how,
    unit,
    expect,
    clause,
  })
  return [
    step(
      'iso-off',
      `Switch off the ${worlds[region].words.breaker} of this circuit`,
      'Tell everyone who uses the place first. What else goes dead?',
      '',
      confirm,
    ),
    step('iso-lock', 'Lock it off and tag it', 'Your own lock, the key in your pocket, your name on the tag.', '', confirm),
    step(
      'iso-prove',
      'Prove the tester on a known live source',
      'Two-pole contact tester. A non-contact detector does not prove dead.',
      'V',
      proved,
    ),
    ...pairs(wired).map((p) =>
      step(`iso-dead-${p.id}`, `Dead between ${p.a} and ${p.b}`, 'At the point of work, on bare metal.', 'V', atMostV(DEAD_V)),
    ),
    step(
      'iso-reprove',
      'Prove the tester again',
      'The same source. If it fails now, nothing above counts. After a break, do all of this again.',
      'V',
      proved,
    ),
  ]
})

const insulationTests = remembered((wired: Wired): readonly Test[] => {
  const [region] = readWired(wired)
  return pairs(wired).map((p) => ({
    id: `insulation-${p.id}`,
    phase: 'dead',
    title: `Insulation, ${p.a} to ${p.b}`,
    how:
      'Appliance unplugged, electronic devices out of circuit. 500 V DC.' +
      (p.id.includes('n')
        ? ` Its ${worlds[region].words.neutral} lifted from the bar, or where it meets ` +
          `the ${worlds[region].words.protective} at the supply reads as a fault.`
        : ''),
    unit: 'MΩ',
    expect: {
      kind: 'range',
      nominal: null,
      min: 1,
      max: null,
      tolerance: 'at least 1 MΩ; a new circuit usually shows far more',
      working: null,
    },
    clause: byRegion(region, 'Good practice, NFPA 70B; no minimum in NFPA 70', '643.3; Table 64', 'SANS 10142-1 insulation resistance'),
  }))
})

const liveVoltTests = remembered((wired: Wired): readonly Test[] => {
  const [region] = readWired(wired)
  return pairs(wired).map((p) => ({
    id: `live-${p.id}`,
    phase: 'live',
    title: `Voltage, ${p.a} to ${p.b}`,
    how: 'Fused leads, one hand where you can, eyes on the tips.',
    unit: 'V',
    expect: p.liveV === 0 ? atMostV(NEUTRAL_EARTH_V) : volts(region, p.liveV),
    clause: supplyBands[region].clause,
    each: 'same',
  }))
})

const byRegion = (region: RegionId, na: string, uk: string, za: string): string =>
  ({ 'north-america': na, 'united-kingdom': uk, 'southern-africa': za })[region]

/** The boxes of a circuit, each with where it is. */
const boxesOf = (region: RegionId, circuit: Circuit): { kind: BoxKind | null; at: string }[] =>
  (circuit.points.length ? circuit.points : circuit.end ? [circuit.end] : []).map((p) => ({
    kind: enclosureOf(region, p.box),
    at: p.name || circuit.name,
  }))

const polarityTest = remembered((region: RegionId): Test => {
  const { line, neutral } = worlds[region].words
  return {
    id: 'polarity',
    phase: 'dead',
    title: 'Polarity by continuity',
    how: `The ${line} conductor lands on its own terminal and every switch breaks it, not the ${neutral}.`,
    unit: '',
    expect: confirm,
    clause: byRegion(region, '200.10, 200.11', '643.6', 'SANS 10142-1 polarity'),
    each: 'same',
  }
})

const coversTest = remembered((region: RegionId): Test => ({
  id: 'covers',
  phase: 'dead',
  title: 'Covers on, nothing left in the box or board',
  how: 'Before anything is switched on.',
  unit: '',
  expect: confirm,
  clause: byRegion(region, '110.27; 408.7', '416.2; 526.5', 'SANS 10142-1 enclosures'),
}))

/** What the parts of a plan of tests are made from. */
interface Planned {
  readonly job: Installation
  readonly circuit: Circuit
  readonly result: SelectedCircuit
  /** Null while a length is not known. */
  readonly loop: ProtectiveLoop | null
  readonly endings: readonly Ending[]
  readonly wired: Wired
}

type InWorld = (naClause: string, ukClause: string, zaClause: string) => string

const cold = (loop: ProtectiveLoop | null): Expectation => (loop ? around(loop.ohm, formatOhm(loop.ohm), loop) : unknownLength)

function continuityTest({ job, circuit, loop, endings }: Planned, code: InWorld): Test {
  const { words, says } = worlds[job.region]
  const several = circuit.points.length > 1
  const switched = endings.some((e) => e.fitted.poles > 0) || circuit.points.some((p) => p.kind === 'switch')
  return {
    id: 'continuity-protective',
    phase: 'dead',
    title: says.continuity,
    how:
      `Join ${words.line} to ${words.protectiveVerb} at the ${words.board}; measure between them at ` +
      `${several ? 'each point; none reads more than the farthest' : 'the point'}. Null the leads.` +
      // A switched leg makes this reading lie both ways.
      (switched
        ? ' Every switch on and lamps out: a leg that is off reads as a break, and one that comes back through a lamp as a path.'
        : ''),
    unit: 'Ω',
    expect: cold(loop),
    clause: code('250.4(A)(5); NFPA 70B', '643.2.1', 'SANS 10142-1 continuity test'),
    each: 'cold',
  }
}

/** Metal boxes are held to the protective conductor, one and all. */
function bondingTests({ job, circuit }: Planned, code: InWorld): Test[] {
  const { words } = worlds[job.region]
  const metalAt = boxesOf(job.region, circuit).filter(({ kind }) => kind?.metal)
  if (metalAt.length === 0) return []
  return [
    {
      id: 'metal-boxes-bonded',
      phase: 'dead',
      title: `Metal ${metalAt.length === 1 ? `${words.box} bonded` : `${words.box}es bonded`}: ${listed(metalAt.map((b) => b.at))}`,
      how: `A path from the bare metal of the ${words.box} to the ${words.protective}, cover off and on.`,
      unit: '',
      expect: confirm,
      clause: code('250.148(C); 314.4', '411.3.1.1; 543.2.7', 'SANS 10142-1 bonding of exposed conductive parts'),
    },
  ]
}

/** The poles of a switch where none conducts, and where all do. */
const polesWords: Readonly<Record<number, readonly [none: string, all: string]>> = {
  1: ['the pole', 'the pole'],
  2: ['either pole', 'both poles'],
  3: ['any of the three poles', 'each of the three poles'],
}
/** What switches there opens every pole, and closes it. */
const switchTests = ({ endings }: Planned, code: InWorld): Test[] =>
  endings
    .filter((x) => x.fitted.poles > 0)
    .flatMap((e, i) => {
      const [at, where] = [i ? `-${e.fitted.id}` : '', whereEnding(e, endings)]
      const [none, all] = polesWords[e.fitted.poles]!
      const named = (word: string) => (where ? `${where}: ${word}` : sentence(word))
      const test = {
        phase: 'dead',
        unit: '',
        expect: confirm,
        clause: code('404.20; 422.31', '643.10', 'SANS 10142-1 operation of switches'),
      } as const
      return [
        {
          ...test,
          id: `switch-open${at}`,
          title: `${named('open')}: no path through ${none}`,
          how: 'Meter across the device, contacts open.',
        },
        {
          ...test,
          id: `switch-closed${at}`,
          title: `${named('closed')}: a path through ${all}`,
          how: 'Meter across the device, contacts closed.',
        },
      ]
    })

function deadTests(planned: Planned): Test[] {
  const { job, circuit, result, wired } = planned
  const code: InWorld = (...clauses) => byRegion(job.region, ...clauses)
  return [
    ...(circuit.kind === 'ring' && worlds[job.region].rings && circuit.points.length ? ringTests(circuit, result) : []),
    continuityTest(planned, code),
    ...insulationTests(wired),
    polarityTest(job.region),
    ...bondingTests(planned, code),
    ...switchTests(planned, code),
    coversTest(job.region),
  ]
}

/** What the loop may read live, by what it comes to cold and by what clears a fault of it. */
function zsExpected(
  { supply, region: id }: Installation,
  circuit: Circuit,
  r: SelectedCircuit,
  loop: ProtectiveLoop | null,
): Expectation | null {
  const region = worlds[id].metric
  if (region === null || r.breakerA === null) return null
  const design = chosenDesign(circuit)
  const limits = loopLimit({ region: id, supply }, design, r.breakerA, r.zsOhm ?? null)!
  const guarded = limits.governs === 'residual'
  const limit = guarded ? limits.ohm : limits.ohm * COLD_LIMIT_FACTOR
  const ze = supply.zeOhm
  const expected =
    ze === null || loop === null
      ? null
      : around(ze + loop.ohm, 'Ze + (R1 + R2) cold', {
          ...loop,
          title: 'Zs, cold',
          formula: 'Ze + (r1 + r2) × L / 1000',
          numbers: `${trim(ze, 3)} + ${trim(loop.ohm, 4)} = ${trim(ze + loop.ohm, 4)} Ω`,
          result: formatOhm(ze + loop.ohm),
        })
  const range = expected?.kind === 'range' ? expected : null
  return {
    kind: 'range',
    nominal: range?.nominal ?? null,
    min: range?.min ?? null,
    max: Math.min(limit, range?.max ?? limit),
    tolerance:
      `${range ? range.tolerance : `${ze === null ? 'Ze' : 'A length'} is not known, so only the limit is judged`}; limit ` +
      `${formatOhm(limit)}${guarded ? ' (residual device)' : ' (0.8 of what the breaker needs hot)'}`,
    working: range?.working ?? null,
  }
}

function loopTest({ job, circuit, result, loop }: Planned): Test | null {
  const expect = zsExpected(job, circuit, result, loop)
  if (!expect) return null
  const alone = 'Everything else on the circuit unplugged.'
  return {
    id: 'zs',
    phase: 'live',
    title: 'Earth fault loop impedance, Zs',
    how: chosenDesign(circuit).residual.at === 'board' ? `Use a no-trip range. ${alone}` : alone,
    unit: 'Ω',
    expect,
    clause: `${worlds[job.region].metric!.loopClause}; 643.7.3`,
    each: 'zs',
  }
}

/** What a residual device of the general kind is allowed, in milliseconds, at its rating and at five times of it. IEC 61008-1. */
const TRIP_MS = { once: 300, fiveTimes: 40 }

/** The tests of one residual device: its button with what it guards, and how soon it opens. The first keeps the plain name. */
function residualTests(job: Installation, { point, atBoard, tripMa, guards }: GuardingDevice, n: number, of: number): Test[] {
  const region = worlds[job.region]
  const { rcd } = region.words
  const id = (kind: string) => `residual-${kind}${n === 0 ? '' : `-${point?.id ?? n}`}`
  const where = of === 1 ? '' : atBoard ? ` at the ${region.words.board}` : point ? ` at ${point.name}` : ''
  const name = `${rcd.charAt(0).toUpperCase()}${rcd.slice(1)}${where}`
  const dead = guards.length
    ? listed(
        guards.map((p) => p.name),
        6,
      )
    : 'what it guards'
  const code = (na: string, uk: string, za: string) => byRegion(job.region, na, uk, za)
  const within = (kind: string, title: string, ms: number, more: Partial<Test>): Test => ({
    id: id(kind),
    phase: 'live',
    title,
    how: 'Alternating current. Warn people: the circuit goes dead.',
    unit: 'ms',
    // Nothing opens in no time: one that shows 0 ms was off already.
    expect: { kind: 'range', nominal: null, min: 1, max: ms, tolerance: `from 1 to ${ms} ms`, working: null },
    clause: code('', '643.7.1; 643.8; BS EN 61008-1', 'SANS 10142-1; IEC 61008-1'),
    ...more,
  })
  return [
    {
      id: id('button'),
      phase: 'live',
      title: `${name}: test button trips it, reset restores it`,
      how:
        `Then ${dead} went dead, and nothing else; what it shows says tripped. One that does not trip guards nothing, or is ` +
        'fed on its load side; one that does not reset has a leak behind it; one that trips now and then by itself: unplug ' +
        'what it guards and look for the leak before the device is blamed.',
      unit: '',
      expect: confirm,
      clause: code('210.8; 110.3(B)', '643.10', 'SANS 10142-1 earth leakage test'),
    },
    ...(region.metric && tripMa !== null
      ? [
          within('time', `${name}: time to trip at ${trim(tripMa, 0)} mA`, TRIP_MS.once, {}),
          within('time-five', `${name}: time to trip at five times that, ${trim(5 * tripMa, 0)} mA`, TRIP_MS.fiveTimes, {
            clause: 'IEC 61008-1, for devices of the general kind',
            optional: true,
          }),
        ]
      : []),
  ]
}

function loadCurrentTest({ job, result: r }: Planned): Test {
  return {
    id: 'load-current',
    phase: 'live',
    title: 'Current with the appliance running',
    how: 'Clamp on one line conductor, appliance at full.',
    unit: 'A',
    expect: {
      kind: 'range',
      nominal: r.loadA,
      min: r.loadA * 0.8,
      max: Math.min(r.loadA * 1.1, r.breakerA ?? Number.POSITIVE_INFINITY),
      tolerance: 'nameplate + 10 %, − 20 %: appliance and supply both vary',
      working: null,
    },
    clause: byRegion(job.region, '210.19(A)', '311.1', 'SANS 10142-1 load'),
    optional: true,
  }
}

function liveTests(planned: Planned): Test[] {
  const { job, circuit, result: r, wired } = planned
  const design = chosenDesign(circuit)
  const code = (naClause: string, ukClause: string, zaClause: string) => byRegion(job.region, naClause, ukClause, zaClause)
  const loop = loopTest(planned)
  return [
    ...liveVoltTests(wired),
    ...(loop ? [loop] : []),
    ...guardingDevices(job, circuit, design).flatMap((d, i, all) => residualTests(job, d, i, all.length)),
    ...(r.loadA > 0 ? [loadCurrentTest(planned)] : []),
    {
      id: 'finish',
      phase: 'live',
      title: 'Plate level, flush and clean',
      how: 'Level on it, screw slots in line. It is what the customer sees.',
      unit: '',
      expect: confirm,
      clause: code('314.20; 110.12', '134.1.1', 'Good workmanship'),
      optional: true,
    },
  ]
}

/** A load that is put on to see what a joint does under it, in watts. */
export const EXTRA_LOAD_W = 1000
/** What a fall of voltage may be beside what is reckoned: the supply has its own. */
const EXTRA_FALL_V = 3
const EXTRA_CLAMP_A = 0.05

export const extraTestId = (kind: ExtraTestKind): string => `extra-${kind}`

/** Tests besides those of the code, each of which catches what those let by; one that the wiring has no use for is left out. */
export function extraTests(job: Installation, circuit: Circuit, r: SelectedCircuit, layout: LayoutReport | null): readonly Test[] {
  const region = worlds[job.region]
  const { words } = region
  const system = readWired(wiredOf(job, circuit))[1]
  const loop = lengthsKnown(layout) ? protectiveLoop(job, circuit, r, farthest(layout)) : null
  const code = 'Extra test: not required by the code'
  const amps = EXTRA_LOAD_W / ((system === 'line-line' ? 2 : 1) * region.lineV)
  const fall = lengthsKnown(layout) ? amps * liveLoopOhm(job, circuit, r, layout) : null
  const upTo = (max: number, tolerance: string): Expectation => ({ kind: 'range', nominal: null, min: 0, max, tolerance, working: null })
  return [
    ...(system === 'line-line'
      ? []
      : [
          {
            id: extraTestId('neutral-lifted'),
            phase: 'dead' as const,
            title: `${region.says.continuity}, the ${words.neutral} lifted from its bar`,
            how:
              `As before, but with the ${words.neutral} off its bar: where ${words.neutral} and ${words.protective} are exchanged, ` +
              'there is no path now. Put it back after.',
            unit: 'Ω' as const,
            expect: cold(loop),
            clause: code,
          },
        ]),
    {
      id: extraTestId('loaded-fall'),
      phase: 'live',
      title: `Fall of voltage when ${EXTRA_LOAD_W} W are put on`,
      how: `At each point in turn: the voltage before, less the voltage with ${EXTRA_LOAD_W} W on. A loose joint shows by its fall.`,
      unit: 'V',
      expect:
        fall === null
          ? unknownLength
          : upTo(fall + EXTRA_FALL_V, `${trim(fall, 1)} V along the cable, and up to ${EXTRA_FALL_V} V more for the supply`),
      clause: code,
    },
    {
      id: extraTestId('clamp-all'),
      phase: 'live',
      title: 'Clamp round all live conductors together, under load',
      how: `Without the ${words.protective}. More than nothing goes another way than it came.`,
      unit: 'A',
      expect: upTo(EXTRA_CLAMP_A, `up to ${EXTRA_CLAMP_A * 1000} mA is taken as nothing`),
      clause: code,
    },
  ]
}

/** Line and return to the farthest point, at 20 °C, in ohms. */
function liveLoopOhm(job: Installation, circuit: Circuit, r: SelectedCircuit, layout: LayoutReport | null): number {
  const design = chosenDesign(circuit)
  const lengthM = farthest(layout)?.distanceM ?? runLengthM(circuit, design)!
  const { metric } = worlds[job.region]
  if (metric) return (2 * dataOf(metric, design.cable).milliOhmPerMetre20C[r.size!]! * lengthM) / 1000
  return (2 * naOhmPerKft(design.conductor, r.size!)! * lengthM) / (1 + naAlpha75C[design.conductor] * 55) / M_PER_KFT
}

/** What makes it safe to work: the way it sits on, or, where its breaker is still to be fitted, what makes its board safe to open. */
function isolatedBy(job: Installation, circuit: Circuit): Partial<Pick<Test, 'title' | 'how'>> {
  const { words, says } = worlds[job.region]
  const told = 'Tell everyone who uses the place first. What else goes dead?'
  const whole = followed(job.brief.schools, 'off') === 'main'
  if (!whole && circuit.ways.length > 0 && circuit.ways.every((w) => w.state !== 'new'))
    return { title: `Switch off way ${circuit.way}`, how: told }
  if (!whole && circuit.source && circuit.source.kind !== 'board')
    return circuit.way ? { title: `Switch off way ${circuit.way}`, how: told } : {}
  const feeder = job.circuits.find((c) => c.id === circuit.feeder)
  const board = job.boards.find((b) => b.id === circuit.board)
  const fedFrom = board?.fedFrom ? job.ways.find((w) => w.id === board.fedFrom)?.label : null
  const by = feeder?.name ?? fedFrom
  if (by) return { title: `Switch off ${by}, which feeds its ${words.board}: its ${words.breaker} is not fitted yet`, how: told }
  const main = {
    'double-pole': `${told} What comes in ahead of the main ${says.mainDevice} stays live: cover it, and keep off.`,
    'single-pole': `${told} It opens one pole: ${says.leftLiveOfSupply}. What comes in ahead of it stays live.`,
    none: `There is none: the ${words.board} is made dead upstream, by the supplier or someone qualified.`,
    unknown: `Not checked whether it opens all poles: until then everything in the ${words.board} is taken for live.`,
  }[board?.mainSwitch ?? 'unknown']
  const because =
    circuit.ways.some((w) => w.state === 'new') || circuit.ways.length === 0 ? `: its own ${words.breaker} is not fitted yet` : ''
  return { title: `Switch off the main ${says.mainDevice} of the ${words.board}${because}`, how: main }
}

/** The tests for a circuit in the order they are made. Empty until the circuit is worked out. */
export function testPlan(job: Installation, circuit: Circuit, result: SelectedCircuit | null, layout: LayoutReport | null = null): Test[] {
  const design = chosenDesign(circuit)
  if (
    !result?.size ||
    runLengthM(circuit, design) === null ||
    (circuit.points.length > 0 && !layout) ||
    (circuit.kind !== 'feeder' && !allEndsChosen(circuit, design))
  )
    return []
  const far = farthest(layout)
  const alone = lengthsKnown(layout) ? protectiveLoop(job, circuit, result, far) : null
  const loop = alone && far?.loopOhm != null && circuit.points.length > 1 ? { ...alone, title: `${alone.title}, the farthest` } : alone
  const endings = endingsOf(circuit, design)
  const planned: Planned = { job, circuit, result, loop, endings, wired: wiredOf(job, circuit, endings) }
  const [off, ...isolation] = isolationTests(planned.wired)
  const wanted = (circuit.extraTests ?? []).map(extraTestId)
  const extras = wanted.length ? extraTests(job, circuit, result, layout).filter((t) => wanted.includes(t.id)) : []
  const dead = deadTests(planned)
  return [
    { ...off!, ...isolatedBy(job, circuit) },
    ...isolation,
    // Covers come last of what is done dead.
    ...dead.slice(0, -1),
    ...extras.filter((t) => t.phase === 'dead'),
    ...dead.slice(-1),
    ...liveTests(planned),
    ...extras.filter((t) => t.phase === 'live'),
  ]
}

/**
 * The named points that a test is made at one by one, each with what is expected there; none where it is made of the circuit as a whole.
 * One reading may stand for all of them, as the farthest shows it. `job` is seen from the board the circuit leaves from.
 */
export function pointsOfTest(
  job: Installation,
  circuit: Circuit,
  { result, layout }: { readonly result: SelectedCircuit | null; readonly layout: LayoutReport | null },
  test: Test,
): readonly TestPoint[] {
  const { each } = test
  if (!each || !result || !layout) return []
  const reachedBy = new Map(layout.points.map((p) => [p.point.id, p]))
  const expected = (p: PointReport): Expectation => {
    if (each === 'same') return test.expect
    const loop = isMeasured(p) ? protectiveLoop(job, circuit, result, p) : null
    return each === 'cold' ? cold(loop) : (zsExpected(job, circuit, result, loop) ?? test.expect)
  }
  return circuit.points.flatMap((point) => {
    const reached = reachedBy.get(point.id)
    return point.kind === 'box' || !reached ? [] : [{ id: point.id, name: point.name, expect: expected(reached) }]
  })
}
