import { z } from 'zod'
import { type Finding, findingSchema } from '../base/finding'
import { InputError } from '../base/input-error'
import { formatA, formatPercent } from '../base/format'
import { atLeast, atMost } from '../base/tolerance'
import { dataOf, type MetricRegion, metricRegions } from '../region/metric'
import {
  naAmpacityA,
  naBreakerRatingsA,
  naCables,
  naCableSizes,
  naCircularMils,
  naClauses,
  naGroundingSize,
  naReceptaclesOnBreaker,
  naSizes,
  naSmallConductorLimitA,
} from '../region/north-america/awg'
import { breakerTypes } from '../region/types'
import { type Ampacity, ampacity, limitColumnC } from './ampacity'
import { maxBreakerZs, maxRcdZs, r1r2At20, zsTooHigh } from './fault-loop'
import {
  atLeastOne,
  cableKinds,
  conductorField,
  copperOnly,
  naRegion,
  nonNegative,
  positive,
  terminalC,
  ukRegion,
  zaRegion,
} from './fields'
import { cableDropPerA, voltageDrop } from './voltage-drop'
import { worlds } from '../region/worlds'

const load = z
  .strictObject({
    volts: positive,
    amps: nonNegative.optional(),
    watts: nonNegative.optional(),
    continuous: z.boolean(),
    lighting: z.boolean().optional(),
  })
  .refine((l) => (l.amps === undefined) !== (l.watts === undefined), 'give either amps or watts, one of the two')
const common = {
  load,
  outlet: z.strictObject({ ratingA: positive, single: z.boolean() }).optional(),
  cord: z.strictObject({ ratingA: positive }).optional(),
  minSize: z.string().optional(),
  wantedBreakerA: nonNegative.optional(),
}
const metricCommon = {
  ...common,
  conductor: copperOnly,
  supply: z.strictObject({ zeOhm: nonNegative, rcdMa: positive.optional() }).optional(),
  breakerType: z.enum(breakerTypes).default('B'),
}
const metricRun = { lengthM: nonNegative, ambientC: z.number(), method: z.string(), groupedCircuits: atLeastOne }

const naInput = z.strictObject({
  region: naRegion,
  ...common,
  cable: z.enum(naCables),
  conductor: conductorField,
  run: z.strictObject({ lengthM: nonNegative, ambientC: z.number(), loadedConductors: atLeastOne }),
  terminalC,
})
const ukInput = z.strictObject({
  region: ukRegion,
  ...metricCommon,
  cable: z.enum(cableKinds('united-kingdom')),
  run: z.strictObject({ ...metricRun, insulationMm: nonNegative }),
})
const zaInput = z.strictObject({
  region: zaRegion,
  ...metricCommon,
  cable: z.enum(cableKinds('southern-africa')),
  run: z.strictObject(metricRun),
})
export const selectCircuitInput = z.discriminatedUnion('region', [naInput, ukInput, zaInput])
export type SelectCircuitInput = z.infer<typeof selectCircuitInput>
type NaInput = z.infer<typeof naInput>
type MetricInput = Exclude<SelectCircuitInput, NaInput>

export const linkNames = ['breaker', 'cable', 'outlet', 'cord'] as const
const linkSchema = z.strictObject({ link: z.enum(linkNames), ratingA: z.number() })
export type Link = z.infer<typeof linkSchema>
export const selectCircuitOutput = z.strictObject({
  loadA: z.number(),
  requiredA: z.number(),
  breakerA: z.number().nullable(),
  size: z.string().nullable(),
  tabulatedA: z.number().nullable(),
  ampacityA: z.number().nullable(),
  dropPercent: z.number().nullable(),
  protectiveSize: z.string().nullable(),
  links: z.array(linkSchema),
  weakestLink: linkSchema.nullable(),
  zsOhm: z.number().nullable().optional(),
  maxZsOhm: z.number().nullable().optional(),
  findings: z.array(findingSchema),
})
export type SelectedCircuit = z.infer<typeof selectCircuitOutput>

/** 210.19(A)(1) and 210.20(A): a continuous load counts a quarter more. */
export const CONTINUOUS_FACTOR = 1.25

