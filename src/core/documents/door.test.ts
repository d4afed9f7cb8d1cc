import { describe, expect, it } from 'vitest'
import { chartChanges, chartWords, type DoorLine } from './door'

const line = (place: string, feeds: string, more: Partial<DoorLine> = {}): DoorLine => ({
  place,
  feeds,
  rating: 'B16 A',
  label: 'Lights',
  proved: true,
  behind: '',
  ...more,
})

describe('the circuit chart against one that was kept', () => {
  it('names each way that was put in, taken out or changed, and none that is as it was', () => {
    const kept = [line('1', 'Stage'), line('2', 'Kitchen'), line('?', 'Old'), line('?', 'Older')]
    const now = [line('1', 'Stage'), line('2', 'Kitchen', { rating: 'B32 A' }), line('3', 'Fan'), line('?', 'Old')]
    expect(chartChanges(kept, now).map((c) => [c.place, c.was && chartWords(c.was), c.now && chartWords(c.now)])).toEqual([
      ['2', 'Lights; B16 A; Kitchen', 'Lights; B32 A; Kitchen'],
      ['?', 'Lights; B16 A; Older', null],
      ['3', null, 'Lights; B16 A; Fan'],
    ])
    expect(chartChanges(kept, kept)).toEqual([])
  })
  it('counts what was proved, relabelled or put behind another device as changed', () => {
    for (const more of [{ feeds: 'Stage (new; not tested yet)' }, { label: 'Stage' }, { behind: 'RCD 1' }])
      expect(chartChanges([line('1', 'Stage')], [line('1', 'Stage', more)])).toHaveLength(1)
  })
})
