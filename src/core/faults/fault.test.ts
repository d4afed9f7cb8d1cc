import { describe, expect, it } from 'vitest'
import { after, newJob } from '../../../tests/support/shorthand'
import { demoJobs } from '../demo/demo'
import { evaluate } from '../evaluate/evaluate'
import { extraTestKinds } from '../job/circuit'
import { extraTestId } from '../verify/tests'
import { writeJobFile } from '../job/file'
import { calculateOne, calculators } from '../contract/calculators'
import { asDesigned, BOARD, faceOf, type State, terminal, type Wiring } from '../meters/as-wired'
import { wiringOf } from '../meters/wiring-of'
import { testsBesides } from './besides'
import { campaign, effectOf, fewestMore, signs } from './campaign'
import { diagnose, fits, type Known, knownOf, liveShut, type Read } from './diagnose'
import { meets, shownBy, standingAfresh, standingOf } from '../meters/measure'
import { alteredBy, mistakesOf } from './mistakes'
import { seeded } from '../trace/house'

const demos = demoJobs.map((d) => after(newJob(d.region, d.title, ''), ...d.edits))
const wired = demos.flatMap((job) =>
  evaluate(job, []).circuits.flatMap((report) => {
    const w = wiringOf(job, report)
    return w ? [{ w, report, job }] : []
  }),
)
const of = (name: string) => wired.find(({ report }) => report.circuit.name === name)!
const places = (w: Wiring) => w.places.map((p) => p.id)

/** Circuits as they come: of any world, one to five points on a chain or a tree, guarded at the board or not. */
function generated(count: number) {
  const chance = seeded(23)
  const pick = <T>(list: readonly T[]): T => list[Math.floor(chance() * list.length)]!
  const made: typeof wired = []
  for (let n = 0; made.length < count && n < 4 * count; n++) {
    const [region, accessory, volts] = pick([
      ['united-kingdom', 'uk-socket-13', 230],
      ['southern-africa', 'za-socket-16', 230],
      ['north-america', 'na-duplex-20', 120],
    ] as const)
    const points = Array.from({ length: 1 + Math.floor(chance() * 5) }, (_, i) => ({
      id: `g${i}`,
      name: `G${i}`,
      lengthM: 2 + Math.floor(chance() * 15),
      from: i ? (chance() < 0.7 ? `g${i - 1}` : 'g0') : null,
      watts: 100 + Math.floor(chance() * 400),
    }))
    const job = after(
      newJob(region, `made ${n}`, ''),
      { kind: 'load.set', circuit: 'c1', patch: { name: 'x', volts, basis: 'watts', amount: 800, connection: 'plug' } },
      { kind: 'circuit-point.add', circuit: 'c1', points },
      {
        kind: 'design.set',
        circuit: 'c1',
        design: 'a',
        patch: { accessory, residual: { at: chance() < 0.6 ? 'board' : 'none', ma: region === 'north-america' ? 5 : 30, type: null } },
      },
    )
    const report = evaluate(job, []).circuits[0]!
    const w = wiringOf(job, report)
    if (w) made.push({ w, report, job })
  }
  return made
}

describe('a campaign', () => {
  it('says how far it is, once for every mistake, and ends at all of it', () => {
    const { w, report } = wired[0]!
    const parts: number[] = []
    const { tried } = campaign(w, report.tests, [], (part) => parts.push(part))
    expect(parts).toHaveLength(tried.length)
    expect(parts).toEqual(parts.toSorted((a, b) => a - b))
    expect(parts.at(-1)).toBe(1)
  })
})

