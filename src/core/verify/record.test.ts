import { describe, expect, it } from 'vitest'
import { demoJobs } from '../demo/demo'
import { boxDrawing } from '../drawing/box'
import { chainDrawing } from '../drawing/chain'
import { labelDrawing } from '../drawing/label'
import { svgSheetMm } from '../drawing/svg'
import { evaluate } from '../evaluate/evaluate'
import { formatOhm } from '../base/format'
import { applyShort as applyEdit, type Short as Edit } from '../../../tests/support/shorthand'
import type { Installation as Job } from '../installation/installation'
import { newJob } from '../../../tests/support/shorthand'
import type { Reading } from '../job/reading'
import { workings } from '../design/working'
import { readOf } from '../faults/read'
import { judge, judgeTests } from './judge'
import { circuitLabels } from '../documents/labels'
import { pointsOfTest, type Test } from './tests'
import { expectedWords, readingWords } from './words'

const make = (demo: (typeof demoJobs)[number], more: Edit[] = []): Job =>
  [...demo.edits, ...more].reduce((job, edit) => applyEdit(job, edit).job, newJob(demo.region, demo.title, demo.place))
const reading = (test: string, value: number | null, mark: Reading['mark'] = null, id = test): Reading => ({
  id,
  circuit: 'c1',
  point: null,
  test,
  value,
  mark,
  unit: '',
  at: '2026-11-20T08:00:00.000Z',
  by: 'x',
  instrument: '',
  note: '',
  corrects: null,
  on: null,
})
const [dairy, hall, honey] = demoJobs.map((d) => make(d)) as [Job, Job, Job]
const plan = (job: Job) => evaluate(job, []).circuits[0]!.tests
const find = (tests: readonly Test[], id: string) => tests.find((t) => t.id === id)!

describe('what a test should read', () => {
  it('R1 + R2 comes from length and sizes at 20 °C', () => {
    const t = find(plan(honey), 'continuity-protective')
    expect(t.expect).toMatchObject({ kind: 'range', nominal: expect.closeTo((17 * (7.41 + 7.41)) / 1000, 6) })
  })
  it('the loop is Ze and R1 + R2 cold, held to its limit', () => {
    const t = find(plan(hall), 'zs')
    expect(t.expect).toMatchObject({ nominal: expect.closeTo(0.72 + (38 * (7.41 + 12.1)) / 1000, 6) })
  })
  it('is what its working comes to, for every test of every circuit', () => {
    const worked = [dairy, hall, honey].flatMap((job) =>
      evaluate(job, []).circuits.flatMap((c) =>
        c.tests.flatMap(({ id, expect: e }) =>
          e?.kind === 'range' && e.working && e.nominal !== null ? [[id, e.working.result, formatOhm(e.nominal)]] : [],
        ),
      ),
    )
    expect(worked.length).toBeGreaterThan(10)
    expect(new Set(worked.map(([id]) => id))).toContain('zs')
    for (const [id, result, nominal] of worked) expect(result, id).toBe(nominal)
  })
  it('a North American ground is brought from 75 °C to 20 °C', () => {
    const t = find(plan(dairy), 'continuity-protective')
    const nominal = t.expect.kind === 'range' ? t.expect.nominal! : 0
    expect(nominal).toBeCloseTo(((2 * 1.21) / (1 + 0.00323 * 55)) * (21.336 / 304.8), 9)
  })
  it('every pair of a 240 V circuit is measured: 240, 120 and 120', () => {
    const live = plan(dairy).filter((t) => t.id.startsWith('live-'))
    expect(live.map((t) => (t.expect.kind === 'range' ? t.expect.nominal : null))).toEqual([240, 120, 120])
  })
  it('a four-wire outlet has six pairs', () => {
    const four = make(demoJobs[0]!, [{ kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'na-30-4w' } }])
    expect(plan(four).filter((t) => t.id.startsWith('live-')).length).toBe(6)
  })
  it('a switch is proved open and closed', () => {
    const isolator = make(demoJobs[2]!, [{ kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'za-isolator-30' } }])
    expect(plan(isolator).map((t) => t.id)).toEqual(expect.arrayContaining(['switch-open', 'switch-closed']))
  })
  it('is said in words for every test', () => {
    for (const job of [dairy, hall, honey]) for (const t of plan(job)) expect(expectedWords(t)).toMatch(/\w/)
  })
})

