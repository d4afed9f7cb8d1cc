import { waysOfAll } from '../building/route'
import { seenBy } from '../design/fed'
import { circuitLabels } from '../documents/labels'
import { labelKey, labelText } from '../documents/stuck-labels'
import { evaluate } from '../evaluate/evaluate'
import { asTaken, legsOf, waysWanted } from '../installation/building'
import { read } from '../installation/installation'
import { newResidualDevice } from '../job/board'
import type { Planned } from '../job/day'
import { applyEdit, type Edit } from '../job/edits'
import type { IssueSignature } from '../job/issue'
import type { Reading } from '../job/reading'
import type { Job } from '../job/schema'
import type { NewRow } from '../verify/photograph'
import type { Test } from '../verify/tests'
import { type Task, tasksOf } from '../workday/tasks'
import { type DemoAct, type DemoJob, fit, fitness, inCircuit, measured, off, parted, point, standing, way } from './kit'

const bench = inCircuit('c1')

const work: readonly Edit[] = [
  {
    kind: 'brief.set',
    patch: {
      request: 'Plugs at the bottling bench and one by the door, and no extension lead any more.',
      askedBy: 'The beekeeper',
      existing: 'One plug by the store door, and an extension lead along the wall.',
      finish: 'Surface conduit, white.',
      later: 'A second bench.',
      environment: 'dry',
      premises: 'farm',
    },
  },
  ...fitness(fit),
  {
    kind: 'supply.set',
    patch: { board: 'Honey house DB', earthing: 'tn-s', zeOhm: 0.38, pscKa: 1.3, upstream: { kind: 'breaker', ratingA: 60 } },
  },
  { kind: 'board.set', id: 'main', patch: { spaces: 12, free: [6, 7, 8, 9, 10, 11, 12], mainA: 60, mainSwitch: 'double-pole' } },
  { kind: 'residual-device.add', item: newResidualDevice('el', 'Earth leakage', { ratingA: 63, tripMa: 30, type: 'A', delayed: false }) },
  way('z1', 'Plugs, extraction', 20, { position: 1, curve: 'C', shape: 'radial', residual: 'el', bar: 'el' }),
  way('z2', 'Plugs, store', 20, { position: 2, curve: 'C', shape: 'radial', residual: 'el', bar: 'el' }),
  way('z3', 'Lights', 10, { position: 3, curve: 'C', shape: 'radial', residual: 'none', bar: 'main' }),
  way('z4', 'Water heater', 20, { position: 4, curve: 'C', shape: 'radial', residual: 'none', bar: 'main' }),
  way('z5', 'Warming cabinet', 16, { position: 5, curve: 'C', shape: 'radial', residual: 'el', bar: 'el' }),
  {
    kind: 'point.add',
    points: [
      point('e1', 'Extractor', 'Extraction room', 'outlet', 750, { heightMm: 1200 }),
      point('e2', 'Warming cabinet', 'Extraction room', 'outlet', 1500, { heightMm: 1200 }),
      point('s1', 'Store', 'Store', 'outlet', 200, { heightMm: 300 }),
      point('l1', 'Extraction light', 'Extraction room', 'light', 80),
      point('l2', 'Bottling light', 'Bottling room', 'light', 60),
      point('l3', 'Light switch', 'Bottling room', 'switch', 0, { heightMm: 1400 }),
      point('g1', 'Water heater', 'Store', 'fixed', 3000, { appliance: 'water-heater-storage' }),
    ],
  },
  off('o1', 'z1', ['e1'], '2026-11-02T08:05:00.000Z'),
  off('o2', 'z2', ['s1'], '2026-11-02T08:12:00.000Z'),
  off('o3', 'z3', ['l1', 'l2', 'l3'], '2026-11-02T08:20:00.000Z'),
  off('o4', 'z4', ['g1'], '2026-11-02T08:24:00.000Z'),
  off('o5', 'z5', ['e2'], '2026-11-02T08:31:00.000Z'),
  parted('o6', '2026-11-02T08:45:00.000Z', 'l3', ['l1', 'l2'], 1),
  parted('o7', '2026-11-02T08:58:00.000Z', 'l2', ['l1'], 1),
  bench.set({ name: 'Bottling bench', place: 'workshop', environment: 'dry', nearWater: false }),
  bench.connect({ way: '6', residual: 'el' }),
  bench.load({ name: 'Bench plugs', volts: 230, amount: 0, connection: 'plug', continuous: false, lighting: false, nature: 'heating' }),
  bench.points(
    { id: 'b1', name: 'Bench, left', lengthM: 9, watts: 800, outlets: 1 },
    { id: 'b2', name: 'Bench, right', from: 'b1', lengthM: 3, watts: 800, outlets: 1 },
    { id: 'b3', name: 'By the door', from: 'b2', lengthM: 5, watts: 300, outlets: 1 },
  ),
  bench.design({
    accessory: 'za-socket-16',
    method: 'B2',
    wantedBreakerA: 20,
    breakerType: 'C',
    breakingKa: 6,
    residual: { at: 'board', ma: 30, type: 'A' },
  }),
  bench.box({ kind: 'za-surface-50' }, 'b1', 'b2', 'b3'),
  ...measured({ 'Bottling room': [4.2, 3.4, 2.6], Store: [3, 3.4, 2.6, 'west', 'Bottling room'] }),
  { kind: 'building.set', patch: { walls: { kind: 'masonry' }, attic: 'none', crawl: 'none' } },
  standing('main', 'Store', 'south', 1.2, 1500),
  standing('b1', 'Bottling room', 'north', 1.2, 1100),
  standing('b2', 'Bottling room', 'north', 3.2, 1100),
  standing('b3', 'Bottling room', 'east', 1.6, 1100),
]

