import { describe, expect, it } from 'vitest'
import { cableConductors, markOf, wireColours } from './colours'
import { metricRegions, stepFactor } from './metric'
import {
  naAmbientFactor,
  naAmpacityA,
  naCables,
  naCableSizes,
  naCircularMils,
  naGroundingSize,
  naGroupingFactor,
  naOhmPerKft,
  naReceptaclesOnBreaker,
  naSizes,
  naSmallConductorLimitA,
} from './north-america/awg'
import { regionIds } from './types'
import { cableNames, methodNames } from './vocabulary'
import { worlds } from './worlds'

describe('the mark of a core', () => {
  it('is asked of no protective conductor and of no spare, whatever their colour', () => {
    for (const region of regionIds)
      for (const colour of Object.keys(wireColours) as (keyof typeof wireColours)[])
        for (const role of ['pe', 'spare'] as const) expect(markOf(region, 'new', colour, role)).toEqual({})
    expect(markOf('united-kingdom', 'new', 'grey', 'neutral')).toMatchObject({ remark: 'blue' })
    expect(markOf('united-kingdom', 'new', 'blue', 'neutral')).toEqual({})
    expect(markOf('north-america', 'new', 'white', 'line')).toMatchObject({ remark: 'red', clause: '200.7(C)' })
  })
})

const rising = (list: readonly number[]) => list.every((v, i) => i === 0 || v > list[i - 1]!)

describe('rows of the North American tables', () => {
  const edges = (bound: number) => ({ within: [bound, bound * (1 - 1e-6), bound * (1 + 5e-10)], beyond: bound * (1 + 1e-6) })
  it('of heat hold up to their bound, to 1e-9, and no further', () => {
    for (const insulation of [60, 75, 90] as const)
      for (let bound = 10; bound < 55; bound += 5) {
        const { within, beyond } = edges(bound)
        for (const at of within) expect(naAmbientFactor(at, insulation)).toBe(naAmbientFactor(bound, insulation))
        expect(naAmbientFactor(beyond, insulation)).toBe(naAmbientFactor(bound + 5, insulation))
        expect(naAmbientFactor(beyond, insulation)).toBeLessThan(naAmbientFactor(bound, insulation)!)
      }
    expect(naAmbientFactor(55.001, 60)).toBeUndefined()
    expect(naAmbientFactor(70.001, 75)).toBeUndefined()
    expect(naAmbientFactor(85.001, 90)).toBeUndefined()
  })
  it('of conductors together change with the one after the bound', () => {
    const at = [3, 4, 6, 7, 9, 10, 20, 21, 30, 31, 40, 41, 500]
    expect(at.map(naGroupingFactor)).toEqual([1, 0.8, 0.8, 0.7, 0.7, 0.5, 0.5, 0.45, 0.45, 0.4, 0.4, 0.35, 0.35])
  })
  it('of grounding conductors change with the rating after the bound', () => {
    const at = [15, 20, 25, 60, 70, 100, 110, 200]
    expect(at.map(naGroundingSize)).toEqual(['14', '12', '10', '10', '8', '8', '6', '6'].map((s) => `${s} AWG`))
  })
})

describe('the North American tables', () => {
  it.each(['copper', 'aluminium'] as const)('%s carries more and resists less the larger it is', (metal) => {
    const sizes = naCableSizes('thwn-2', metal)
    for (const column of [60, 75, 90] as const) expect(rising(sizes.map((s) => naAmpacityA(metal, s, column)!))).toBe(true)
    expect(rising(sizes.map((s) => -naOhmPerKft(metal, s)!))).toBe(true)
  })
  it('circular mils rise with size', () => expect(rising(naSizes.map(naCircularMils))).toBe(true))
  it('rows hold up to and including their bound', () => {
    expect(naAmbientFactor(30, 90)).toBe(1)
    expect(naAmbientFactor(30.1, 90)).toBe(0.96)
    expect(naAmbientFactor(-40, 60)).toBe(1.29)
    expect(naAmbientFactor(55, 60)).toBe(0.41)
    expect(naAmbientFactor(55.1, 60)).toBeUndefined()
    expect(naAmbientFactor(86, 90)).toBeUndefined()
    expect([3, 4, 6, 7, 9, 10, 20, 21, 30, 31, 40, 41].map(naGroupingFactor)).toEqual([
      1, 0.8, 0.8, 0.7, 0.7, 0.5, 0.5, 0.45, 0.45, 0.4, 0.4, 0.35,
    ])
    expect([15, 20, 21, 60, 61, 100, 101, 200].map(naGroundingSize)).toEqual([
      '14 AWG',
      '12 AWG',
      '10 AWG',
      '10 AWG',
      '8 AWG',
      '8 AWG',
      '6 AWG',
      '6 AWG',
    ])
  })
  it('non-metallic cable stops at 2 AWG and has no small aluminium', () => {
    expect(naCableSizes('nm-b', 'copper').at(-1)).toBe('2 AWG')
    expect(naCableSizes('nm-b', 'aluminium')[0]).toBe('12 AWG')
    expect(naCableSizes('thwn-2', 'copper').at(-1)).toBe('4/0 AWG')
  })
  it('small conductors have their limits, and large ones none', () => {
    expect(naSmallConductorLimitA('copper', '12 AWG')).toBe(20)
    expect(naSmallConductorLimitA('aluminium', '12 AWG')).toBe(15)
    expect(naSmallConductorLimitA('copper', '8 AWG')).toBeUndefined()
  })
  it('receptacles by breaker', () => {
    expect(naReceptaclesOnBreaker(20)).toEqual([15, 20])
    expect(naReceptaclesOnBreaker(25)).toEqual([])
  })
})