describe('judging', () => {
  const tests = plan(honey)
  const resistance = find(tests, 'continuity-protective')
  it('is unknown until measured, met within tolerance, off beyond it', () => {
    expect(judge(resistance, null).verdict).toBe('unknown')
    expect(judge(resistance, reading('x', 0.27)).verdict).toBe('met')
    expect(judge(resistance, reading('x', 0.9)).verdict).toBe('off')
    expect(judge(resistance, reading('x', 0.01)).verdict).toBe('off')
    expect(judge(resistance, reading('x', null, 'open')).verdict).toBe('off')
  })
  it('reads a value in the unit it was taken in, and of another kind not at all', () => {
    const t = find(plan(honey), 'continuity-protective')
    const nominal = t.expect.kind === 'range' ? t.expect.nominal! : 0
    expect(judge(t, { ...reading(t.id, nominal * 1000), unit: 'mΩ' }).verdict).toBe('met')
    expect(judge(t, { ...reading(t.id, nominal / 1000), unit: 'kΩ' }).verdict).toBe('met')
    expect(judge(t, { ...reading(t.id, nominal), unit: 'kΩ' }).verdict).not.toBe('met')
    expect(judge(t, { ...reading(t.id, nominal), unit: 'V' }).verdict).not.toBe('met')
  })
  it('takes more than a value as enough only where more is better', () => {
    expect(judge(find(tests, 'insulation-l-n'), reading('x', 200, 'over')).verdict).toBe('met')
    expect(judge(find(tests, 'insulation-l-n'), reading('x', 0.5, 'over')).verdict).toBe('off')
    expect(judge(resistance, reading('x', 200, 'over')).verdict).toBe('off')
  })
  it('keeps live tests shut until isolation and every dead test are met', () => {
    const all = (phases: string[]) =>
      tests
        .filter((t) => phases.includes(t.phase))
        .map((t) => {
          const e = t.expect
          return e.kind === 'range' ? reading(t.id, e.nominal ?? e.min ?? 1) : reading(t.id, null, 'yes')
        })
    expect(judgeTests(tests, [], 'c1', null).phase.dead.open).toBe(false)
    expect(judgeTests(tests, all(['isolation']), 'c1', null).phase).toMatchObject({ dead: { open: true }, live: { open: false } })
    const ready = all(['isolation', 'dead'])
    expect(judgeTests(tests, ready, 'c1', null).phase.live.open).toBe(true)
    expect(judgeTests(tests, ready, 'c1', 'stopped').phase.live).toMatchObject({ open: false, why: 'stopped' })
    const spoiled = [...ready, reading('polarity', null, 'no', 'again')]
    expect(judgeTests(tests, spoiled, 'c1', null).phase.live.open).toBe(false)
  })
  it('counts the newest reading and keeps the older ones', () => {
    const j = judgeTests(tests, [reading('polarity', null, 'no', 'a'), reading('polarity', null, 'yes', 'b')], 'c1', null).judged.find(
      (x) => x.test.id === 'polarity',
    )!
    expect(j.reading!.id).toBe('b')
    expect(j.earlier.map((r) => r.id)).toEqual(['a'])
  })
  it('never says safe', () => {
    const said = JSON.stringify(
      [dairy, hall, honey].map((job) => evaluate(job, [])).map((r) => [r.stages, r.circuits.map((c) => c.testReport)]),
    )
    expect(said).not.toMatch(/\bsafe\b/i)
  })
  it('is said in words', () => {
    expect(readingWords(reading('x', null, 'yes'))).toBe('done')
    expect(readingWords({ ...reading('x', 200, 'over'), unit: 'MΩ' })).toBe('> 200 MΩ')
    expect(readingWords(reading('x', null, 'open'))).toBe('open')
  })
})