describe('a circuit on which things of one line and of two are', () => {
  const job = after(
    newJob('north-america', 'x', ''),
    { kind: 'load.set', circuit: 'c1', patch: { name: 'x', volts: 120, basis: 'watts', amount: 1500, connection: 'plug' } },
    {
      kind: 'circuit-point.add',
      circuit: 'c1',
      points: [
        { id: 'a', name: 'A', lengthM: 6, from: null, watts: 300, accessory: 'na-duplex-20' },
        { id: 'b', name: 'B', lengthM: 4, from: 'a', watts: 900, accessory: 'na-20-240' },
      ],
    },
    { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'na-duplex-20' } },
    { kind: 'box.set', boxes: ['a'], patch: { kind: 'na-device-18' } },
  )
  const [report] = evaluate(job, []).circuits
  const w = wiringOf(job, report!)!
  it('brings two lines and a neutral everywhere, and each thing is across its own', () => {
    expect(w.roles).toEqual(['line', 'line-2', 'neutral', 'pe'])
    expect(w.places.map((p) => p.across)).toEqual([[['line', 'neutral']], [['line', 'line-2']]])
    // Two cables of three conductors enter the first box: its count is that of the cable, not of what is there.
    const [first] = report!.ends
    expect(first!.boxReport.fill!.input.conductors).toEqual([{ size: '14 AWG', count: 6 }])
  })
  it('has its mistakes tried: each conductor with each, and an open neutral leaves dead what needs it', () => {
    const { tried } = campaign(w, report!.tests)
    // The neutral of the second cable has nothing to go to at its end, and is capped there.
    expect(tried.filter((t) => t.kind === 'swapped')).toHaveLength(3 * 5 + 2)
    expect(tried.find((t) => t.id.startsWith('open') && t.id.endsWith('a neutral'))).toMatchObject({ effect: 'dead' })
    for (const t of report!.tests) {
      const shown = shownBy(w, asDesigned, t, places(w))
      if (shown !== null) expect(meets(t, shown), t.id).toBe(true)
    }
  })
})

describe('a circuit as designed', () => {
  it('is wired in each world, a ring and chains among them', () => {
    expect(new Set(wired.map(({ w }) => w.region)).size).toBe(3)
    expect(wired.some(({ w }) => w.ring)).toBe(true)
    expect(wired.length).toBeGreaterThan(12)
  })
  it('meets every test that is worked out from the wiring: two ways to one figure', () => {
    let held = 0
    expect(generated(20)).toHaveLength(20)
    for (const { w, report, job } of [...wired, ...generated(20)])
      for (const t of [...report.tests, ...testsBesides(job, report)]) {
        const shown = shownBy(w, asDesigned, t, places(w))
        if (shown === null) continue
        held++
        expect([report.circuit.name, t.id, shown, meets(t, shown)]).toEqual([report.circuit.name, t.id, shown, true])
        // Resistances are what the design says they are, and no nearer or farther.
        if (t.expect.kind !== 'range' || t.expect.nominal === null || typeof shown !== 'number' || t.unit !== 'Ω') continue
        // Ends of a ring crossed, of two sizes, read a little otherwise from place to place: a quarter of both is their middle.
        if (t.id.startsWith('ring-crossed')) expect(Math.abs(shown / t.expect.nominal - 1)).toBeLessThan(0.08)
        else expect(shown).toBeCloseTo(t.expect.nominal, w.region === 'north-america' ? 2 : 6)
      }
    expect(held).toBeGreaterThan(90)
  })
  it('is none while a length, a size or what it ends on is not known', () => {
    const job = after(newJob('united-kingdom', 'x', ''), ...demoJobs[1]!.edits, {
      kind: 'run.set',
      circuit: 'c2',
      patch: { lengthM: null },
    })
    const report = evaluate(job, []).byCircuit.get('c2')!
    expect(wiringOf(job, report)).toBeNull()
  })
})