/**
 * The smallest breaker and cable that serve a load, each link of the chain rated and the weakest named.
 * @throws InputError at `minSize` or below `run` where a table has no value.
 * Sources: NFPA 70 210.19 to 210.21, 240.4, 240.5, 250.122; BS 7671 433.1.1, 525, 411.4; IEC 60364-5-52.
 */
export function selectCircuit(input: SelectCircuitInput): SelectedCircuit {
  return input.region === 'north-america' ? selectNa(input) : selectMetric(input)
}

const loadCurrentA = (l: z.infer<typeof load>): number => l.amps ?? l.watts! / l.volts

const nextRating = (ratings: readonly number[], a: number): number | undefined => ratings.find((r) => atLeast(r, a))

/** Runs the ampacity calculator for one size; its complaints are about keys that are below `run` here. */
function runAmpacity(input: SelectCircuitInput, size: string): Ampacity {
  try {
    const { region, cable, conductor } = input
    return ampacity(
      ('terminalC' in input
        ? {
            region,
            cable,
            size,
            conductor,
            ambientC: input.run.ambientC,
            loadedConductors: input.run.loadedConductors,
            terminalC: input.terminalC,
          }
        : { region, cable, size, conductor, ...withoutLength(input.run) }) as Parameters<typeof ampacity>[0],
    )
  } catch (e) {
    if (e instanceof InputError && e.path !== 'size') throw new InputError(`run.${e.path}`, e.message)
    throw e
  }
}

function withoutLength({ lengthM: _, ...run }: MetricInput['run']) {
  return run
}

function sizesFrom(sizes: string[], listed: readonly string[], smallest: string | undefined): string[] {
  if (smallest === undefined) return sizes
  if (!listed.includes(smallest)) throw new InputError('minSize', `${smallest} is not a size listed for this cable.`)
  return sizes.filter((s) => listed.indexOf(s) >= listed.indexOf(smallest))
}

function links(input: SelectCircuitInput, breakerA: number, ampacityA: number): Link[] {
  const chain: Link[] = [
    { link: 'breaker', ratingA: breakerA },
    { link: 'cable', ratingA: ampacityA },
  ]
  if (input.outlet) chain.push({ link: 'outlet', ratingA: input.outlet.ratingA })
  if (input.cord) chain.push({ link: 'cord', ratingA: input.cord.ratingA })
  return chain
}

/** The lowest rating; on a tie the link nearest the appliance, the breaker last of all. */
function weakest(chain: Link[]): Link {
  return chain.toReversed().reduce((w, l) => (atLeast(l.ratingA, w.ratingA) ? w : l))
}

function unserved(loadA: number, requiredA: number, breakerA: number | null, finding: Finding): SelectedCircuit {
  return {
    loadA,
    requiredA,
    breakerA,
    size: null,
    tabulatedA: null,
    ampacityA: null,
    dropPercent: null,
    protectiveSize: null,
    links: [],
    weakestLink: null,
    findings: [finding],
  }
}

const noBreaker = (requiredA: number, largestA: number, clause: string): Finding => ({
  rule: 'no-breaker-serves',
  severity: 'error',
  clause,
  message:
    `${formatA(requiredA)} is beyond the largest breaker listed, ${largestA} A. Divide the load over more circuits, or have the ` +
    'supply designed.',
})

const noSize = (breakerA: number, clause: string, why: string): Finding => ({
  rule: 'no-size-serves',
  severity: 'error',
  clause,
  message: `No size listed for this cable serves a ${breakerA} A breaker as it is run: ${why}`,
})