describe('labels', () => {
  const labels = circuitLabels(honey, evaluate(honey, []).circuits[0]!, '20 November 2026', 'metric')
  it('name way, breaker and load, inside and outside', () => {
    expect(labels.map((l) => l.place)).toEqual(['cover-outside', 'cover-inside', 'cable-board', 'cable-point', 'board'])
    expect(labels[0]!.lines.join(' ')).toMatch(/way 3.*B20 A.*Honey warming cabinet/)
    expect(labels[1]!.lines.join(' ')).toMatch(/Cord is the weak link: 6 A/)
  })
  it('fit their size, and user text never becomes markup', () => {
    const rude = circuitLabels(
      { ...honey, supply: { ...honey.supply, board: '<script>"&' } },
      evaluate(honey, []).circuits[0]!,
      'today',
      'metric',
    )
    const svg = svgSheetMm(rude.map(labelDrawing))
    expect(svg).not.toContain('<script>')
    expect(svg).toContain('&#60;script&#62;&#34;&#38;')
    for (const l of labels) {
      const widest = Math.max(...labelDrawing(l).shapes.flatMap((s) => (s.kind === 'text' ? [s.text.length * s.size * 0.66 + s.x] : [])))
      expect(widest).toBeLessThanOrEqual(l.widthMm)
    }
  })
})

describe('a label of long names', () => {
  const long = { id: 'l', place: 'board', where: 'Entry at the board', at: 'w', cable: null, circuit: null } as const
  it.each([
    [60, 12, ['7  ' + 'A name of many letters that goes on, '.repeat(4).slice(0, 120), '2.5 mm² / 1.5 mm²']],
    [70, 36, ['W'.repeat(120), 'From Hall consumer unit way 7', '18 November 2026']],
    [90, 12, ['電'.repeat(120)]],
  ])('%i × %i mm is readable and within its edge', (widthMm, heightMm, lines) => {
    const { shapes } = labelDrawing({ ...long, widthMm, heightMm, lines })
    const texts = shapes.flatMap((s) => (s.kind === 'text' ? [s] : []))
    for (const t of texts) {
      expect(t.size).toBeGreaterThanOrEqual(1.8)
      expect(t.x + t.size * [...t.text].reduce((sum, c) => sum + (c < 'ᄀ' ? 0.68 : 1), 0)).toBeLessThanOrEqual(widthMm - 2 + 1e-6)
      expect(t.y).toBeLessThanOrEqual(heightMm - 1)
      expect(t.y - t.size).toBeGreaterThanOrEqual(1)
    }
    // What comes first stays first, and only what cannot be printed is left out.
    expect(texts[0]!.text.slice(0, 8)).toBe(lines[0]!.slice(0, 8))
    if (lines.length > 1) expect(texts.at(-1)!.text).toBe(lines.at(-1))
  })
  it('of a circuit without tests is neither open nor met in any phase', () => {
    const { judged, phase } = judgeTests([], [], 'c1', null)
    expect(judged).toEqual([])
    for (const p of ['isolation', 'dead', 'live'] as const)
      expect(phase[p]).toEqual({ open: false, met: false, why: 'the circuit is not worked out yet' })
  })
  it('says that it goes on where it is cut', () => {
    const { shapes } = labelDrawing({ ...long, widthMm: 60, heightMm: 12, lines: ['x'.repeat(400)] })
    expect(shapes.flatMap((s) => (s.kind === 'text' ? [s.text] : [])).join('')).toMatch(/^x{100,}…$/)
  })
  it('has no sign that XML has no place for', () => {
    const svg = svgSheetMm([labelDrawing({ ...long, widthMm: 60, heightMm: 12, lines: ['a\u0000b\u001fc\ud800d\uffffe🔌'] })])
    expect(svg).toContain('a\ufffdb\ufffdc\ufffdd\ufffde🔌')
  })
})

describe('drawings and workings of every demo circuit', () => {
  const reports = [dairy, hall, honey].flatMap((job) => evaluate(job, []).circuits.map((c) => ({ job, c })))
  it.each(reports.map((r) => [`${r.job.title}, ${r.c.circuit.name}`, r] as const))('%s', (_, { job, c }) => {
    const drawn = JSON.stringify([chainDrawing(job, c.circuit, c.chosen, 'metric'), boxDrawing(c.ends[0]!.boxReport, 'imperial')])
    expect(drawn).not.toMatch(/NaN|Infinity|null|undefined/)
    const { input, result } = c.chosen
    if (!input || !result) return
    const all = workings(input, result)
    for (const w of Object.values(all)) {
      expect(w.clauses.length).toBeGreaterThan(0)
      expect(`${w.numbers} ${w.result}`).not.toMatch(/NaN|undefined|null/)
    }
    expect(all.loadA!.numbers).toContain(String(Number(result.loadA.toFixed(4))))
  })
})

