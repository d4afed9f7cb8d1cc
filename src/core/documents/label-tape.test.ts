import fc from 'fast-check'
import jsqr from 'jsqr'
import { describe, expect, it } from 'vitest'
import { labelDrawing } from '../drawing/label'
import { evaluate } from '../evaluate/evaluate'
import { newLabels, tapeWidthsMm } from '../job/label'
import { made, placed, type Short } from '../../../tests/support/shorthand'
import { abbreviated, asPrinted, labelPath, LEAST_CODE_MM, onTape } from './label-tape'
import { ems } from './label-type'
import { circuitLabels, type Label, otherLabels } from './labels'
import { labelFindings, labelKey, labelStates, labelText } from './stuck-labels'

const label = (lines: readonly string[], more: Partial<Label> = {}): Label => ({
  id: 'l',
  place: 'cable-point',
  circuit: 'c1',
  where: 'Cable at Bench',
  at: 'b',
  cable: 'k',
  widthMm: 60,
  heightMm: 18,
  lines,
  ...more,
})
const texts = (l: Label) => labelDrawing(l).shapes.flatMap((s) => (s.kind === 'text' ? [s] : []))

describe('a label on tape', () => {
  it('is set so that it is read and cut nowhere, in the rows that the tape takes', () => {
    fc.assert(
      fc.property(
        fc.array(fc.string({ minLength: 1, maxLength: 60 }), { minLength: 1, maxLength: 7 }),
        fc.constantFrom(...tapeWidthsMm),
        (lines, mm) => {
          const taped = onTape(label(lines), mm)
          const drawn = texts(taped)
          expect(taped.heightMm).toBe(mm)
          expect(taped.lines.join(', ')).toBe(lines.join(', '))
          expect(drawn.map((t) => t.text)).toEqual(taped.lines)
          for (const t of drawn) {
            expect(t.size).toBeGreaterThanOrEqual(1.8 - 1e-9)
            expect(t.x + ems(t.text) * t.size).toBeLessThanOrEqual(taped.widthMm - 1 + 1e-6)
            expect(t.y).toBeLessThanOrEqual(mm - 1 + 1e-6)
            expect(t.y - t.size).toBeGreaterThanOrEqual(0)
          }
        },
      ),
    )
  })
  it('says on either side of the longest that its place takes whether it fits', () => {
    const fits = (letters: number) => onTape(label(['x'.repeat(letters)], { place: 'board' }), 6)
    // One row. Type of 3.2 mm is 2.176 mm a letter; of 2.5 mm, below which it is not read well, 1.7; the smallest, 1.8 mm, 1.224.
    expect([fits(20).widthMm, fits(20).fits]).toEqual([46, true])
    expect([texts(onTape(label(['x'.repeat(57)], { place: 'board' }), 6))[0]!.size >= 2.5, fits(57).fits]).toEqual([true, true])
    expect([texts(onTape(label(['x'.repeat(58)], { place: 'board' }), 6))[0]!.size >= 2.5, fits(58).fits]).toEqual([false, true])
    expect([fits(79).fits, fits(81).fits]).toEqual([true, false])
  })
})

describe('the firm’s abbreviations', () => {
  const firm = [
    { word: 'bottling bench', short: 'B.bench' },
    { word: 'bench', short: 'bn.' },
    { word: 'C++', short: 'c' },
  ]
  it('take the place of whole words alone, the longest first, whatever their case', () => {
    expect(abbreviated('From Bottling Bench to bench, left; workbench', firm)).toBe('From B.bench to bn., left; workbench')
    expect(abbreviated('a C++ b', firm)).toBe('a c b')
    expect(abbreviated('Bench', [])).toBe('Bench')
  })
  it('are used only where a label is too long for its place, before its type is made smaller', () => {
    const long = label(['bench '.repeat(11).trim()], { place: 'board' })
    const [full, short] = [onTape(long, 6), onTape(long, 6, firm)]
    expect(full.lines[0]).toContain('bench')
    expect(texts(full)[0]!.size).toBeLessThan(2.5)
    expect(short.lines[0]).toBe('bn. '.repeat(11).trim())
    expect(texts(short)[0]!.size).toBeGreaterThanOrEqual(2.5)
    expect(onTape(label(['bench'], { place: 'board' }), 6, firm).lines).toEqual(['bench'])
  })
})

/** Reads the QR code of a drawing, as a telephone would. */
function codeOf(l: Label): string | null {
  const path = labelDrawing(l).shapes.find((s) => s.kind === 'path')
  if (path?.kind !== 'path') return null
  const runs = [...path.d.matchAll(/M([\d.]+) ([\d.]+)h([\d.]+)v([\d.]+)/g)].map(
    (m) => m.slice(1).map(Number) as [number, number, number, number],
  )
  const step = runs[0]![3]
  const [left, top] = [Math.min(...runs.map((r) => r[0])), Math.min(...runs.map((r) => r[1]))]
  const [QUIET, DOTS] = [4, 4]
  const n = Math.round(Math.max(...runs.map((r) => r[1] - top)) / step) + 1
  const side = (n + 2 * QUIET) * DOTS
  const image = new Uint8ClampedArray(side * side * 4).fill(255)
  for (const [x, y, wide] of runs)
    for (let px = Math.round((x - left) / step) * DOTS; px < Math.round((x - left + wide) / step) * DOTS; px++)
      for (let py = 0; py < DOTS; py++)
        for (let c = 0; c < 3; c++) image[(((Math.round((y - top) / step) + QUIET) * DOTS + py) * side + QUIET * DOTS + px) * 4 + c] = 0
  const read = (jsqr as unknown as { default?: typeof jsqr }).default ?? jsqr
  return read(image, side, side)?.data ?? null
}