describe('mistakes', () => {
  const { w, report, job } = of('Tea urn')
  const { tried } = campaign(w, report.tests, testsBesides(job, report))
  const find = (id: string) => tried.find((t) => t.id.startsWith(id))!
  it('are every exchange, every end elsewhere, left off or loose, every touch, each place and the board', () => {
    const times = (n: number, kind: string) => Array.from({ length: n }, () => kind)
    expect(mistakesOf(w).map((m) => m.kind)).toEqual([
      ...['a', 'b'].flatMap(() => [
        ...times(3, 'swapped'),
        ...times(6, 'misplaced'),
        ...['line', 'neutral', 'pe'].flatMap(() => ['open', 'loose']),
      ]),
      ...times(3, 'touching'),
      'joined-neutral',
      'wrong-bar',
      'no-bond',
    ])
    // An accessory may be reversed alone where the cable goes on.
    const chain = mistakesOf(of('Stage lights').w).filter((m) => m.kind === 'reversed')
    expect(chain.length).toBeGreaterThan(0)
    expect(chain.length % 3).toBe(0)
  })
  it('are dangerous, trip or are merely dead, by what the network says', () => {
    const end = 'to-end-c1 b'
    expect(find(`swapped ${end} line neutral`)).toMatchObject({ effect: 'dangerous', does: expect.stringContaining('is live') })
    expect(find(`swapped ${end} line pe`).effect).toBe('dangerous')
    expect(find(`open ${end} line`)).toMatchObject({ effect: 'dead' })
    expect(find(`open ${end} pe`)).toMatchObject({ effect: 'dangerous', does: expect.stringContaining('has no earth') })
    expect(find('touching to-end-c1 line neutral')).toMatchObject({ effect: 'trips' })
    expect(find('loose to-end-c1 b neutral')).toMatchObject({ effect: 'dangerous', does: expect.stringMatching(/joint takes \d+ W/) })
  })
  it('of an accessory reversed alone are found there and nowhere else', () => {
    const chain = of('Stage lights')
    const m = mistakesOf(chain.w).find((x) => x.kind === 'reversed' && x.id.endsWith('line neutral'))!
    const shownAt = (at: readonly string[]) => {
      const live = chain.report.tests.find((t) => t.id === 'live-n-e')!
      return shownBy(chain.w, m.difference, live, at) as number
    }
    expect(alteredBy(chain.w, m)).toEqual([m.place])
    expect(shownAt([m.place])).toBeGreaterThan(200)
    for (const p of places(chain.w).filter((x) => x !== m.place)) expect(shownAt([p])).toBeLessThan(1)
    const found = campaign(chain.w, chain.report.tests).tried.find((t) => t.id === m.id)!
    expect(found).toMatchObject({ effect: 'dangerous', caughtBy: expect.arrayContaining(['polarity']) })
  })
  it('of a neutral shared with another circuit trip a residual device, and where there is none are dangerous and found dead', () => {
    expect(find('joined-neutral')).toMatchObject({ effect: 'trips', does: expect.stringContaining('residual device') })
    expect(find('joined-neutral').caughtBy).toContain('insulation-n-e')
    const bare = campaign({ ...w, rcdMa: null }, report.tests).tried.find((t) => t.kind === 'joined-neutral')!
    expect(bare).toMatchObject({ effect: 'dangerous', does: expect.stringContaining('stays in use') })
  })
  it('of a bar of earths that leads nowhere are dangerous, and pass every test that begins at that bar', () => {
    expect(find('no-bond')).toMatchObject({ effect: 'dangerous' })
    expect(find('no-bond').caughtBy).not.toContain('continuity-protective')
    expect(find('no-bond').caughtBy.some((id) => id.startsWith('live-') || id === 'zs')).toBe(true)
  })
  it('say nothing of a load that no breaker would carry: sound wiring trips under none of what is tried', () => {
    for (const { w: each } of wired)
      for (const p of places(each)) expect(effectOf(each, asDesigned, places(each), p)).toMatchObject({ effect: 'unseen' })
  })
  it('are caught by the tests that a sound electrician would name, and some by none', () => {
    const end = 'to-end-c1 b'
    expect(find(`open ${end} pe`).caughtBy).toContain('continuity-protective')
    expect(find(`swapped ${end} line neutral`).caughtBy).toContain('polarity')
    expect(find('touching to-end-c1 line pe').caughtBy).toContain('insulation-l-e')
    // With the neutral on its bar, earth and neutral exchanged read alike: it takes one test more.
    const crossed = find(`swapped ${end} neutral pe`)
    expect(crossed).toMatchObject({ effect: 'dangerous', caughtBy: [], moreBy: expect.arrayContaining(['extra-neutral-lifted']) })
  })
  it('that are dangerous and pass the plan are caught by the fewest tests besides it, once those are put into it', () => {
    for (const { w, report, job } of wired.filter((x) => x.w.places.length < 4)) {
      const found = campaign(w, report.tests, testsBesides(job, report))
      const fewest = fewestMore(found)
      const dangerous = found.tried.filter((t) => t.effect === 'dangerous' && t.caughtBy.length === 0)
      // None that one test fewer would do.
      for (const left of fewest.map((id) => fewest.filter((x) => x !== id)))
        expect(dangerous.some((t) => t.moreBy.length > 0 && !t.moreBy.some((id) => left.includes(id)))).toBe(true)
      const planned = after(job, {
        kind: 'circuit.set',
        circuit: report.circuit.id,
        patch: { extraTests: extraTestKinds.filter((k) => fewest.includes(extraTestId(k))) },
      })
      const again = evaluate(planned, []).byCircuit.get(report.circuit.id)!
      expect(again.tests.filter((t) => t.id.startsWith('extra-')).map((t) => t.id)).toEqual(expect.arrayContaining([...fewest]))
      expect(again.tests.findLast((t) => t.phase === 'dead')!.id).toBe('covers')
      const now = campaign(w, again.tests, testsBesides(planned, again))
      expect(fewestMore(now)).toEqual([])
      const left = now.tried.filter((t) => t.effect === 'dangerous' && t.caughtBy.length === 0)
      expect(left.map((t) => t.id)).toEqual(dangerous.filter((t) => t.moreBy.length === 0).map((t) => t.id))
    }
  })
  it('read alike whether the rest is taken apart once or once for each', () => {
    const dead: State = { closed: false, neutralLifted: false, linked: [], load: 'none' }
    const states: readonly State[] = [
      { ...dead, closed: true, load: 2300 },
      { ...dead, closed: true, load: 'own' },
      { ...dead, linked: [['line', 'pe']] },
      { ...dead, neutralLifted: true },
      { ...dead, ringOut: true },
    ]
    const near = (a: number, b: number) => Math.abs(a - b) <= 1e-9 * Math.max(1, Math.abs(a), Math.abs(b))
    for (const { w } of [of('Tea urn'), of('Stage lights'), of('Ring, hall and kitchen'), of('Pug mill')])
      for (const m of mistakesOf(w).filter((_, i) => i % 3 === 0))
        for (const s of states) {
          const [one, other] = [standingOf(w, m.difference, s), standingAfresh(w, m.difference, s)]
          expect(one.trips()).toEqual(other.trips())
          for (const p of [BOARD, ...places(w)])
            for (const role of w.roles) {
              const [a, b] = [faceOf(w, m.difference, p, role)!, terminal(BOARD, 'pe')]
              const [x, y] = [one.ohms(a, b), other.ohms(a, b)]
              if (x === y || (typeof x === 'number' && typeof y === 'number' && near(x, y))) {
                if (near(one.volts(a, 'PE'), other.volts(a, 'PE'))) continue
              }
              expect.unreachable(`${m.id}: ${a} reads ${x} and ${y}, ${one.volts(a, 'PE')} and ${other.volts(a, 'PE')}`)
            }
        }
  })
  it('leave alone what lies before them, and in a ring nothing', () => {
    const chain = of('Stage lights')
    const last = mistakesOf(chain.w).find((m) => m.id === 'open to-l3 b pe')!
    expect(alteredBy(chain.w, last)).toEqual(['l1', 'l3'])
    const ring = of('Ring, hall and kitchen')
    expect(alteredBy(ring.w, mistakesOf(ring.w)[0]!)).toEqual(places(ring.w))
    // What is not altered shows what the sound circuit shows.
    for (const m of mistakesOf(chain.w).slice(0, 60)) {
      const others = places(chain.w).filter((p) => !alteredBy(chain.w, m).includes(p))
      for (const t of chain.report.tests.filter((x) => x.id === 'continuity-protective' || x.id.startsWith('live-')))
        if (others.length && m.kind !== 'touching' && m.kind !== 'misplaced')
          expect(shownBy(chain.w, m.difference, t, others)).toBeCloseTo(shownBy(chain.w, asDesigned, t, others) as number, 6)
    }
  })
  it('of a ring that is broken are dangerous though every socket works', () => {
    const { w: ring } = of('Ring, hall and kitchen')
    const broken = campaign({ ...ring }, []).tried.find((t) => t.kind === 'open' && t.id.endsWith('a line'))!
    expect(broken).toMatchObject({ effect: 'dangerous', does: expect.stringContaining('ring is broken') })
  })
})