describe('tests of circuits with more than one point', () => {
  const demo = (i: number): Job => demoJobs[i]!.edits.reduce((job, e) => applyEdit(job, e).job, newJob(demoJobs[i]!.region, 'x', ''))
  const reports = (i: number) => evaluate(demo(i), []).circuits
  const nominal = (r: ReturnType<typeof reports>[number], id: string): number => {
    const { expect: e } = r.tests.find((t) => t.id === id)!
    return e.kind === 'range' ? e.nominal! : Number.NaN
  }

  it('of a ring begin end to end, conductor by conductor', () => {
    const ring = reports(1)[2]!
    // 46 m once round: 7.41 and 12.10 mΩ/m.
    expect(ring.tests.map((t) => t.id)).toEqual(
      expect.arrayContaining(['ring-line', 'ring-neutral', 'ring-protective', 'continuity-protective', 'zs']),
    )
    expect(nominal(ring, 'ring-line')).toBeCloseTo((7.41 * 46) / 1000, 9)
    expect(nominal(ring, 'ring-neutral')).toBe(nominal(ring, 'ring-line'))
    expect(nominal(ring, 'ring-protective')).toBeCloseTo((12.1 * 46) / 1000, 9)
  })

  it('of a ring go on with its ends crossed, at each socket in the ring, all alike; a spur is not held to that', () => {
    const ring = evaluate(hall, []).circuits.find((c) => c.circuit.kind === 'ring')!
    const { tests, circuit } = ring
    const crossed = tests.filter((t) => t.id.startsWith('ring-crossed-'))
    const inRing = circuit.points.filter((p) => p.from === null)
    expect(inRing.length).toBeLessThan(circuit.points.length)
    expect(crossed.length).toBe(2 * inRing.length)
    const nominal = (kind: string) => crossed.filter((t) => t.id.includes(kind)).map((t) => t.expect.kind === 'range' && t.expect.nominal)
    const once = circuit.points.filter((p) => p.from === null).reduce((sum, p) => sum + p.lengthM!, 0) + circuit.closeM!
    for (const ohm of nominal('-neutral-')) expect(ohm).toBeCloseTo((2 * 0.00741 * once) / 4, 9)
    for (const ohm of nominal('-protective-')) expect(ohm).toBeCloseTo(((0.00741 + 0.0121) * once) / 4, 9)
    expect(tests.findIndex((t) => t.id === 'ring-protective')).toBeLessThan(tests.indexOf(crossed[0]!))
    expect(tests.indexOf(crossed.at(-1)!)).toBeLessThan(tests.findIndex((t) => t.id === 'continuity-protective'))
  })
  it('expect the farthest point’s loop, cold, as the design found it hot', () => {
    for (const [i, at] of [
      [1, 2],
      [1, 3],
      [2, 2],
    ] as const) {
      const r = reports(i)[at]!
      const { zeOhm } = demo(i).supply
      const hot = r.chosen.layout!.worstLoop!.zsOhm! - zeOhm!
      expect(nominal(r, 'continuity-protective')).toBeCloseTo(hot / 1.2, 9)
      expect(nominal(r, 'zs')).toBeCloseTo(zeOhm! + hot / 1.2, 9)
      const { tests } = r
      expect(new Set(tests.map((t) => t.id)).size).toBe(tests.length)
    }
  })

  it('of a feeder and of a run in stretches are made over its whole length', () => {
    const feeder = reports(0)[4]!
    expect(feeder.tests.map((t) => t.id)).toContain('live-l1-l2')
    // 27.432 m of 6 AWG and 10 AWG, brought from 75 °C to 20 °C.
    expect(nominal(feeder, 'continuity-protective')).toBeCloseTo(((0.491 + 1.21) / (1 + 0.00323 * 55)) * (27.432 / 304.8), 9)
    const bench = reports(0)[3]!
    expect(nominal(bench, 'continuity-protective')).toBeCloseTo(((1.93 + 1.93) / (1 + 0.00323 * 55)) * ((15.24 + 2 * 2.4384) / 304.8), 9)
  })
})