describe('the code of a label', () => {
  const record = { ...newLabels(), address: 'https://van.example:8443/' }
  const printed = (more: Partial<typeof record>, l = label(['3 Bench', 'Permanent feed'])) =>
    asPrinted([l], { ...record, ...more }, 'job-1')[0]!
  it('is read back, and leads to its circuit in the record', () => {
    expect(codeOf(printed({}))).toBe('https://van.example:8443/jobs/job-1/circuit?sheet=this&circuit=c1')
    expect(codeOf(printed({ tapeMm: 24 }))).toBe('https://van.example:8443/jobs/job-1/circuit?sheet=this&circuit=c1')
  })
  it('is left out where there is no room for it, and where none is wanted', () => {
    expect(LEAST_CODE_MM).toBe(18)
    expect(codeOf(printed({ tapeMm: 12 }))).toBeNull()
    expect(codeOf(printed({ tapeMm: 18 }))).not.toBeNull()
    expect(codeOf(asPrinted([label(['3'])], newLabels(), 'job-1')[0]!)).toBeNull()
  })
})

describe('a code that is read', () => {
  const path = '/jobs/job-1/circuit?sheet=this&circuit=c1'
  it('leads to what its label names, at whatever address the label was printed', () => {
    for (const address of ['https://van.example:8443', 'http://127.0.0.1:3000', 'http://192.0.2.7'])
      expect(labelPath(asPrinted([label(['3'])], { ...newLabels(), address }, 'job-1')[0]!.link!)).toBe(path)
    const loose = asPrinted([label(['Cable to shelf'], { circuit: null })], { ...newLabels(), address: 'http://a.example' }, 'j')[0]!
    expect(labelPath(loose.link!)).toBe('/jobs/j/survey?sheet=points')
  })
  it('of anything else leads nowhere', () => {
    for (const text of [
      '',
      'WIFI:S:hall;;',
      'https://elsewhere.example/',
      `ftp://van.example${path}`,
      'javascript:/jobs/j/circuit',
      'https://van.example/api/jobs/job-1/circuit',
      'https://van.example//evil.example/jobs/j/circuit',
      'https://van.example/jobs/../../jobs/circuit',
      path,
    ])
      expect(labelPath(text), text).toBeNull()
  })
  it('is no path but a job’s', () => {
    fc.assert(
      fc.property(fc.webUrl({ withQueryParameters: true }), (url) => {
        const to = labelPath(url)
        expect(to === null || to.startsWith('/jobs/')).toBe(true)
      }),
    )
  })
})

describe('labels that were stuck', () => {
  const points: Short = {
    kind: 'circuit-point.add',
    circuit: 'c1',
    points: [placed('a', 'Bench', { lengthM: 8, watts: 300 }), placed('b', 'Shelf', { from: 'a', lengthM: 4, watts: 300 })],
  }
  const fitted: Short = { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'uk-socket-13' } }
  const labelsOf = (job: ReturnType<typeof made>) => [
    ...evaluate(job, []).circuits.flatMap((c) => circuitLabels(job, c, '', 'metric')),
    ...otherLabels(job, ''),
  ]
  const before = made('united-kingdom', points, fitted)
  const stuck: Short = {
    kind: 'labels.stick',
    items: labelsOf(before).map((l) => ({ key: labelKey(l), text: labelText(l), at: '2026-12-01T08:00:00.000Z' })),
  }
  it('are true until something on them is changed; then those are named, and no others', () => {
    const same = made('united-kingdom', points, fitted, stuck)
    expect(labelFindings(same, labelsOf(same))).toEqual([])
    const renamed = made('united-kingdom', points, fitted, stuck, { kind: 'point.set', id: 'b', patch: { name: 'Sink' } })
    const now = labelsOf(renamed)
    const untrue = now.filter((l) => labelStates(renamed.record, now).of.get(labelKey(l)) === 'untrue')
    expect(untrue.map((l) => l.where)).toEqual(['Cable at Bench', 'Cable at Sink'])
    expect(labelFindings(renamed, now)).toMatchObject([
      { rule: 'label-untrue', message: expect.stringContaining('2 labels no longer say') },
    ])
  })
  it('on what is gone are to be taken off', () => {
    const gone = made('united-kingdom', points, fitted, stuck, { kind: 'circuit-point.remove', circuit: 'c1', id: 'b' })
    expect(labelFindings(gone, labelsOf(gone)).map((f) => f.rule)).toContain('label-of-nothing')
  })
})