/** The day of the work, in the time of the place, two hours east of Greenwich. */
const DAY = '2026-11-05'
const at = (min: number, plus = 0): string =>
  new Date(Date.parse(`${DAY}T00:00:00.000Z`) + (min - 120) * 60_000 + plus * 1000).toISOString()
const START_MIN = 480
const people = [
  { id: 'p1', name: 'Farm electrician' },
  { id: 'p2', name: 'Apprentice' },
]

const applied = (job: Job, edits: readonly Edit[]): Job => edits.reduce((j, e) => applyEdit(j, e).job, job)

/** The cheapest route of each cable, taken. */
function routed(job: Job): Edit[] {
  const { record } = read(job)
  const asked = waysWanted(record, 'c1') ?? []
  const legs = legsOf(record, 'c1').filter((l) => l.unplaced.length === 0)
  return waysOfAll(asked).flatMap((found, i): Edit[] => {
    const best = 'routes' in found ? found.routes[0] : undefined
    return best ? [{ kind: 'route.take', cable: legs[i]!.cable, route: asTaken(best, '2026-11-03T09:10:00.000Z') }] : []
  })
}

/** The tasks of the design one after another, in one outage. */
function planned(job: Job): { readonly plan: Planned; readonly tasks: readonly Task[] } {
  const tasks = tasksOf(read(job), evaluate(job, []))
  let min = START_MIN
  const set = tasks.map((t) => {
    const startMin = min
    min += t.minutes
    return { id: t.id, startMin, endMin: min }
  })
  const off = set.filter((_, i) => tasks[i]!.power === 'off')
  const outages = off.length ? [{ fromMin: off[0]!.startMin, toMin: off.at(-1)!.endMin }] : []
  return { plan: { at: '2026-11-03T10:00:00.000Z', tasks: set, outages, optimal: false }, tasks }
}

/** What a sound circuit shows: what is expected, and where only a limit is known, well within it. */
function soundReading({ expect, unit }: Test): Pick<Reading, 'value' | 'mark' | 'unit'> {
  if (expect.kind !== 'range') return { value: null, mark: 'yes', unit: '' }
  if (expect.nominal !== null) return { value: Number(expect.nominal.toPrecision(2)), mark: null, unit }
  return expect.max === null ? { value: 200, mark: 'over', unit } : { value: 24, mark: null, unit }
}
const instruments: Readonly<Record<string, string>> = {
  V: 'Two-pole tester 4',
  Ω: 'Low-ohm and loop tester 2',
  MΩ: 'Insulation tester 1',
  ms: 'Residual device tester 1',
  A: 'Clamp meter 3',
}