function selectNa(input: NaInput): SelectedCircuit {
  const loadA = loadCurrentA(input.load)
  const requiredA = input.load.continuous ? loadA * CONTINUOUS_FACTOR : loadA
  const wantedA = nextRating(naBreakerRatingsA, Math.max(requiredA, input.wantedBreakerA ?? 0))
  const listed = naCableSizes(input.cable, input.conductor)
  const allowed = sizesFrom(listed, naSizes, input.minSize)
  runAmpacity(input, listed.at(-1)!)
  if (wantedA === undefined)
    return unserved(
      loadA,
      requiredA,
      null,
      noBreaker(Math.max(requiredA, input.wantedBreakerA ?? 0), naBreakerRatingsA.at(-1)!, naClauses.breakerRatings),
    )

  const column = limitColumnC(input.cable, input.terminalC)
  const mayRoundUp = input.outlet === undefined || input.outlet.single
  const serves = (size: string) => {
    const { ampacityA } = runAmpacity(input, size)
    const limitA = naAmpacityA(input.conductor, size, column)!
    const smallA = naSmallConductorLimitA(input.conductor, size)
    const roundedA = mayRoundUp ? (nextRating(naBreakerRatingsA, ampacityA) ?? ampacityA) : ampacityA
    return (
      atLeast(limitA, requiredA) &&
      atLeast(ampacityA, loadA) &&
      atMost(wantedA, Math.max(ampacityA, roundedA)) &&
      (smallA === undefined || atMost(wantedA, smallA))
    )
  }
  const size = allowed.find(serves)
  if (size === undefined)
    return unserved(
      loadA,
      requiredA,
      wantedA,
      noSize(wantedA, `${naClauses.ampacity}; 240.4`, 'group fewer loaded conductors, keep out of the heat, or choose another cable.'),
    )

  const held = holdToCord(input.cord?.ratingA, wantedA, requiredA, loadA)
  const breakerA = held.breakerA
  const { tabulatedA, ampacityA } = runAmpacity(input, size)
  const { dropPercent } = voltageDrop({
    region: input.region,
    size,
    conductor: input.conductor,
    lengthM: input.run.lengthM,
    currentA: loadA,
    systemV: input.load.volts,
  })
  const chain = links(input, breakerA, ampacityA)
  return {
    loadA,
    requiredA,
    breakerA,
    size,
    tabulatedA,
    ampacityA,
    dropPercent,
    protectiveSize: naProtectiveSize(breakerA, size, listed.find(serves)!),
    links: chain,
    weakestLink: weakest(chain),
    findings: [...held.findings, ...outletFindings(input.outlet, breakerA), ...dropOver3Percent(dropPercent)],
  }
}

/** A breaker is brought down to the cord it protects where a standard rating still carries the load. 240.5(B). */
function holdToCord(
  cordA: number | undefined,
  wantedA: number,
  requiredA: number,
  loadA: number,
): { breakerA: number; findings: Finding[] } {
  if (cordA === undefined || atLeast(cordA, wantedA)) return { breakerA: wantedA, findings: [] }
  const heldA = naBreakerRatingsA.findLast((r) => atLeast(r, requiredA) && atMost(r, cordA))
  if (heldA !== undefined)
    return {
      breakerA: heldA,
      findings: [
        {
          rule: 'breaker-held-to-cord',
          severity: 'note',
          clause: '240.5(B)',
          message:
            `The cord is good for ${formatA(cordA)}; a ${wantedA} A breaker would not protect it. The breaker is held to ${heldA} ` +
            `A; cable and outlet stay sized for ${wantedA} A, ready for a heavier cord.`,
        },
      ],
    }
  return {
    breakerA: wantedA,
    findings: [
      atLeast(cordA, loadA)
        ? {
            rule: 'cord-below-breaker',
            severity: 'warning',
            clause: '240.5(B)(1)',
            message:
              `The cord is good for ${formatA(cordA)} behind a ${wantedA} A breaker. That is allowed only for a listed appliance's ` +
              'own cord: confirm it is that, or fit a heavier cord.',
          }
        : {
            rule: 'cord-below-load',
            severity: 'error',
            clause: '240.5(A); 400.5',
            message:
              `The cord is good for ${formatA(cordA)} and the load draws ${formatA(loadA)}. Fit a heavier cord, or a smaller ` +
              'appliance.',
          },
    ],
  }
}

