import { describe, expect, it } from 'vitest'
import { type Accessory, accessoriesFor, hasGuardedLoad } from '../catalogue/accessories'
import { device } from '../catalogue/devices'
import { inCircuit } from '../demo/kit'
import { evaluate } from '../evaluate/evaluate'
import { applyEdit, type Edit } from '../job/edits'
import { type Job, newJob } from '../job/schema'
import { type RegionId, regionIds } from '../region/types'

/* Every accessory in every position of a circuit, with every option: its standard wiring does what was asked. */

const made = (edits: readonly Edit[], from: Job): Job => edits.reduce((job, e) => applyEdit(job, e).job, from)
const said = (job: Job): readonly string[] =>
  evaluate(job, [])
    .stages.find((s) => s.id === 'wiring')!
    .findings.map((f) => `${f.rule}: ${f.message}`)
const c = inCircuit('c2')
type Placed = Extract<Edit, { kind: 'circuit-point.add' }>['points'][number]
const ordinary: Readonly<Record<RegionId, string>> = {
  'north-america': 'na-duplex-15',
  'united-kingdom': 'uk-socket-13-twin',
  'southern-africa': 'za-socket-16',
}
type Kind = 'radial' | 'ring' | 'shared-neutral'
const jobOf = (region: RegionId, kind: Kind, edits: readonly Edit[]): Job =>
  made(
    [
      c.add('Circuit', kind),
      c.load({ volts: region === 'north-america' ? 120 : 230, amount: 0, connection: 'plug' }),
      c.design({ accessory: ordinary[region] }),
      ...edits,
      ...(kind === 'ring' ? [c.run({ closeM: 9 })] : []),
    ],
    newJob(region, 'Kiln room', 'A former dairy'),
  )

const positions = ['first', 'middle', 'last', 'spur'] as const
/** Three points in a row with one of them the accessory, or that as a branch of the first. */
function chain(at: (typeof positions)[number], it: Partial<Placed>, ring: boolean): Placed[] {
  const row = ['first', 'middle', 'last'] as const
  const points = row.map((name, i): Placed => ({ id: name, name, from: ring || i === 0 ? null : row[i - 1]!, lengthM: 6, watts: 50 }))
  if (at === 'spur') points.push({ id: 'spur', name: 'spur', from: 'first', lengthM: 4 })
  return points.map((p) => (p.id === at ? { ...p, ...it } : p))
}

/** What decides how an accessory is wired: its kind, its terminals and what joins them. */
const wiredAs = ({ id, kind, system, onward, outlets, residual, poles }: Accessory): string => {
  const of = device(id)
  return JSON.stringify([kind, system, onward, outlets, residual, poles, of?.pattern, of?.terminals, of?.inside])
}

let tried = 0
describe.each(regionIds)('standard wiring in %s', (region) => {
  const kinds: readonly Kind[] =
    region === 'united-kingdom' ? ['radial', 'ring'] : region === 'north-america' ? ['radial', 'shared-neutral'] : ['radial']
  // Of those with the same terminals, wired alike, one stands for all; each is tried alone below.
  const alike = new Map(
    accessoriesFor(region)
      .map((a) => [wiredAs(a), a] as const)
      .toReversed(),
  )
  it.each([...alike.values()].map((a) => [a.id, a] as const))(
    '%s does what is asked, in every position with every option',
    (accessory, a) => {
      for (const kind of kinds)
        for (const at of positions)
          for (const watts of [0, 300])
            for (const cores of ['two', 'three', undefined] as const)
              for (const colours of region === 'north-america' ? (['new'] as const) : (['new', 'old'] as const))
                for (const guard of hasGuardedLoad(a) && kind === 'radial' ? (['none', 'on', 'first'] as const) : (['none'] as const))
                  for (const fuseA of region === 'united-kingdom' ? [null, 3] : [null]) {
                    // Two lines and a neutral take three cores, and a pair of switches more than two.
                    if (cores === 'two' && (a.system === 'line-line-neutral' || kind === 'shared-neutral' || a.system === 'line-line'))
                      continue
                    const leg = kind === 'shared-neutral' && watts ? (a.system === 'line-neutral' ? 'B' : 'AB') : 'A'
                    const it = { accessory, watts, fuseA, guardsOn: guard === 'on', leg, outlets: a.outlets } as const
                    const job = jobOf(region, kind, [
                      c.points(...chain(at, it, kind === 'ring')),
                      c.set({ colours }),
                      ...(guard === 'first' && at === 'first' ? [c.design({ residual: { at: 'first', ma: 30, type: null } })] : []),
                    ])
                    const cut = made(
                      cores
                        ? job.cables.filter((k) => k.to.id === at).map((k): Edit => ({ kind: 'cable.set', id: k.id, patch: { cores } }))
                        : [],
                      job,
                    )
                    expect(
                      said(cut),
                      `${kind} ${at} ${watts} W, ${cores ?? 'any'} cores, ${colours}, guard ${guard}, fuse ${fuseA}`,
                    ).toEqual([])
                    tried++
                  }
    },
  )
  it.each(accessoriesFor(region).map((a) => [a.id, a] as const))('%s alone at the end of its circuit', (accessory, a) => {
    for (const volts of region === 'north-america' && a.system !== 'line-neutral' ? [240] : [region === 'north-america' ? 120 : 230])
      for (const joints of ['either', 'lever', 'twist'])
        for (const residual of ['none', 'board', ...(a.residual ? (['first'] as const) : [])] as const) {
          const job = jobOf(region, 'radial', [
            c.design({ accessory, residual: { at: residual, ma: 30, type: null } }),
            c.load({ volts, amount: 500 }),
            { kind: 'brief.set', patch: { schools: { joints } } } as Edit,
          ])
          expect(said(job), `${joints} ${residual}`).toEqual([])
          tried++
        }
  })
})

