import { describe, expect, it } from 'vitest'
import { workSteps } from '../build/steps'
import { CAP } from '../job/bench'
import { applyEdit } from '../job/edits'
import { wiringJobs } from '../../../tests/support/wiring-jobs'
import { evaluate } from '../evaluate/evaluate'
import { read } from '../installation/installation'
import { regionIds } from '../region/types'
import { builtOf } from './built'

/* A whole job in each world, conductor by conductor: every paper tells of the same end the same. */

const told = {
  'north-america': { pipe: ['black', 'white', 'green'], both: 'Plastic, clamps to wall, two gang deep', spare: 'red', metal: ['lamp'] },
  'united-kingdom': {
    pipe: ['brown', 'blue', 'green-and-yellow'],
    both: 'Metal, flush, two gang 35 mm',
    spare: 'black',
    metal: ['fan', 'guard', 'heater', 'later', 'one', 'shelf', 'three', 'two', 'urn', 'wing'],
  },
  'southern-africa': {
    pipe: ['brown', 'blue', 'green-and-yellow'],
    both: 'Steel wall box, 100 × 100, 50 mm',
    spare: 'black',
    metal: ['fan', 'geyser', 'hatch', 'later', 'melter', 'press', 'shelf', 'yard'],
  },
} as const

describe.each(regionIds)('all that a box may hold, in %s', (region) => {
  const report = evaluate(wiringJobs[region], [])
  const { built, steps, labels, materials, isolation } = builtOf(read(wiringJobs[region]), report)
  const box = (id: string) => built.boxes.find((b) => b.id === id)!
  const bought = (what: string) => materials.filter((m) => m.what === what)

  it('does what was asked, and each circuit is worked out', () => {
    expect(report.stages.find((s) => s.id === 'wiring')!.findings.map((f) => `${f.rule}: ${f.message}`)).toEqual([])
    for (const c of report.circuits) expect(c.chosen.result?.size, c.circuit.name).toBeTruthy()
  })
  it('has the box of two circuits once: bought, filled, labelled, and made in one order of work', () => {
    expect(box('shelf').points).toEqual(['shelf', 'door'])
    expect(bought(told[region].both).find((m) => m.where.includes('shelf'))!.where).not.toContain('door')
    const { fill } = box('shelf')
    expect(fill!.required).toBeLessThanOrEqual(fill!.available)
    expect(labels.filter((l) => l.at === 'shelf' && l.lines.some((x) => x.startsWith('Also in here: ')))).toHaveLength(1)
    expect(steps.some((s) => s.box === 'door')).toBe(false)
  })
  it('names the spare core as capped on the bench, in the order of work and on the label', () => {
    const at = box('shelf').ends.filter((e) => e.cable === 'to-shelf' && e.to === 'cap')
    expect(at).toHaveLength(1)
    expect(steps.filter((s) => s.box === 'shelf' && s.do === 'cap').map((s) => s.core)).toEqual(at.map((e) => e.core))
    expect(labels.find((l) => l.at === 'shelf' && l.cable === 'to-shelf')!.lines).toContain(`Spare, capped: ${told[region].spare}`)
  })
  it('draws single conductors of their own colours into the pipe, and marks none of them', () => {
    const colours = materials.filter((m) => m.kind === 'conductor').map((m) => m.colour)
    expect(colours.toSorted()).toEqual([...told[region].pipe].toSorted())
    expect(steps.filter((s) => s.box === 'fan' && s.do === 'mark')).toEqual([])
    expect(built.cables.filter((k) => k.id.startsWith('to-fan ')).map((k) => k.raceway)).toEqual(['pipe', 'pipe', 'pipe'])
  })
  it('has the switches of a set joined by travellers alone, end by end', () => {
    const travellers = new Set(built.cables.flatMap((k) => k.cores.flatMap((c) => (c.role === 'traveller' ? [`${k.id}|${c.id}`] : []))))
    expect(travellers.size).toBeGreaterThanOrEqual(2)
    for (const b of built.boxes)
      for (const e of b.ends) {
        if (!travellers.has(`${e.cable}|${e.core}`)) continue
        const others = b.ends.filter((o) => o.to === e.to && o !== e && !o.cable.startsWith(`${b.id}:`))
        for (const o of others) expect(travellers.has(`${o.cable}|${o.core}`), `${b.id} ${e.to}`).toBe(true)
      }
  })
  it('leaves what is laid for later capped, and says so at both its ends', () => {
    // In a metal box its protective conductor is on the box; every other is capped.
    for (const e of box('later').ends) if (e.core !== 'pe') expect(e.to).toBe('cap')
    expect(box('later').ends.length).toBeGreaterThan(2)
    const ends = labels.filter((l) => l.cable === 'to-later')
    expect(ends).toHaveLength(2)
    for (const l of ends) expect(l.lines.join()).toMatch(/Not in use, capped/)
  })
  it('connects each metal box to the protective conductor, no plastic one, and reports one that is left off', () => {
    const metal = built.boxes.flatMap((b) => b.joints.filter((j) => j.kind.startsWith('box-')).map((j) => ({ b, j })))
    expect(metal.map(({ b }) => b.id).toSorted()).toEqual([...told[region].metal].toSorted())
    const job = wiringJobs[region]
    for (const { b, j } of metal) {
      const box = report.circuits.flatMap((c) => c.ends).find((e) => e.built?.id === b.id)!.built!
      const on = box.bench.ends.filter((e) => e.to === 'box')
      expect(on, b.id).toHaveLength(1)
      expect(workSteps(read(job), box, 'metric').filter((s) => s.id === 'to box')).toHaveLength(1)
      const bench = { ...box.bench, ends: box.bench.ends.map((e) => (e.to === 'box' ? { ...e, to: CAP } : e)) }
      const off = evaluate(applyEdit(job, { kind: 'bench.take', box: b.id, bench }).job, [])
      const said = off.stages.find((s) => s.id === 'wiring')!.findings.filter((f) => f.rule === 'no-earth')
      expect(said.map((f) => f.message).join(), j.id).toContain('the metal box has no')
    }
    expect(materials.some((m) => m.what.includes('of the box'))).toBe(false)
  })
  it('has its pigtails in the colors of the place', () => {
    const tails = report.circuits.flatMap((c) => c.ends.flatMap((e) => e.built?.bench.tails ?? []))
    expect(tails.length).toBeGreaterThan(3)
    expect(tails.some((t) => t.colour === 'greenYellow')).toBe(region !== 'north-america')
  })
  it('says each step in whole words, a joint of pigtails alone too', () => {
    const boxes = report.circuits.flatMap((c) => c.ends.flatMap((e) => e.built ?? []))
    const texts = boxes.flatMap((b) => workSteps(read(wiringJobs[region]), b, 'metric').map((s) => s.text))
    expect(texts.length).toBeGreaterThan(80)
    for (const t of texts) expect(t).not.toMatch(/the (in|to|of|with) |  |undefined|null/)
    const shelf = boxes.find((b) => b.id === 'shelf')!
    const alone = shelf.bench.connectors.filter((c) => shelf.bench.ends.every((e) => e.to !== c.id || e.end.startsWith('tail')))
    for (const c of alone) expect(texts.some((t) => t.includes(`${c.id.replace('j', 'Joint ')}: fit `))).toBe(true)
  })
  it('isolates every place that is worked at, what is taken out among them', () => {
    const dead = new Set(isolation.flatMap((card) => card.dead))
    for (const b of built.boxes) for (const p of b.points) expect(dead).toContain(p)
    expect(dead).toContain('gone')
  })
})
