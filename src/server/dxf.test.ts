import { describe, expect, it } from 'vitest'
import { bendingDrawing } from '../core/drawing/bending'
import { line, text } from '../core/drawing/shape'
import { bending } from '@/core/calculate/bending'
import { dxfLines } from '../core/building/dxf-lines'
import { roomsFromLines } from '../core/building/from-lines'
import { buildingOf } from '../core/installation/building'
import { noWay, planDrawing } from '../core/drawing/plan'
import { demoJobs } from '../core/demo/demo'
import { after, newJob } from '../../tests/support/shorthand'
import { dxfFile } from './dxf'

/** A file read back plainly: its pairs of code and value, entity by entity. */
function entitiesIn(file: string): { kind: string; pairs: [number, string][] }[] {
  const lines = file.split(/\r?\n/)
  const pairs = Array.from({ length: Math.floor(lines.length / 2) }, (_, i): [number, string] => [
    Number(lines[2 * i]),
    lines[2 * i + 1]!.trim(),
  ])
  const from = pairs.findIndex(([code, value]) => code === 2 && value === 'ENTITIES')
  const found: { kind: string; pairs: [number, string][] }[] = []
  for (const [code, value] of pairs.slice(from + 1)) {
    if (code === 0 && value === 'ENDSEC') break
    if (code === 0) found.push({ kind: value, pairs: [] })
    else found.at(-1)?.pairs.push([code, value])
  }
  return found
}
const values = (e: { pairs: [number, string][] }, code: number) => e.pairs.flatMap(([c, v]) => (c === code ? [v] : []))

describe('a file for a drawing program', () => {
  const drawing = {
    width: 100,
    height: 50,
    title: 'x',
    mmPerUnit: 20,
    shapes: [
      { kind: 'rect' as const, x: 10, y: 10, w: 30, h: 20, fill: 'sheet' as const, stroke: 'ink' as const },
      { kind: 'rect' as const, x: 0, y: 0, w: 5, h: 5, fill: 'paper' as const },
      line(0, 40, 50, 40, { cap: 'round' }),
      text(10, 45, 'Store, Lager – é', 12),
    ],
  }
  it('is in millimetres, the right way up, each kind of thing on its layer', () => {
    const [wall, way, words, name] = entitiesIn(dxfFile([{ name: 'Plan', drawing }]))
    expect(wall).toMatchObject({ kind: 'LWPOLYLINE' })
    expect([values(wall!, 8), values(way!, 8), values(words!, 8)]).toEqual([['house'], ['way'], ['words']])
    expect([values(wall!, 10), values(wall!, 20)].map((list) => list.map(Number))).toEqual([
      [200, 800, 800, 200],
      [800, 800, 400, 400],
    ])
    expect([values(way!, 10), values(way!, 20)].map((list) => list.map(Number))).toEqual([
      [0, 1000],
      [200, 200],
    ])
    expect(values(words!, 1)).toEqual(['Store, Lager – é'])
    expect(values(name!, 1)).toEqual(['Plan'])
    // What has no outline is a ground for words, and no thing.
    expect(entitiesIn(dxfFile([{ name: 'Plan', drawing }]))).toHaveLength(4)
  })
  it('puts sheets beside each other, and leaves out what is not to scale', () => {
    const bent = bendingDrawing(
      bending({ items: [{ kind: 'straight', lengthMm: 900 }], radiusMm: 100, takeUpMm: null, stockMm: null }),
      'metric',
    )
    const found = entitiesIn(
      dxfFile([
        { name: 'A', drawing },
        { name: 'bent', drawing: bent },
        { name: 'B', drawing },
      ]),
    )
    expect(found).toHaveLength(8)
    expect(values(found[4]!, 10).map(Number)[0]).toBe(200 + 2000 + 1000)
  })
  it('of a plan is read again as the rooms that were drawn', () => {
    for (const demo of demoJobs) {
      const { input, rooms } = buildingOf(after(newJob(demo.region, demo.title, ''), ...demo.edits).record)
      if (!input) continue
      const bareWalls = { ...input, openings: [], points: [], boards: [] }
      const drawing = planDrawing({
        view: 'plan',
        floor: 0,
        input: bareWalls,
        rooms,
        names: new Map(),
        ...noWay,
        region: demo.region,
        units: 'metric',
        format: 'wide',
      })
      const read = dxfLines(dxfFile([{ name: 'Plan', drawing }]))
      if ('wrong' in read) throw new Error(read.wrong)
      const lines = read.layers.flatMap((l) =>
        l.lines.map(({ a, b }) => ({
          a: [a[0] * read.unitM!, a[1] * read.unitM!] as const,
          b: [b[0] * read.unitM!, b[1] * read.unitM!] as const,
        })),
      )
      const sizes = (list: readonly (readonly [number, number])[]) => list.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).toSorted()
      const drawn = rooms.filter((r) => r.floor === 0).map((r) => [r.east - r.west, r.north - r.south] as const)
      expect(sizes(roomsFromLines(lines).rooms.map((r) => [r.lengthM, r.widthM] as const))).toEqual(sizes(drawn))
    }
  })
})