describe('two lines that share a neutral', () => {
  const shared = of('Glaze bench, two lines')
  const feeder = of('Feeder, pug mill shed')
  it('are tried with both, each load across its own', () => {
    expect(shared.w.roles).toEqual(['line', 'line-2', 'neutral', 'pe'])
    expect(shared.w.places.map((p) => p.across)).toEqual([[['line', 'neutral']], [['line-2', 'neutral']], [['line', 'neutral']]])
    expect(feeder.w.places[0]!.across).toHaveLength(2)
  })
  it('without it drive more through one load than it is for, which is felt as half dim and half bright', () => {
    for (const { w, report } of [shared, feeder]) {
      const { tried } = campaign(w, report.tests)
      const open = tried.filter((t) => t.kind === 'open' && t.id.endsWith('neutral'))
      expect(open.length).toBeGreaterThan(1)
      // Where one leg alone lies beyond there is no other to share with: that is dead.
      const both = open.filter((t) => t.does.includes('V when all loads are on'))
      expect(both.length).toBeGreaterThan(0)
      for (const t of both) expect(t).toMatchObject({ effect: 'dangerous', caughtBy: expect.arrayContaining(['live-l1-n']) })
      const known = knownOf(w, report.tests)
      const felt = known.signs[known.hypotheses.findIndex((h) => h.id === both[0]!.id)]
      expect(felt).toContain('uneven')
      expect(known.signs[0]).toEqual([])
    }
  })
  it('may change places, and not with anything else', () => {
    const ids = mistakesOf(shared.w).map((m) => m.id)
    expect(ids.some((id) => id.startsWith('swapped') && id.endsWith('line line-2'))).toBe(false)
    expect(ids.some((id) => id.startsWith('swapped') && id.endsWith('line-2 neutral'))).toBe(true)
  })
})

