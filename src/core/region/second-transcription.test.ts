import { describe, expect, it } from 'vitest'
import { maxBreakerZs } from '../calculate/fault-loop'
import { unitedKingdom } from './metric'
import { northAmericaTables as na } from './north-america/tables'
import { southernAfricaTables as za } from './southern-africa/tables'
import { unitedKingdomTables as uk } from './united-kingdom/tables'

/*
 * The published tables written down a second time, as their pages are laid out, from the source and not from the first writing. Each
 * entry of one is held against the other, and none may be missing from either: a slip would have to be made twice alike.
 */

type Cell = number | undefined
/** Rows of a page: a name, then its figures; `-` where the page has none. */
const page = (text: string): Map<string, Cell[]> =>
  new Map(
    text
      .trim()
      .split('\n')
      .map((row) => {
        const [name, ...cells] = row.trim().split(/\s+/)
        return [name!, cells.map((c) => (c === '-' ? undefined : Number(c)))]
      }),
  )
const withoutClause = (table: object): Record<string, unknown> =>
  Object.fromEntries(Object.entries(table).filter(([k]) => !/clause|methods|methodCodes|methodMeaning/.test(k)))
/** One figure a row. */
const expectColumn = (table: object, unit: string, text: string): void => {
  const second = page(text)
  expect(withoutClause(table)).toEqual(Object.fromEntries([...second].map(([name, [v]]) => [`${name}${unit}`, v])))
}