/** Everything from the route to the signature, as it was done. */
function done(designed: Job): readonly DemoAct[] {
  const routes = routed(designed)
  let job = applied(designed, routes)
  const acts: DemoAct[] = routes.map((edit) => ({ at: '2026-11-03T09:10:00.000Z', edit }))
  const act = (time: string, edit: Edit) => {
    job = applied(job, [edit])
    acts.push({ at: time, edit })
  }
  act('2026-11-03T09:40:00.000Z', {
    kind: 'day.set',
    patch: { date: DAY, people, startMin: START_MIN, endMin: 1020, marginPercent: 15, taxPercent: 15 },
  })
  const { plan, tasks } = planned(job)
  act('2026-11-03T10:00:00.000Z', { kind: 'day.plan', planned: plan })
  const picture = (time: string, id: string, words: string, of: NewRow['of'], more: Partial<NewRow> = {}) =>
    acts.push({ at: time, photograph: { id, of, words, ...more }, picture: `${id}.jpg` })
  picture(
    at(START_MIN),
    'bench-before',
    'The bench before: an extension lead along the wall',
    { kind: 'room', id: 'room-bottling-room' },
    { moment: 'before' },
  )
  const all = evaluate(job, []).circuits[0]!.tests
  const take = (time: number, phase: Test['phase']) =>
    all
      .filter((t) => t.phase === phase)
      .forEach((test, i) =>
        acts.push({
          at: at(time, i * 40),
          reading: { circuit: 'c1', test: test.id, ...soundReading(test), instrument: test.unit ? instruments[test.unit]! : '' },
        }),
      )
  for (const [i, t] of tasks.entries()) {
    const { startMin, endMin } = plan.tasks[i]!
    act(at(startMin), { kind: 'task.start', row: { task: t.id, expectedMin: t.minutes, startedAt: at(startMin), endedAt: null, note: '' } })
    if (t.power === 'off' && !tasks.slice(0, i).some((x) => x.power === 'off')) {
      take(startMin, 'isolation')
      act(at(startMin, 590), {
        kind: 'isolation.sign',
        signature: {
          id: 'iso-1',
          circuits: ['c1'],
          name: 'Farm electrician',
          told: 'The apprentice and the beekeeper',
          at: at(startMin, 590),
        },
      })
    }
    if (t.kind === 'dead') take(startMin, 'dead')
    if (t.kind === 'live') take(startMin, 'live')
    if (t.kind === 'fit') for (const edit of wiredAll(job)) act(at(endMin, -120), edit)
    act(at(endMin, -30), { kind: 'task.end', task: t.id, endedAt: at(endMin, -30), note: '' })
  }
  const end = plan.tasks.at(-1)!.endMin
  const labels = labelsOf(job, at(end))
  act(at(end), { kind: 'labels.stick', items: labels })
  picture(
    at(end, 60),
    'bench-after',
    'The bench after: two plugs in white conduit',
    { kind: 'room', id: 'room-bottling-room' },
    { moment: 'after' },
  )
  picture(at(end, 120), 'board-after', 'The board with its new breaker', { kind: 'board', id: 'main' })
  acts.push({
    at: at(end, 150),
    photograph: {
      id: 'board-after-ring',
      photograph: 'board-after',
      of: { kind: 'board', id: 'main' },
      words: 'The board with its new breaker',
      mark: { id: 'm1', kind: 'ring', from: [0.585, 0.31], to: [0.675, 0.63], words: 'Bottling bench' },
    },
    picture: null,
  })
  const due = (id: string, what: string, on: string) => act(at(end, 590), { kind: 'due.add', item: { id, what, on, doneOn: null } })
  due('due-1', 'Test button of the earth leakage unit', '2027-02-05')
  due('due-2', 'Inspection and test', '2028-11-05')
  const sign = (n: number, whom: IssueSignature['for'], name: string, qualification: string, registration: string) =>
    acts.push({ at: at(end, 600 + n), signature: { id: `sign-${n}`, for: whom, name, qualification, registration, at: at(end, 600 + n) } })
  sign(1, 'design', 'Farm electrician', 'Installation electrician', 'IE 0417')
  sign(2, 'work', 'Farm electrician', 'Installation electrician', 'IE 0417')
  sign(3, 'tests', 'Farm electrician', 'Installation electrician', 'IE 0417')
  return acts.toSorted((a, b) => a.at.localeCompare(b.at))
}

/** Every step of the wiring. */
const wiredAll = (job: Job): Edit[] =>
  evaluate(job, []).circuits.flatMap((c) =>
    c.ends.flatMap((e): Edit[] => (e.lead && e.built ? [{ kind: 'wiring.done', boxes: [e.built.id], steps: [...e.steps] }] : [])),
  )

/** Every label of the job, as it was stuck. */
function labelsOf(job: Job, stuckAt: string): Extract<Edit, { kind: 'labels.stick' }>['items'] {
  const seen = read(job)
  const { circuits } = evaluate(job, [])
  return circuits
    .flatMap((c) => circuitLabels(seenBy(seen, c), c, '', 'metric'))
    .map((l) => ({ key: labelKey(l), text: labelText(l), at: stuckAt }))
}

/** Two plugs on a bench, from the request to the signature: what the end of a job looks like. */
export const finished: DemoJob = {
  id: 'bottling-bench',
  region: 'southern-africa',
  title: 'Bottling bench',
  place: 'Honey house on the farm',
  by: 'Farm electrician',
  start: '2026-11-03T07:00:00.000Z',
  about: 'Finished: routed, planned, wired, tested, photographed, labelled and signed.',
  edits: work,
  readings: [],
  finish: done,
}
