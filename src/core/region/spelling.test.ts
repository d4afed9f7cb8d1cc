import { describe, expect, it } from 'vitest'
import { applyEdit } from '../job/edits'
import { blankPoint } from '../job/point'
import { newJob } from '../job/schema'
import { inJob, inRegion } from './spelling'

describe('words that hold in every world', () => {
  it('are spelt and said as the North American trade does', () => {
    const said: [string, string][] = [
      ['Is any of its conductors aluminium?', 'Is any of its conductors aluminum?'],
      ['Aluminium branch wiring', 'Aluminum branch wiring'],
      ['Is there a means of earthing, seen and measured?', 'Is there a means of grounding, seen and measured?'],
      ['Without an earth the protection cannot work.', 'Without a ground the protection cannot work.'],
      ['Earth electrode absent or poor', 'Ground electrode absent or poor'],
      ['Outlet without residual current protection', 'Outlet without GFCI protection'],
      ['Line and neutral reversed', 'Hot and neutral reversed'],
      ['Conductors in the colours before today’s', 'Conductors in the colors before today’s'],
    ]
    for (const [everywhere, there] of said) expect(inRegion('north-america', everywhere)).toBe(there)
  })
  it('are left as they are elsewhere, and where nothing is said otherwise', () => {
    for (const region of ['united-kingdom', 'southern-africa'] as const)
      expect(inRegion(region, 'Earth, aluminium, colour')).toBe('Earth, aluminium, colour')
    expect(inRegion('north-america', 'An earthenware tile, unearthed')).toBe('An earthenware tile, unearthed')
  })
})

describe('the sentences of a job', () => {
  const job = (region: 'north-america' | 'united-kingdom') =>
    applyEdit(newJob(region, 'Board games room', 'Former dairy'), {
      kind: 'point.add',
      points: [blankPoint('p', 'Notice board light')],
    }).job
  it('call a board and its ways as the trade does there', () => {
    const said: [string, string][] = [
      ['Ze measured at the board', 'Ze measured at the panel'],
      ['Upstream of the board', 'Upstream of the panel'],
      ['Ways of the board', 'Spaces of the panel'],
      ['Way', 'Space'],
      ['12 free ways', '12 free spaces'],
      ['Lever connector, 3 conductors', 'Lever connector, 3 conductors'],
      ['Add a way', 'Add a space'],
      ['Sub-board', 'Subpanel'],
      ['An earthed point of the sub-board', 'A grounded point of the subpanel'],
      ['All ways off, by the way', 'All ways off, by the way'],
    ]
    for (const [everywhere, there] of said) {
      expect(inJob(job('north-america'), everywhere)).toBe(there)
      expect(inJob(job('united-kingdom'), everywhere)).toBe(everywhere)
    }
  })
  it('keep a note and a finding of a report as they were written', () => {
    const noted = applyEdit(job('north-america'), { kind: 'brief.set', patch: { existing: 'Old board by the stair, no earth' } }).job
    expect(inJob(noted, 'There now: Old board by the stair, no earth. Look at the board.')).toBe(
      'There now: Old board by the stair, no earth. Look at the panel.',
    )
  })
  it('keep what people named as they wrote it', () => {
    expect(inJob(job('north-america'), 'Notice board light: label it at the board.')).toBe('Notice board light: label it at the panel.')
    expect(inJob(job('north-america'), 'Board games room: board')).toBe('Board games room: panel')
  })
})