describe('an outlet that guards others', () => {
  const points = ['a', 'b', 'c', 'd'].map((id, i) => ({
    id,
    name: id.toUpperCase(),
    lengthM: 4,
    from: i ? 'abcd'[i - 1]! : null,
    watts: 60,
    ...(id === 'b' ? { accessory: 'na-gfci-20' as const, guardsOn: true } : {}),
  }))
  const job = after(
    newJob('north-america', 'x', ''),
    { kind: 'load.set', circuit: 'c1', patch: { name: 'x', volts: 120, basis: 'watts', amount: 300, connection: 'plug' } },
    { kind: 'circuit-point.add', circuit: 'c1', points },
    { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'na-duplex-20', residual: { at: 'first', ma: 5, type: null } } },
    { kind: 'design.set', circuit: 'c1', design: 'a', patch: { residual: { at: 'outlet', ma: 5, type: null } } },
  )
  const report = evaluate(job, []).circuits[0]!
  const w = wiringOf(job, report)!
  const { tried } = campaign(w, report.tests)
  const find = (id: string) => tried.find((t) => t.id.startsWith(id))!
  it('is in the wiring with what it guards, and its test holds while that is so', () => {
    expect(w.outletDevices).toEqual([{ place: 'b', ma: expect.any(Number), guards: ['b', 'c', 'd'], test: 'residual-button' }])
    expect(shownBy(w, asDesigned, { id: 'residual-button', expect: { kind: 'confirm' } }, ['b'])).toBe('yes')
    for (const p of places(w)) expect(effectOf(w, asDesigned, places(w), p)).toMatchObject({ effect: 'unseen' })
  })
  it('with line and load exchanged leaves somebody unguarded, and its button shows it', () => {
    expect(find('line-load b')).toMatchObject({ effect: 'dangerous', does: expect.stringContaining('not guarded') })
    expect(find('line-load b').caughtBy).toContain('residual-button')
    expect(tried.filter((t) => t.kind === 'line-load').map((t) => t.place)).toEqual(['b'])
  })
  it('and one of two halves whose tab is out leaves dead what is fed through it', () => {
    expect(tried.filter((t) => t.kind === 'tab-out').map((t) => t.id)).toEqual([
      'tab-out a line',
      'tab-out a neutral',
      'tab-out c line',
      'tab-out c neutral',
    ])
    for (const t of tried.filter((x) => x.kind === 'tab-out'))
      expect(t).toMatchObject({ effect: 'dead', caughtBy: expect.arrayContaining(['live-l-n']) })
  })
  it('trips on what leaks beyond it, and not on what leaks before it', () => {
    const cable = (from: string, to: string) => w.cores.find((k) => k.from === from && k.to === to)!.id
    expect(find(`touching ${cable('c', 'd')} neutral pe`)).toMatchObject({ effect: 'trips', does: expect.stringContaining('residual') })
    expect(find(`touching ${cable('a', 'b')} neutral pe`).effect).toBe('dangerous')
    expect(find('joined-neutral d').effect).toBe('trips')
    expect(find('joined-neutral a').effect).toBe('dangerous')
  })
  it('reads alike whether the rest is taken apart once or once for each', () => {
    const idle: State = { closed: true, neutralLifted: false, linked: [], load: 'none' }
    for (const m of mistakesOf(w))
      for (const s of [idle, { ...idle, opened: ['rcd b'] }, { ...idle, load: 500, loadAt: 'd' }]) {
        const [one, other] = [standingOf(w, m.difference, s), standingAfresh(w, m.difference, s)]
        expect([m.id, one.trips()]).toEqual([m.id, other.trips()])
        for (const p of places(w)) {
          const [x, y] = [one, other].map((o) => o.volts(faceOf(w, m.difference, p, 'line')!, 'PE')) as [number, number]
          expect(Math.abs(x - y)).toBeLessThan(1e-6)
        }
      }
  })
})

