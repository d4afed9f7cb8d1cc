import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { unitedKingdom } from '../region/metric'
import { worlds } from '../region/worlds'
import { ampacity } from './ampacity'
import { selectCircuit } from './select-circuit'

/** A 90 °C thermosetting cable as somebody would add it: entry and data, no line of code. */
const cables = unitedKingdom.cables as Record<string, (typeof unitedKingdom.cables)[string]>
const usual = cables['twin-earth']!
const at = { region: 'united-kingdom', size: '2.5 mm2', method: 'clipped-direct', groupedCircuits: 1 } as const
const circuit = (cable: string) =>
  selectCircuit({
    region: 'united-kingdom',
    load: { volts: 230, watts: 5000, continuous: false, lighting: false },
    cable,
    breakerType: 'B',
    run: { lengthM: 20, ambientC: 50, groupedCircuits: 1, method: 'clipped-direct', insulationMm: 0 },
    supply: { zeOhm: 0.3 },
  } as Parameters<typeof selectCircuit>[0])

beforeAll(() => {
  cables.thermosetting = {
    ...usual,
    clause: 'Table 4E2A',
    rows: { '2.5 mm2': [0, 0, 0, 0, 36, 0], '4 mm2': [0, 0, 0, 0, 49, 0] },
    data: {
      ...usual.data,
      ambient: { clause: 'Table 4B1, 90 °C', upTo: [30, 50, 60], factor: [1, 0.82, 0.71] },
      milliVoltPerAmpereMetre: { '2.5 mm2': 19, '4 mm2': 12 },
      operatingMultiplier: 1.28,
    },
  }
})
afterAll(() => {
  delete cables.thermosetting
})

describe('a cable added as data', () => {
  it('is rated by its own table and its own factor for heat', () => {
    expect(ampacity({ ...at, cable: 'thermosetting', ambientC: 50 } as Parameters<typeof ampacity>[0])).toMatchObject({
      tabulatedA: 36,
      ambientFactor: 0.82,
      ampacityA: 36 * 0.82,
    })
    expect(ampacity({ ...at, cable: 'twin-earth', ambientC: 50 } as Parameters<typeof ampacity>[0]).ambientFactor).toBe(0.71)
  })
  it('is chosen by its own drop and its own hot resistance', () => {
    const own = circuit('thermosetting')
    const loadA = 5000 / 230
    expect(own.size).toBe('2.5 mm2')
    expect(own.dropPercent).toBeCloseTo((0.019 * 20 * loadA * 100) / 230, 9)
    expect(own.zsOhm).toBeCloseTo(0.3 + ((7.41 + 12.1) * 20 * 1.28) / 1000, 9)
    // The usual cable, of lower temperature, needs the next size there.
    expect(circuit('twin-earth').size).toBe('4 mm2')
  })
  it('is asked for by the world, with the sizes it is made in', () => {
    const { sizes, dropPerAm, protectiveSize } = worlds['united-kingdom']
    expect(sizes('thermosetting', 'copper')).toEqual(['2.5 mm2', '4 mm2'])
    expect(dropPerAm('4 mm2', 'copper', 'thermosetting')).toBe(0.012)
    expect(protectiveSize('thermosetting', '4 mm2', 32)).toBe('1.5 mm2')
  })
})