describe('a test that is made point by point', () => {
  const ring = evaluate(hall, []).circuits.find((c) => c.circuit.kind === 'ring')!
  const { circuit, tests } = ring
  const pointsOf = (test: Test) => pointsOfTest(hall, circuit, ring.chosen, test)
  const zs = find(tests, 'zs')
  const at = pointsOf(zs)
  const nominalAt = (id: string) => {
    const e = at.find((p) => p.id === id)!.expect
    return e.kind === 'range' ? e.nominal! : Number.NaN
  }
  let n = 0
  const read = (point: string | null, value: number, more: Partial<Reading> = {}): Reading => ({
    ...reading('zs', value, null, `r${n++}`),
    circuit: circuit.id,
    point,
    unit: 'Ω',
    at: new Date(Date.UTC(2026, 10, 20, 8, n)).toISOString(),
    ...more,
  })
  const judgedBy = (readings: readonly Reading[], now: Reading['on'] = null) =>
    judgeTests(tests, readings, circuit.id, null, now, { places: null, pointsOf }).judged.find((j) => j.test.id === 'zs')!
  const all = () => at.map((p) => read(p.id, nominalAt(p.id)))

  it('expects at each point what comes to it: the most at the farthest, as one reading for all does', () => {
    expect(at.map((p) => p.id)).toEqual(circuit.points.map((p) => p.id))
    const whole = zs.expect.kind === 'range' ? zs.expect.nominal! : Number.NaN
    expect(Math.max(...at.map((p) => nominalAt(p.id)))).toBe(whole)
    expect(Math.min(...at.map((p) => nominalAt(p.id)))).toBeLessThan(whole)
    expect(tests.filter((t) => pointsOf(t).length > 0).map((t) => t.id)).toEqual([
      'continuity-protective',
      'polarity',
      'live-l-n',
      'live-l-e',
      'live-n-e',
      'zs',
    ])
    // A circuit with no named points is read as a whole.
    const [cabinet] = evaluate(honey, []).circuits
    expect(cabinet!.tests.flatMap((t) => pointsOfTest(honey, cabinet!.circuit, cabinet!.chosen, t))).toEqual([])
  })
  it('is met when every point is; one not read is named, and one that is off too, whatever the others read', () => {
    const good = all()
    expect(judgedBy(good)).toMatchObject({ verdict: 'met', earlier: [] })
    expect(judgedBy(good).points!.map((p) => p.verdict)).toEqual(at.map(() => 'met'))
    const some = judgedBy(good.slice(1))
    expect(some).toMatchObject({ verdict: 'unknown', message: `not measured at ${at[0]!.name}` })
    const off = judgedBy([...good.slice(0, 2), read(at[2]!.id, 5)])
    expect(off).toMatchObject({ verdict: 'off', message: expect.stringMatching(new RegExp(`^at ${at[2]!.name} above the expected`)) })
    expect(off.reading!.value).toBe(5)
  })
  it('shows the highest of those that count, and what was read there before', () => {
    const good = all()
    const high = Math.max(...good.map((r) => r.value!))
    expect(judgedBy(good).reading!.value).toBe(high)
    const again = [...good, read(at[0]!.id, nominalAt(at[0]!.id))]
    expect(judgedBy(again).earlier).toEqual([good[0]])
  })
  it('takes one reading for all points where it was taken later, and what was read at a point since where that is', () => {
    const off = read(at[1]!.id, 5)
    const whole = read(null, nominalAt(at.toSorted((a, b) => nominalAt(b.id) - nominalAt(a.id))[0]!.id))
    expect(judgedBy([off, whole])).toMatchObject({ verdict: 'met', reading: whole })
    const since = read(at[1]!.id, 5)
    expect(judgedBy([whole, since])).toMatchObject({ verdict: 'off', reading: since })
    expect(judgedBy([since, whole].toReversed())).toMatchObject({ verdict: 'off' })
  })
  it('takes nothing for read that was read before cable or accessory was changed, at any of its points', () => {
    const now = { way: 'main 1', laid: 'new' }
    const [first, ...rest] = all()
    const on = (r: Reading, laid: string): Reading => ({ ...r, on: { way: now.way, laid } })
    expect(judgedBy([on(first!, 'new'), ...rest.map((r) => on(r, 'new'))], now).verdict).toBe('met')
    const stale = judgedBy([on(first!, 'old'), ...rest.map((r) => on(r, 'new'))], now)
    expect(stale).toMatchObject({ verdict: 'unknown', message: expect.stringMatching(new RegExp(`^at ${at[0]!.name} cable, accessory`)) })
  })
  it('does not take what was read at a point that is gone, and says so', () => {
    const gone = read('nowhere', 0.5)
    const report = evaluate(hall, [gone])
    const of = report.circuits.find((c) => c.circuit.id === circuit.id)!
    expect(of.testReport.judged.find((j) => j.test.id === 'zs')).toMatchObject({ verdict: 'unknown', reading: null })
    const whole = evaluate(hall, [{ ...gone, test: 'insulation-l-n', value: 200, unit: 'MΩ' }]).circuits.find(
      (c) => c.circuit.id === circuit.id,
    )!
    expect(whole.testReport.judged.find((j) => j.test.id === 'insulation-l-n')!.verdict).toBe('unknown')
    expect(report.stages.flatMap((s) => s.findings).find((f) => f.rule === 'reading-not-placed')?.message).toContain(
      'the point it was taken at is not on its circuit',
    )
    expect(
      evaluate(hall, all())
        .stages.flatMap((s) => s.findings)
        .some((f) => f.rule === 'reading-not-placed'),
    ).toBe(false)
  })
  it('is looked for a fault by what each point reads, in the unit of the test', () => {
    const far = at.toSorted((a, b) => nominalAt(b.id) - nominalAt(a.id))[0]!
    const near = at.find((p) => p.id !== far.id)!
    expect(readOf(judgedBy([read(near.id, 0.2)]))).toEqual([{ test: 'zs', shown: 0.2, point: near.id }])
    const both = readOf(judgedBy([read(near.id, 0.2), read(far.id, 900, { unit: 'mΩ' })]))
    expect(both).toHaveLength(2)
    expect(both).toEqual(
      expect.arrayContaining([
        { test: 'zs', shown: 0.2, point: near.id },
        { test: 'zs', shown: 0.9, point: far.id },
      ]),
    )
  })
})