describe('a diagnosis', () => {
  it('begins with a complaint: what explains it comes before what does not, and readings go on from there', () => {
    for (const name of ['Tea urn', 'Warming cabinet', 'Pug mill']) {
      const { w, report } = of(name)
      const known = knownOf(w, report.tests)
      for (const sign of signs) {
        const given = known.hypotheses.flatMap((h, k) => (known.signs[k]!.includes(sign) ? [h.id] : []))
        if (given.length === 0) continue
        const { causes } = diagnose(known, [], [sign])
        const first = causes.slice(0, given.length).map((c) => c.id)
        expect(new Set(first), `${name}, ${sign}`).toEqual(new Set(given))
      }
      expect(known.signs[0]).toEqual([])
    }
    // A loose screw is warm; a line on the earth gives a shock or trips; an open neutral is dead.
    const { w, report } = of('Warming cabinet')
    const { hypotheses, signs: felt } = knownOf(w, report.tests)
    const signsOfMistake = (id: string) => felt[hypotheses.findIndex((h) => h.id?.startsWith(id))]
    expect(signsOfMistake('loose to-end-c1 b line')).toContain('warm')
    expect(signsOfMistake('open to-end-c1 b neutral')).toContain('dead')
    expect(signsOfMistake('touching to-end-c1 line pe')).toContain('trips-at-once')
  })
  it('of several complaints holds what does all of them before what does one', () => {
    const { w, report } = of('Tea urn')
    const known = knownOf(w, report.tests)
    const doing = (...wanted: (typeof signs)[number][]) =>
      known.hypotheses.flatMap((h, k) => (wanted.every((s) => known.signs[k]!.includes(s)) ? [h.id] : []))
    const both = doing('dead', 'shock').length ? (['dead', 'shock'] as const) : (['dead', 'trips-loaded'] as const)
    const first = diagnose(known, [], both).causes.slice(0, doing(...both).length)
    expect(new Set(first.map((c) => c.id))).toEqual(new Set(doing(...both)))
    expect(doing(...both).length).toBeGreaterThan(0)
  })
  it('knows a sound circuit by its readings, and no more than it can', () => {
    const { w, report } = of('Warming cabinet')
    const known = knownOf(w, report.tests)
    const all = known.tests.map((t, i): Read => ({ test: t.id, shown: known.shown[0]![i]! }))
    const { causes, several } = diagnose(known, all)
    expect(several).toBe(false)
    expect(causes.some((c) => c.id === null)).toBe(true)
    // What no test of the plan tells apart stays as likely.
    expect(causes[0]!.belief).toBeLessThan(0.9)
    expect(diagnose(known, []).causes.reduce((n, c) => n + c.belief, 0)).toBeGreaterThan(0.95)
  })
  it('finds single faults in few measurements, the true one always among those it names', () => {
    const chance = seeded(7)
    const tried = [...wired.filter(({ w }) => !w.ring), ...generated(20)].map(({ w, report }) => knownOf(w, report.tests))
    let [first, times, measured, bound] = [0, 0, 0, 0]
    for (let n = 0; n < 300; n++) {
      const known = tried[Math.floor(chance() * tried.length)]!
      const fault = 1 + Math.floor(chance() * (known.hypotheses.length - 1))
      const { reads, ranked } = found(known, fault, 4)
      times++
      measured += reads.length
      bound += Math.log2(known.hypotheses.length)
      const at = ranked.findIndex((c) => c.id === known.hypotheses[fault]!.id)
      expect(at).toBeGreaterThanOrEqual(0)
      if (ranked[at]!.belief >= 0.4 * ranked[0]!.belief) first++
    }
    console.log(
      `${times} single faults: first or tied in ${((100 * first) / times).toFixed(0)} %, ${(measured / times).toFixed(1)} measurements; ` +
        `${(bound / times).toFixed(1)} bits to know`,
    )
    expect(first / times).toBeGreaterThan(0.9)
  })
  it('asks for nothing live while a dead test is off, or was not made', () => {
    for (const { w, report } of wired.filter((x) => !x.w.ring)) {
      const known = knownOf(w, report.tests)
      const phaseOf = (id: string) => known.tests.find((t) => t.id === id)!.phase
      for (let fault = 0; fault < known.hypotheses.length; fault++) {
        const { reads } = found(known, fault, 20)
        const live = reads.findIndex((r) => phaseOf(r.test) === 'live')
        if (live < 0) continue
        const before = reads.slice(0, live)
        for (const t of known.tests.filter((x) => x.phase === 'dead')) expect(before.some((r) => r.test === t.id)).toBe(true)
        expect(liveShut(known, before)).toBe(false)
        const whole = before.find((r) => r.point === null)!
        expect(
          liveShut(
            known,
            before.filter((r) => r.test !== whole.test),
          ),
        ).toBe(true)
      }
    }
  })
  it('is never sure of one fault where there are two', () => {
    const chance = seeded(11)
    const tried = [of('Warming cabinet'), of('Stage lights'), of('Glaze bench, two lines'), ...generated(3)].map((x) => ({
      ...x,
      known: knownOf(x.w, x.report.tests),
      single: mistakesOf(x.w),
    }))
    for (let n = 0; n < 100; n++) {
      const { w, known, single } = tried[n % tried.length]!
      const [a, b] = [single[Math.floor(chance() * single.length)]!, single[Math.floor(chance() * single.length)]!]
      const both = {
        ends: { ...a.difference.ends, ...b.difference.ends },
        terminals: { ...a.difference.terminals, ...b.difference.terminals },
        tabsOut: [...a.difference.tabsOut, ...b.difference.tabsOut],
        touching: [...a.difference.touching, ...b.difference.touching],
        wrongBar: a.difference.wrongBar || b.difference.wrongBar,
        noBond: a.difference.noBond || b.difference.noBond,
        joinedNeutral: a.difference.joinedNeutral ?? b.difference.joinedNeutral,
      }
      const reads = known.tests.map((t): Read => ({ test: t.id, shown: shownBy(w, both, t, places(w))! }))
      const { causes, several } = diagnose(known, reads)
      const wrong = causes.find((c) => c.belief > 0.97 && c.id !== a.id && c.id !== b.id && c.id !== null)
      expect([a.id, b.id, several, wrong?.id]).toEqual([a.id, b.id, several, several ? wrong?.id : undefined])
    }
  })
  it('takes a reading a little off for what it is, and one far off for another', () => {
    expect(fits(0.5, 0.52)).toBeGreaterThan(0.8)
    expect(fits(0.5, 2)).toBeLessThan(0.001)
    expect(fits(300, 200)).toBe(1)
    expect(fits('open', 3)).toBeLessThan(0.001)
  })
})