describe('North American tables, written a second time', () => {
  it('Table 310.16, copper and aluminium at 60, 75 and 90 °C', () => {
    const second = page(`
      14   15  20  25    -   -   -
      12   20  25  30   15  20  25
      10   30  35  40   25  30  35
      8    40  50  55   35  40  45
      6    55  65  75   40  50  55
      4    70  85  95   55  65  75
      3    85 100 115   65  75  85
      2    95 115 130   75  90 100
      1   110 130 145   85 100 115
      1/0 125 150 170  100 120 135
      2/0 145 175 195  115 135 150
      3/0 165 200 225  130 155 175
      4/0 195 230 260  150 180 205`)
    const copper = Object.fromEntries([...second].map(([s, c]) => [`${s} AWG`, c.slice(0, 3)]))
    const aluminium = Object.fromEntries([...second].filter(([, c]) => c[3]).map(([s, c]) => [`${s} AWG`, c.slice(3)]))
    expect(na.ampacity.columnsC).toEqual([60, 75, 90])
    expect(na.ampacity.copper).toEqual(copper)
    expect(na.ampacity.aluminium).toEqual(aluminium)
  })

  it('Table 310.15(B)(1)(1), ambient', () => {
    const second = page(`
      10 1.29 1.20 1.15
      15 1.22 1.15 1.12
      20 1.15 1.11 1.08
      25 1.08 1.05 1.04
      30 1.00 1.00 1.00
      35 0.91 0.94 0.96
      40 0.82 0.88 0.91
      45 0.71 0.82 0.87
      50 0.58 0.75 0.82
      55 0.41 0.67 0.76
      60 -    0.58 0.71
      65 -    0.47 0.65
      70 -    0.33 0.58
      75 -    -    0.50
      80 -    -    0.41
      85 -    -    0.29`)
    const column = (i: number) => [...second.values()].map((c) => c[i]).filter((v) => v !== undefined)
    const { ambientFactor: f } = na
    expect(f.upperBoundC).toEqual([...second.keys()].map(Number))
    expect([f.insulation60C, f.insulation75C, f.insulation90C]).toEqual([column(0), column(1), column(2)])
  })

  it('Table 310.15(C)(1), more than three conductors', () => {
    const percent = { 6: 80, 9: 70, 20: 50, 30: 45, 40: 40 }
    expect(na.groupingFactor.upperBound).toEqual([3, ...Object.keys(percent).map(Number), null])
    expect(na.groupingFactor.factor).toEqual([1, ...Object.values(percent).map((p) => p / 100), 0.35])
  })

  it('Chapter 9 Table 8: circular mils and direct-current resistance', () => {
    const second = page(`
      18    1620      -     -
      16    2580      -     -
      14    4110   3.07     -
      12    6530   1.93  3.18
      10   10380   1.21  2.00
      8    16510  0.778  1.28
      6    26240  0.491 0.808
      4    41740  0.308 0.508
      3    52620  0.245 0.403
      2    66360  0.194 0.319
      1    83690  0.154 0.253
      1/0 105600  0.122 0.201
      2/0 133100 0.0967 0.159
      3/0 167800 0.0766 0.126
      4/0 211600 0.0608 0.100`)
    const column = (i: number) => Object.fromEntries([...second].filter(([, c]) => c[i] !== undefined).map(([s, c]) => [`${s} AWG`, c[i]]))
    expect(withoutClause(na.circularMils)).toEqual(column(0))
    expect(na.dcResistanceOhmPerKft.copper).toEqual(column(1))
    expect(na.dcResistanceOhmPerKft.aluminium).toEqual(column(2))
  })

  it('240.4(D), 240.6(A), Table 250.122, Table 210.21(B)(3), Table 314.16(B)(1)', () => {
    expect(na.smallConductorLimitA.copper).toEqual({ '14 AWG': 15, '12 AWG': 20, '10 AWG': 30 })
    expect(na.smallConductorLimitA.aluminium).toEqual({ '12 AWG': 15, '10 AWG': 25 })
    const standard = '15 20 25 30 35 40 45 50 60 70 80 90 100 110 125 150 175 200'.split(' ').map(Number)
    expect(na.standardOvercurrentRatingsA.values).toEqual(standard)
    const grounding = { 15: 14, 20: 12, 60: 10, 100: 8, 200: 6 }
    expect(na.equipmentGroundingConductor.upperBoundA).toEqual(Object.keys(grounding).map(Number))
    expect(na.equipmentGroundingConductor.copper).toEqual(Object.values(grounding).map((s) => `${s} AWG`))
    expect(na.receptacleOnBranchCircuit.allowedReceptacleA).toEqual({ 15: [15], 20: [15, 20], 30: [30], 40: [40, 50], 50: [50] })
    expectColumn(na.boxFillAllowanceIn3, ' AWG', '18 1.50\n16 1.75\n14 2.00\n12 2.25\n10 2.50\n8 3.00\n6 5.00')
  })

  it('Table 314.16(A), the boxes that are listed here', () => {
    expect(withoutClause(na.metalBoxVolumeIn3)).toEqual({
      '4 x 1-1/4 round': 12.5,
      '4 x 1-1/2 round': 15.5,
      '4 x 2-1/8 round': 21.5,
      '4 x 1-1/4 square': 18,
      '4 x 1-1/2 square': 21,
      '4 x 2-1/8 square': 30.3,
      '4-11/16 x 1-1/2 square': 29.5,
      '4-11/16 x 2-1/8 square': 42,
      '3 x 2 x 2-1/2 device': 12.5,
      '3 x 2 x 2-3/4 device': 14,
      '3 x 2 x 3-1/2 device': 18,
      '4 x 2-1/8 x 2-1/8 device': 14.5,
    })
  })

  it('Chapter 9 Tables 1, 2, 4 and 5', () => {
    const sizes = ['1/2', '3/4', '1', '1-1/4', '1-1/2', '2']
    const bySize = (...figures: number[]) => Object.fromEntries(figures.map((v, i) => [sizes[i], v]))
    expect(na.racewayInternalAreaIn2.emt).toEqual(bySize(0.304, 0.533, 0.864, 1.496, 2.036, 3.356))
    expect(na.racewayInternalAreaIn2['pvc-40']).toEqual(bySize(0.285, 0.508, 0.832, 1.453, 1.986, 3.291))
    expect(na.racewayInternalAreaIn2['pvc-80']).toEqual(bySize(0.217, 0.409, 0.688, 1.237, 1.711, 2.874))
    expect(na.racewayInternalAreaIn2.fmc).toEqual(bySize(0.317, 0.533, 0.817, 1.277, 1.858, 3.269))
    expect(na.racewayFillLimit).toMatchObject({ one: 0.53, two: 0.31, threeOrMore: 0.4, nipple: 0.6 })
    expect(na.bends.radiusIn).toEqual(bySize(4, 4.5, 5.75, 7.25, 8.25, 9.5))
    expect(na.bends.maxDegreesBetweenPulls).toBe(4 * 90)
    expectColumn(
      na.conductorAreaIn2['thwn-2'],
      ' AWG',
      `14 0.0097
       12 0.0133
       10 0.0211
       8 0.0366
       6 0.0507
       4 0.0824
       3 0.0973
       2 0.1158
       1 0.1562
       1/0 0.1855
       2/0 0.2223
       3/0 0.2679
       4/0 0.3237`,
    )
    expectColumn(na.conductorAreaIn2.bare, ' AWG', '14 0.003\n12 0.005\n10 0.008\n8 0.017\n6 0.027\n4 0.042')
  })

  it('352.44, 300.4, 300.14, 210.52 and 220.82 to 220.83, in the units they are published in', () => {
    // Table 352.44: 0.0338 in for 100 ft and a °F, rounded: 3.38 × 10⁻⁵ a °F, 6.084 × 10⁻⁵ a °C.
    expect(na.pvcExpansion.perC).toBeCloseTo(3.38e-5 * 1.8, 12)
    expect(na.pvcExpansion.fittingAtMm).toBe(6)
    const mm = (inches: number) => Number((inches * 25.4).toFixed(6))
    expect(na.boredHoles.edgeClearMm).toBe(mm(1.25))
    expect(na.boredHoles.joist).toMatchObject({
      maxHoleFraction: 1 / 3,
      minEdgeMm: mm(2),
      notchMaxFraction: 1 / 6,
      endNotchMaxFraction: 1 / 4,
    })
    expect(na.boredHoles.studBearing).toEqual({ maxHoleFraction: 0.4, minEdgeMm: mm(0.625), notchMaxFraction: 0.25 })
    expect(na.boredHoles.studNonBearing).toEqual({ maxHoleFraction: 0.6, minEdgeMm: mm(0.625), notchMaxFraction: 0.4 })
    expect(na.freeConductor).toMatchObject({ minFromSheathMm: mm(6), minOutsideBoxMm: mm(3), minSheathInsideBoxMm: mm(0.25) })
    expect(na.outletSpacing).toMatchObject({
      wallMaxToOutletMm: mm(72),
      wallMinSpaceMm: mm(24),
      counterMaxToOutletMm: mm(24),
      counterMinSpaceMm: mm(12),
      hallwayMm: mm(120),
    })
    expect(na.dwellingDemand).toMatchObject({
      generalVaPerM2: 33,
      smallApplianceVa: 1500,
      laundryVa: 1500,
      optional: { firstVa: 10_000, remainder: 0.4 },
      existing: { firstVa: 8000, remainder: 0.4 },
      hvac: {
        airConditioning: 1,
        heatPump: 1,
        electricHeatLessThanFourUnits: 0.65,
        electricHeatFourOrMoreUnits: 0.4,
        thermalStorage: 1,
      },
    })
  })
})