function outletFindings(outlet: NaInput['outlet'], breakerA: number): Finding[] {
  if (outlet === undefined) return []
  if (outlet.single)
    return atLeast(outlet.ratingA, breakerA)
      ? []
      : [
          {
            rule: 'outlet-below-breaker',
            severity: 'error',
            clause: '210.21(B)(1)',
            message:
              `A single ${formatA(outlet.ratingA)} outlet is on a ${breakerA} A breaker. Fit an outlet rated ${breakerA} A ` +
              'or more, or a smaller breaker if the load allows.',
          },
        ]
  const allowed = naReceptaclesOnBreaker(breakerA)
  return allowed.includes(outlet.ratingA)
    ? []
    : [
        {
          rule: 'outlet-not-allowed-on-circuit',
          severity: 'error',
          clause: naClauses.receptacle,
          message: allowed.length
            ? `A ${breakerA} A circuit with several outlets takes outlets of ${allowed.join(' or ')} A, not ${formatA(outlet.ratingA)}.`
            : `A ${breakerA} A breaker may not serve several outlets. Fit one single outlet, or a breaker of 15, 20, 30, 40 or 50 A.`,
        },
      ]
}

/** The usual aim for what a branch circuit loses, as a warning. NFPA 70 210.19(A), informational note. */
export function dropOver3Percent(dropPercent: number): Finding[] {
  return atMost(dropPercent, 3)
    ? []
    : [
        {
          rule: 'voltage-drop-over-3-percent',
          severity: 'warning',
          clause: '210.19(A) informational note',
          message:
            `The run loses ${formatPercent(dropPercent)} of the voltage; 3 % is the usual aim. A larger cable or a shorter run ` +
            'brings it down.',
        },
      ]
}

/** Table 250.122, enlarged in proportion where the line is larger than the load needs; within 1 % serves. 250.122(B). */
function naProtectiveSize(breakerA: number, size: string, neededSize: string): string {
  const base = naGroundingSize(breakerA)
  const cap = naCircularMils(size)
  const wanted = Math.min(cap, naCircularMils(base) * (naCircularMils(size) / naCircularMils(neededSize)))
  const enlarged = naSizes.find((s) => naCircularMils(s) >= wanted * 0.99)!
  const largest = naCircularMils(enlarged) > naCircularMils(base) ? enlarged : base
  return naCircularMils(largest) > cap ? size : largest
}

function selectMetric(input: MetricInput): SelectedCircuit {
  const region = metricRegions[input.region]
  const { data } = region.cables[input.cable]!
  const loadA = loadCurrentA(input.load)
  const breakerA = nextRating(region.breakerRatingsA, Math.max(loadA, input.wantedBreakerA ?? 0)) ?? null
  const listed = Object.keys(region.cables[input.cable]!.rows)
  const { lighting = false } = input.load
  const floor = Number.parseFloat(lighting ? region.minSize.lighting : region.minSize.power)
  const allowed = listed.filter((s) => Number.parseFloat(s) >= floor)
  const sizes = sizesFrom(allowed, listed, input.minSize)
  runAmpacity(input, listed.at(-1)!)
  const loop = loopLimits(region, input, breakerA)
  const withLoop = (zsOhm: number | null) => (input.supply ? { zsOhm, maxZsOhm: loop.maxZsOhm } : {})
  if (breakerA === null)
    return {
      ...unserved(loadA, loadA, null, noBreaker(Math.max(loadA, input.wantedBreakerA ?? 0), region.breakerRatingsA.at(-1)!, '433.1.1')),
      ...withLoop(null),
    }

  const limitPercent = (lighting ? region.voltDropLimit.lighting : region.voltDropLimit.other) * 100
  const state = (size: string) => ({
    size,
    ...runAmpacity(input, size),
    protectiveSize: metricProtectiveSize(region, input.cable, size),
    dropPercent: ((cableDropPerA(data, { size, lengthM: input.run.lengthM }) * loadA) / input.load.volts) * 100,
    zsOhm: loopOhm(region, input, size),
  })
  let chosen: ReturnType<typeof state> | undefined
  for (const size of sizes) {
    const s = state(size)
    if (atLeast(s.ampacityA, breakerA) && atMost(s.dropPercent, limitPercent) && (s.zsOhm === null || atMost(s.zsOhm, loop.maxZsOhm!))) {
      chosen = s
      break
    }
  }
  if (!chosen) {
    const states = sizes.map(state)
    const reason = !states.some((s) => atLeast(s.ampacityA, breakerA))
      ? 'it carries too little there. Group fewer circuits, keep out of insulation and heat, or choose another method.'
      : !states.some((s) => s.zsOhm === null || atMost(s.zsOhm, loop.maxZsOhm!))
        ? 'the earth fault loop stays too high. Protect it by a residual current device, or have the supply improved.'
        : `the voltage drop stays over ${formatPercent(limitPercent)}. Shorten the run or divide the load.`
    return {
      ...unserved(
        loadA,
        loadA,
        breakerA,
        noSize(breakerA, `${region.cables[input.cable]!.clause}; ${region.voltDropLimit.clause}`, reason),
      ),
      ...withLoop(null),
    }
  }

  const chain = links(input, breakerA, chosen.ampacityA)
  return {
    loadA,
    requiredA: loadA,
    breakerA,
    size: chosen.size,
    tabulatedA: chosen.tabulatedA,
    ampacityA: chosen.ampacityA,
    dropPercent: chosen.dropPercent,
    protectiveSize: chosen.protectiveSize,
    links: chain,
    weakestLink: weakest(chain),
    ...withLoop(chosen.zsOhm),
    findings: [
      ...metricLinkFindings(region, input, loadA, breakerA),
      ...(chosen.zsOhm !== null && !atMost(chosen.zsOhm, loop.breakerMaxOhm!)
        ? [zsTooHigh(region, chosen.zsOhm, loop.breakerMaxOhm!, loop.maxZsOhm!)]
        : []),
    ],
  }
}