/** Measures as is suggested, from nothing, so many times at the most. */
function found(known: Known, fault: number, most: number) {
  const reads: Read[] = []
  for (let i = 0; i < most; i++) {
    const { next } = diagnose(known, reads)
    if (!next) break
    const question = known.questions.find((q) => q.test.id === next.test && q.point === next.point)!
    reads.push({ test: next.test, shown: question.shown[fault]!, point: next.point })
  }
  return { reads, ranked: diagnose(known, reads).causes }
}

describe('the calculators', () => {
  const job = JSON.parse(JSON.stringify(writeJobFile(demos[2]!.record, []))) as unknown
  const run = (name: string, input: object) => calculateOne(calculators[name]!, { job, circuit: 'c1', ...input })
  it('try, measure and diagnose a circuit of a file, and refuse what is not in it', () => {
    const { tried } = run('campaign', {}) as { tried: { id: string; effect: string }[] }
    expect(tried.length).toBe(36)
    const ohm = { instrument: 'ohmmeter', a: { place: 'board', conductor: 'line' }, b: { place: 'end-c1', conductor: 'line' } }
    expect(run('instrument', ohm)).toMatchObject({ unit: 'Ω', shown: expect.closeTo(0.126, 2) })
    expect(run('instrument', { ...ohm, mistake: 'open to-end-c1 b line' })).toMatchObject({ unit: 'Ω', shown: 'open' })
    expect(run('instrument', { ...ohm, state: { breaker: 'on' } })).toMatchObject({ error: { path: 'state.breaker' } })
    expect(run('instrument', { ...ohm, a: { place: 'x', conductor: 'line' } })).toMatchObject({ error: { path: 'a.place' } })
    const off = { readings: [{ test: 'continuity-protective', shown: 'open' }] }
    const { causes, next } = run('diagnose', off) as { causes: { id: string }[]; next: { test: string } }
    expect(causes.every((c) => /(line|pe)/.test(c.id))).toBe(true)
    expect(next.test).toBe('polarity')
    expect(run('diagnose', { readings: [{ test: 'x', shown: 'open' }] })).toMatchObject({ error: { path: 'readings.0.test' } })
    expect(run('campaign', { circuit: 'nobody' })).toMatchObject({ error: { path: 'circuit' } })
    expect(calculateOne(calculators.materials!, { job })).toMatchObject({ unknown: [] })
  })
})