/** A page with sizes down and methods across. */
const bySizeThenMethod = (text: string) => Object.fromEntries([...page(text)].map(([s, c]) => [`${s} mm2`, c]))

describe('tables of the United Kingdom, written a second time', () => {
  it('Tables 4D5 and 4D1A, current-carrying capacity', () => {
    // Methods 100, 101, 102, 103, C, A.
    const flat = bySizeThenMethod(`
      1.0 13 10.5 13  8   16 11.5
      1.5 16 13   16 10   20 14.5
      2.5 21 17   21 13.5 27 20
      4   27 22   27 17.5 37 26
      6   34 27   35 23.5 47 32
      10  45 36   47 32   64 44
      16  57 46   63 42.5 85 57`)
    expect(uk.ampacityTwinEarth.methodCodes).toEqual(['100', '101', '102', '103', 'C', 'A'])
    expect(withoutClause(uk.ampacityTwinEarth)).toEqual(flat)
    // Methods A, B, C; two cables, single phase.
    const singles = bySizeThenMethod(`
      1.0 11   13.5 15.5
      1.5 14.5 17.5 20
      2.5 20   24   27
      4   26   32   37
      6   34   41   47
      10  46   57   65
      16  61   76   87`)
    expect(uk.ampacitySingles.methodCodes).toEqual(['A', 'B', 'C'])
    expect(withoutClause(uk.ampacitySingles)).toEqual(singles)
  })

  it('voltage drop, resistance, the protective conductor within the sheath', () => {
    const second = page(`
      1.0 44  18.10 1.0
      1.5 29  12.10 1.0
      2.5 18   7.41 1.5
      4   11   4.61 1.5
      6   7.3  3.08 2.5
      10  4.4  1.83 4
      16  2.8  1.15 6`)
    const column = (i: number) => Object.fromEntries([...second].map(([s, c]) => [`${s} mm2`, c[i]]))
    expect(withoutClause(uk.voltDropMvPerAm)).toEqual(column(0))
    expect(withoutClause(uk.resistanceMilliohmPerM20C)).toEqual(column(1))
    expect(Object.values(uk.twinEarthProtectiveConductor).map((s) => Number.parseFloat(s))).toEqual(Object.values(column(2)))
    expect(Object.keys(uk.twinEarthProtectiveConductor)).toEqual(Object.keys(column(2)))
    expect([uk.voltDropLimit.lighting, uk.voltDropLimit.other]).toEqual([0.03, 0.05])
    expect([uk.operatingTemperatureMultiplier.value, uk.adiabaticK.value, uk.rcdTouchVoltageV.value]).toEqual([1.2, 115, 50])
    expect([uk.minSize.lighting, uk.minSize.power]).toEqual(['1.0 mm2', '1.5 mm2'])
  })

  it('Tables 4B1, 4C1 and 52.2', () => {
    const pairs = (list: readonly number[], factors: readonly number[]) => list.map((v, i) => [v, factors[i]])
    expect(pairs(uk.ambientFactor.C, uk.ambientFactor.factor)).toEqual([
      [25, 1.03],
      [30, 1],
      [35, 0.94],
      [40, 0.87],
      [45, 0.79],
      [50, 0.71],
      [55, 0.61],
      [60, 0.5],
    ])
    expect(pairs(uk.groupingFactor.circuits, uk.groupingFactor.factor)).toEqual([
      [1, 1],
      [2, 0.8],
      [3, 0.7],
      [4, 0.65],
      [5, 0.6],
      [6, 0.57],
      [7, 0.54],
      [8, 0.52],
      [9, 0.5],
      [12, 0.45],
      [16, 0.41],
      [20, 0.38],
    ])
    expect(pairs(uk.insulationFactor.lengthMm, uk.insulationFactor.factor)).toEqual([
      [50, 0.88],
      [100, 0.78],
      [200, 0.63],
      [400, 0.51],
      [500, 0.5],
    ])
    expect(uk.insulationFactor.over500).toBe(0.5)
  })

  it('Table 41.3: the published loop limits are what the breakers here come to', () => {
    const published = page(`
      6  7.28 3.64 1.82
      10 4.37 2.19 1.09
      16 2.73 1.37 0.68
      20 2.19 1.09 0.55
      25 1.75 0.87 0.44
      32 1.37 0.68 0.34
      40 1.09 0.55 0.27
      50 0.87 0.44 0.22
      63 0.69 0.35 0.17`)
    for (const [amps, limits] of published)
      for (const [i, type] of (['B', 'C', 'D'] as const).entries())
        expect(Number(maxBreakerZs(unitedKingdom, type, Number(amps)).toFixed(2)), `${type}${amps}`).toBe(limits[i])
    expect(uk.circuitBreakerRatingsA).toEqual([6, 10, 16, 20, 25, 32, 40, 45, 50, 63])
    expect(uk.magneticMultiple).toEqual({ B: 5, C: 10, D: 20 })
    expect([uk.nominalV, uk.cmin]).toEqual([230, 0.95])
  })

  it('conduit factors of the on-site guidance', () => {
    const { short, long } = uk.conduitFactors
    const cables = page(`
      1.0  22  16
      1.5  31  22
      2.5  43  30
      4    58  43
      6    88  58
      10  146 105
      16  202 145`)
    expect(short.cable).toEqual(Object.fromEntries([...cables].map(([s, c]) => [`${s} mm2`, c[0]])))
    expect(long.cable).toEqual(Object.fromEntries([...cables].map(([s, c]) => [`${s} mm2`, c[1]])))
    expect(short.conduit).toEqual({ 16: 290, 20: 460, 25: 800, 32: 1400 })
    const oneBend = page(`
      1   188 303 543 947
      1.5 182 294 528 923
      2   177 286 514 900
      2.5 171 278 500 878
      3   167 270 487 857
      3.5 162 263 475 837
      4   158 256 463 818
      4.5 154 250 452 800
      5   150 244 442 783
      6   143 233 422 750
      7   136 222 404 720
      8   130 213 388 692
      9   125 204 373 667
      10  120 196 358 643`)
    for (const [m, factors] of oneBend) {
      const row = (long.withOneBendM as readonly number[]).indexOf(Number(m))
      expect(row, `${m} m`).toBeGreaterThanOrEqual(0)
      expect((['16', '20', '25', '32'] as const).map((d) => long.conduit[d][row])).toEqual(factors)
    }
    for (const d of ['16', '20', '25', '32'] as const) {
      expect(long.conduit[d]).toHaveLength(long.withOneBendM.length)
      expect(long.conduit[d].every((v, i) => i === 0 || v < long.conduit[d][i - 1]!)).toBe(true)
    }
  })

  it('diversity, fuses, rings, holes and heights', () => {
    expect(uk.diversity).toMatchObject({
      lighting: 0.66,
      cooker: { firstA: 10, remainder: 0.3, socketA: 5 },
      heating: { firstA: 10, remainder: 0.5 },
      instantWaterHeater: { first: 1, second: 1, remaining: 0.25 },
      storageWaterHeater: 1,
      vehicleCharging: 1,
      socketCircuits: { largest: 1, others: 0.4 },
      fixedEquipment: { largest: 1, others: 0.4 },
    })
    expect(uk.plugAndSpurFusesA).toEqual([3, 5, 13])
    expect(uk.ring).toMatchObject({ deviceA: [30, 32], minSize: '2.5 mm2', minCapacityA: 20 })
    expect(uk.holes).toMatchObject({
      holeMaxDepthFraction: 1 / 4,
      holeFromSpan: 1 / 4,
      holeToSpan: 2 / 5,
      holeSpacingDiameters: 3,
      notchMaxDepthFraction: 1 / 8,
      notchFromSpan: 0.07,
      notchToSpan: 1 / 4,
      cableBelowSurfaceMm: 50,
    })
    expect(uk.safeZoneMm.fromCornerOrCeiling).toBe(150)
    expect([uk.socketHeightMm.min, uk.socketHeightMm.max]).toEqual([450, 1200])
  })
})