function loopLimits(region: MetricRegion, input: MetricInput, breakerA: number | null) {
  const breakerMaxOhm = breakerA === null ? null : maxBreakerZs(region, input.breakerType, breakerA)
  const rcdMa = input.supply?.rcdMa
  return { breakerMaxOhm, maxZsOhm: rcdMa === undefined ? breakerMaxOhm : maxRcdZs(region, rcdMa) }
}

/** The protective conductor that comes with a line size of this cable. */
export function metricProtectiveSize(region: MetricRegion, cable: string, size: string): string {
  return region.cables[cable]?.protective?.[size] ?? size
}

function loopOhm(region: MetricRegion, input: MetricInput, size: string): number | null {
  if (!input.supply) return null
  const data = dataOf(region, input.cable)
  const r1r2 = r1r2At20(data, size, metricProtectiveSize(region, input.cable, size), input.run.lengthM)
  return input.supply.zeOhm + r1r2 * data.operatingMultiplier
}

function metricLinkFindings(region: MetricRegion, input: MetricInput, loadA: number, breakerA: number): Finding[] {
  const findings: Finding[] = []
  const { outlet, cord } = input
  if (outlet && !atLeast(outlet.ratingA, loadA))
    findings.push({
      rule: 'outlet-below-load',
      severity: 'error',
      clause: worlds[region.id].cites.outletRating,
      message:
        `The load draws ${formatA(loadA)} and the outlet is rated ${formatA(outlet.ratingA)}. Fit a heavier outlet or connect it ` +
        'permanently.',
    })
  if (cord && !atLeast(cord.ratingA, loadA))
    findings.push({
      rule: 'cord-below-load',
      severity: 'error',
      clause: region.cordClause,
      message: `The cord is good for ${formatA(cord.ratingA)} and the load draws ${formatA(loadA)}. Fit a heavier cord.`,
    })
  else if (cord && !atLeast(cord.ratingA, breakerA)) {
    const fuse = region.plugFusesA.filter((f) => atLeast(f, loadA) && atMost(f, cord.ratingA))[0]
    findings.push({
      rule: 'cord-needs-fuse',
      severity: 'note',
      clause: region.cordClause,
      message: worlds[region.id].fusedUnits
        ? `The ${breakerA} A breaker does not protect a ${formatA(cord.ratingA)} cord; ` +
          (fuse
            ? `fit a ${fuse} A fuse in its plug or connection unit`
            : 'its plug or connection unit fuse must, and no listed fuse lies between load and cord: fit a heavier cord') +
          '.'
        : `The ${breakerA} A breaker does not protect a ${formatA(cord.ratingA)} cord. Fit a local device rated for the cord, or ` +
          'a smaller breaker.',
    })
  }
  return findings
}