describe('an outlet that cannot guard what it is to guard', () => {
  it.each(['uk-socket-13-rcd', 'uk-fcu-rcd'])('is reported, and one with load terminals is right: %s', (accessory) => {
    const guarding = accessory === 'uk-fcu-rcd'
    const first: Placed = { id: 'first', name: 'first', from: null, accessory, outlets: guarding ? 0 : 1, lengthM: 5, watts: 100 }
    const second: Placed = { id: 'second', name: 'second', from: 'first', lengthM: 5, watts: 100 }
    const at = { residual: { at: 'first', ma: 30, type: null } } as const
    for (const [promise, how] of [
      [[c.points({ ...first, guardsOn: true }, second)], 'its own tick'],
      [[c.points(first, second), c.design(at)], 'the design'],
    ] as const)
      expect(said(jobOf('united-kingdom', 'radial', [...promise])), how).toEqual(
        guarding ? [] : [expect.stringMatching(/^guard-bypassed: second .*has no load terminals/)],
      )
  })
})

describe('switching', () => {
  const prefix: Readonly<Record<RegionId, string>> = { 'north-america': 'na', 'united-kingdom': 'uk', 'southern-africa': 'za' }
  const light = (id: string, from: string | null): Placed => ({ id, name: id, from, kind: 'light', lengthM: 4, watts: 60, outlets: 0 })
  const sw = (id: string, from: string | null, accessory: string | null, controls?: string[]): Placed => ({
    id,
    name: id,
    from,
    kind: 'switch',
    lengthM: 4,
    outlets: 0,
    accessory,
    ...(controls ? { controls } : {}),
  })
  const layouts: readonly (readonly [string, (p: string) => Placed[]])[] = [
    ['switch, then light', () => [sw('s', null, null), light('l', 's')]],
    ['switch, then two lights', () => [sw('s', null, null), light('l', 's'), light('m', 'l')]],
    ['light, then switch', () => [light('l', null), sw('s', 'l', null)]],
    ['switch of the second light only', () => [light('l', null), sw('s', 'l', null, ['m']), light('m', 's')]],
    [
      'two switches for two lights in a row',
      () => [sw('s', null, null, ['l']), light('l', 's'), sw('t', 'l', null, ['m']), light('m', 't')],
    ],
    ['two-way, then light', (p) => [sw('s', null, `${p}-two-way`), sw('t', 's', `${p}-two-way`), light('l', 't')]],
    ['light between feed and two-way switches', (p) => [light('l', null), sw('s', 'l', `${p}-two-way`), sw('t', 's', `${p}-two-way`)]],
    ['two-way either side of the light', (p) => [sw('s', null, `${p}-two-way`), light('l', 's'), sw('t', 'l', `${p}-two-way`)]],
    [
      'intermediate',
      (p) => [sw('s', null, `${p}-two-way`), sw('i', 's', `${p}-intermediate`), sw('t', 'i', `${p}-two-way`), light('l', 't')],
    ],
    [
      'two intermediates',
      (p) => [
        sw('s', null, `${p}-two-way`),
        sw('i', 's', `${p}-intermediate`),
        sw('j', 'i', `${p}-intermediate`),
        sw('t', 'j', `${p}-two-way`),
        light('l', 't'),
      ],
    ],
    ['fan and light on one switch', (p) => [sw('s', null, null), { ...light('f', 's'), accessory: `${p}-fan-light` }]],
    [
      'fan and light on a switch each',
      (p) => [sw('s', null, null, ['f']), sw('t', 's', null, ['f']), { ...light('f', 't'), accessory: `${p}-fan-light` }],
    ],
    [
      'a fan with overrun, its line past the switch',
      (p) => [sw('s', null, null, ['f']), { ...light('f', 's'), accessory: `${p}-fan-overrun` }],
    ],
    [
      'a light and a fan with overrun on one switch',
      (p) => [sw('s', null, null, ['l', 'f']), light('l', 's'), { ...light('f', 'l'), accessory: `${p}-fan-overrun` }],
    ],
    ['a fan with overrun before its switch', (p) => [{ ...light('f', null), accessory: `${p}-fan-overrun` }, sw('s', 'f', null, ['f'])]],
    ['two-way dimmer and switch', (p) => [sw('s', null, `${p}-two-way-dimmer`), sw('t', 's', `${p}-two-way`), light('l', 't')]],
    ['motion sensor, then light', (p) => [sw('s', null, `${p}-motion`), { ...light('l', 's'), accessory: `${p}-light-wall` }]],
    ['dimmer at the end of a leg', (p) => [light('l', null), sw('s', 'l', `${p}-dimmer`)]],
    ['timer, then fan', (p) => [sw('s', null, `${p}-timer`), light('l', 's')]],
    ['pull-cord after the light', (p) => [light('l', null), sw('s', 'l', `${p}-pull-cord`)]],
    ['an outlet before a switched light', () => [{ id: 'o', name: 'o', from: null, lengthM: 5 }, sw('s', 'o', null), light('l', 's')]],
    [
      'an outlet that stays on after a switch',
      () => [sw('s', null, null, ['l']), light('l', 's'), { id: 'o', name: 'o', from: 'l', lengthM: 5, mustHold: true }],
    ],
  ]
  for (const region of regionIds)
    it.each(layouts)(`%s in ${region}`, (_, points) => {
      for (const colours of ['new', 'old'] as const) {
        const job = jobOf(region, 'radial', [
          c.load({ connection: 'fixed', lighting: true }),
          c.points(...points(prefix[region])),
          c.set({ colours }),
        ])
        // Permanent line, travellers and neutral are more than three cores where both switches and the light are in a row.
        expect(said(job)).toEqual([])
        tried++
      }
    })
  it('fused unit after a light (United Kingdom)', () => {
    const job = jobOf('united-kingdom', 'radial', [
      c.points(sw('s', null, null, ['l']), light('l', 's'), {
        id: 'f',
        name: 'f',
        from: 'l',
        kind: 'fixed',
        lengthM: 3,
        watts: 60,
        accessory: 'uk-fcu',
        fuseA: 3,
        outlets: 0,
      }),
    ])
    expect(said(job)).toEqual([])
    tried++
  })
  it.each([
    ['a fan with overrun', 'uk-fan-overrun', ['l', 'f'], ['L IN', 'L OUT', 'LT IN', 'LT OUT']],
    ['a fan on the switched line alone', 'uk-fan', ['l', 'f'], ['LT IN', 'LT OUT']],
    ['a fan on the permanent line', 'uk-fan', ['l'], ['L IN', 'L OUT']],
  ] as const)('three-pole isolator before %s (United Kingdom)', (_, fan, controls, terminals) => {
    const isolator: Placed = { id: 'i', name: 'i', from: 'l', kind: 'switch', lengthM: 2, outlets: 0, accessory: 'uk-fan-isolator' }
    const job = jobOf('united-kingdom', 'radial', [
      c.load({ connection: 'fixed', lighting: true }),
      c.points(sw('s', null, null, [...controls]), light('l', 's'), isolator, { ...light('f', 'i'), accessory: fan }),
    ])
    expect(said(job)).toEqual([])
    const tested = evaluate(job, []).circuits.flatMap((r) => r.tests.map((t) => t.title))
    expect(tested.filter((t) => t.includes('three poles'))).toHaveLength(2)
    // Three poles open what a fan with overrun has: in the box, every one has its conductor on both sides.
    const of = evaluate(job, [])
      .circuits.flatMap((r) => r.ends)
      .find((e) => e.points[0] === 'i')!.built!
    const used = [...new Set(of.bench.ends.flatMap((e) => /^d1 (LT?) (?:IN|OUT)$/.exec(e.to)?.[0].slice(3) ?? []))]
    expect(used.toSorted()).toEqual(terminals)
    tried++
  })
  it('covers at least 1,500 combinations', () => {
    console.log(`standard wiring: ${tried} combinations of accessory, position, option and world solved`)
    expect(tried).toBeGreaterThanOrEqual(1500)
  })
})