describe('tables of southern Africa, written a second time', () => {
  it('IEC 60364-5-52 Tables B.52.2, B.52.14 and B.52.17; IEC 60228', () => {
    // Methods A1, A2, B1, B2, C.
    const second = bySizeThenMethod(`
      1.5 14.5 14   17.5 16.5 19.5
      2.5 19.5 18.5  24   23   27
      4    26   25   32   30   36
      6    34   32   41   38   46
      10   46   43   57   52   63
      16   61   57   76   69   85
      25   80   75  101   90  112`)
    expect(za.ampacity.methods).toEqual(['A1', 'A2', 'B1', 'B2', 'C'])
    expect(withoutClause(za.ampacity)).toEqual(second)
    const heat = page('10 1.22\n15 1.17\n20 1.12\n25 1.06\n30 1\n35 0.94\n40 0.87\n45 0.79\n50 0.71\n55 0.61\n60 0.50')
    expect(za.ambientFactor.C).toEqual([...heat.keys()].map(Number))
    expect(za.ambientFactor.factor).toEqual([...heat.values()].map(([f]) => f))
    const together = page('1 1\n2 0.80\n3 0.70\n4 0.65\n5 0.60\n6 0.57\n7 0.54\n8 0.52\n9 0.50\n12 0.45\n16 0.41\n20 0.38')
    expect(za.groupingFactor.circuits).toEqual([...together.keys()].map(Number))
    expect(za.groupingFactor.factor).toEqual([...together.values()].map(([f]) => f))
    expectColumn(za.resistanceMilliohmPerM20C, ' mm2', '1.5 12.1\n2.5 7.41\n4 4.61\n6 3.08\n10 1.83\n16 1.15\n25 0.727')
    expectColumn(za.voltDropMvPerAm, ' mm2', '1.5 29\n2.5 18\n4 11\n6 7.3\n10 4.4\n16 2.8\n25 1.75')
    expect([za.voltDropLimit.lighting, za.voltDropLimit.other, za.nominalV, za.cmin, za.earthLeakageMa]).toEqual([
      0.05, 0.05, 230, 0.95, 30,
    ])
    expect([za.operatingTemperatureMultiplier.value, za.adiabaticK.value]).toEqual([1.2, 115])
    expect(za.magneticMultiple).toEqual({ B: 5, C: 10, D: 20 })
    expect(za.circuitBreakerRatingsA).toEqual([5, 10, 15, 20, 25, 30, 32, 40, 50, 60, 63])
  })
})