describe.each(Object.values(metricRegions))('the tables of $id', (region) => {
  it('carry more the larger the cable, by every method', () => {
    for (const cable of Object.values(region.cables))
      cable.methods.forEach((_, column) => {
        const list = Object.values(cable.rows).map((row) => row[column]!)
        expect(list.every((v) => v > 0)).toBe(true)
        expect(rising(list)).toBe(true)
      })
  })
  it('every size has a resistance and a voltage drop, falling with size', () => {
    const sizes = [...new Set(Object.values(region.cables).flatMap((c) => Object.keys(c.rows)))]
    for (const table of [region.usual.milliOhmPerMetre20C, region.usual.milliVoltPerAmpereMetre]) {
      expect(sizes.filter((s) => table[s] === undefined)).toEqual([])
      expect(rising(sizes.toSorted((a, b) => Number.parseFloat(a) - Number.parseFloat(b)).map((s) => -table[s]!))).toBe(true)
    }
  })
  it('factors fall, and take the next step up', () => {
    expect(rising(region.usual.ambient.factor.map((f) => -f))).toBe(true)
    expect(rising(region.usual.grouping.factor.map((f) => -f))).toBe(true)
    expect(stepFactor(region.usual.ambient, 30)).toBe(1)
    expect(stepFactor(region.usual.ambient, 30.5)).toBe(0.94)
    expect(stepFactor(region.usual.grouping, 10)).toBe(0.45)
    expect(stepFactor(region.usual.grouping, 21)).toBeUndefined()
  })
  it('each row holds up to its bound, to 1e-9, and no further', () => {
    for (const table of [region.usual.ambient, region.usual.grouping, ...(region.usual.insulation ? [region.usual.insulation] : [])])
      table.upTo.forEach((bound, i) => {
        for (const at of [bound, bound * (1 - 1e-6), bound * (1 + 5e-10)]) expect(stepFactor(table, at)).toBe(table.factor[i])
        expect(stepFactor(table, bound * (1 + 1e-6))).toBe(table.factor[i + 1])
      })
    expect(stepFactor(region.usual.ambient, 40.0000000004)).toBe(0.87)
  })
  it('every cable and method has a name for the screen', () => {
    for (const [id, cable] of Object.entries(region.cables)) {
      expect(cableNames[id]).toBeDefined()
      for (const m of cable.methods) expect(methodNames[m]).toBeDefined()
    }
  })
})

describe('words and colours', () => {
  it('every world has all its words', () => {
    for (const id of regionIds) for (const word of Object.values(worlds[id].words)) expect(word).toMatch(/\w/)
    for (const c of naCables) expect(cableNames[c]).toBeDefined()
  })
  it('no two colours share their letters', () => {
    const letters = Object.values(wireColours).map((c) => c.letter)
    expect(new Set(letters).size).toBe(letters.length)
  })
  it('the neutral is blue now and was black once; white is re-marked where it is a line', () => {
    const find = (list: ReturnType<typeof cableConductors>, role: string) => list.find((c) => c.role === role)!
    expect(find(cableConductors('united-kingdom', 'line-neutral', 'new'), 'neutral').colour).toBe('blue')
    expect(find(cableConductors('southern-africa', 'line-neutral', 'old'), 'neutral').colour).toBe('black')
    expect(find(cableConductors('north-america', 'line-line', 'new'), 'line-2')).toMatchObject({ colour: 'white', remark: 'red' })
    expect(find(cableConductors('north-america', 'line-line-neutral', 'new'), 'neutral').remark).toBeUndefined()
  })
})