describe('what makes it safe to work', () => {
  const off = (job: Job, circuit = 0) => evaluate(job, []).circuits[circuit]!.tests[0]!
  it('is the main switch while the breaker of a new circuit is not fitted, and says what stays live', () => {
    expect(off(hall)).toMatchObject({ id: 'iso-off', title: expect.stringMatching(/^Switch off the main switch .*not fitted yet$/) })
    const seen = (mainSwitch: 'single-pole' | 'none' | 'unknown') =>
      off(make(demoJobs[1]!, [{ kind: 'board.set', id: 'main', patch: { mainSwitch } }])).how
    expect(seen('single-pole')).toContain('opens one pole')
    expect(seen('none')).toContain('made dead upstream')
    expect(seen('unknown')).toContain('taken for live')
  })
  it('is the way itself where it is there already', () => {
    const altered = evaluate(honey, []).circuits.find(
      (c) => c.circuit.work === 'altered' && c.circuit.ways.some((w) => w.state === 'existing'),
    )
    expect(altered?.tests[0]?.title).toMatch(/^Switch off way /)
  })
  it('is the feeder, for a circuit on the board at its end', () => {
    const fed = evaluate(dairy, []).circuits.find((c) => c.circuit.feeder !== null)!
    expect(fed.tests[0]!.title).toMatch(/^Switch off Feeder, pug mill shed, which feeds its panel/)
  })
})

describe('dead tests', () => {
  it('lift the neutral wherever it is measured, and say nothing of it between two lines', () => {
    const how = (id: string) => find(plan(dairy), id)?.how ?? find(plan(hall), id)!.how
    expect(how('insulation-l1-l2')).not.toContain('lifted')
    expect(find(plan(hall), 'insulation-n-e').how).toContain('lifted from the bar')
    expect(find(plan(hall), 'insulation-l-e').how).not.toContain('lifted')
  })
  it('hold metal boxes bonded, and ask nothing of moulded ones', () => {
    const boxed = (kind: string) => plan(make(demoJobs[1]!, [{ kind: 'box.set', boxes: [hall.circuits[0]!.end!.id], patch: { kind } }]))
    expect(find(boxed('uk-metal-35'), 'metal-boxes-bonded')).toMatchObject({ phase: 'dead', clause: '411.3.1.1; 543.2.7' })
    expect(find(boxed('uk-dry-35'), 'metal-boxes-bonded')).toBeUndefined()
  })
})
