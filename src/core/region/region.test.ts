import { describe, expect, it } from 'vitest'
import { cableConductors, wireColours } from './colours'
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
} from './north-america'
import { regionIds } from './types'
import { cableNames, methodNames, vocabularies } from './vocabulary'

const rising = (list: readonly number[]) => list.every((v, i) => i === 0 || v > list[i - 1]!)

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
    for (const table of [region.milliOhmPerMetre20C, region.milliVoltPerAmpereMetre]) {
      expect(sizes.filter((s) => table[s] === undefined)).toEqual([])
      expect(rising(sizes.toSorted((a, b) => Number.parseFloat(a) - Number.parseFloat(b)).map((s) => -table[s]!))).toBe(true)
    }
  })
  it('factors fall, and take the next step up', () => {
    expect(rising(region.ambient.factor.map((f) => -f))).toBe(true)
    expect(rising(region.grouping.factor.map((f) => -f))).toBe(true)
    expect(stepFactor(region.ambient, 30)).toBe(1)
    expect(stepFactor(region.ambient, 30.5)).toBe(0.94)
    expect(stepFactor(region.grouping, 10)).toBe(0.45)
    expect(stepFactor(region.grouping, 21)).toBeUndefined()
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
    for (const id of regionIds) for (const word of Object.values(vocabularies[id])) expect(word).toMatch(/\w/)
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
