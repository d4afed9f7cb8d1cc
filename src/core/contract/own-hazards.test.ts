import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { calculateOne, calculators } from './calculators'

/* Hazards of our own, planted one at a time in sound jobs: each is said, asked for or refused, and the sound job says nothing of it. */

const load = (base: string): object => JSON.parse(readFileSync(`tests/jobs/${base}.json`, 'utf8')) as object

/** What is set, and where: keys and indexes by dots, `+` at the end of a list, `#id` for the thing of that id. */
type Change = readonly [path: string, value: unknown]
function plant(file: object, [path, value]: Change): void {
  const keys = path.split('.')
  const last = keys.pop()!
  let at: unknown = file
  for (const key of keys)
    at = key.startsWith('#') ? (at as { id: string }[]).find((x) => x.id === key.slice(1)) : (at as Readonly<Record<string, unknown>>)[key]
  if (last === '+') (at as unknown[]).push(value)
  else (at as Record<string, unknown>)[last] = value
}

interface Judged {
  readonly error?: { readonly path: string; readonly message: string }
  readonly stages?: readonly {
    readonly id: string
    readonly findings: readonly { severity: string; rule: string; circuit: string | null; message: string }[]
    readonly open: readonly { ask: string }[]
  }[]
}
async function saidOf(file: object): Promise<ReadonlySet<string>> {
  const { error, stages } = (await calculateOne(calculators.job!, file)) as Judged
  if (error) return new Set([`refused ${error.path} ${error.message}`])
  return new Set(
    stages!.flatMap((s) => [
      ...s.findings.flatMap((f) => (f.severity === 'note' ? [] : [`${f.severity} ${f.rule} ${f.circuit} ${f.message}`])),
      ...(['wiring', 'test', 'handover'].includes(s.id) ? [] : s.open.map((o) => `open ${o.ask}`)),
    ]),
  )
}

const [uk, na, za, day] = ['sound3-uk-ukr', 'sound3-na-nak', 'sound3-za-zap', 'sound3-uk-uki-with-a-day']
const design = 'job.circuits.0.designs.0'
const own = (more: object): Change => [
  'job.day.own.+',
  { id: 'z', name: 'Z', kind: 'work', minutes: 30, people: 1, power: 'any', after: [], earliestMin: null, latestMin: null, ...more },
]
const reading = (more: object): Change => [
  'readings.+',
  {
    id: 'rx',
    circuit: 'c1',
    point: null,
    test: 'zs',
    value: 0.5,
    mark: null,
    unit: 'Ω',
    at: '2026-11-30T10:00:00.000Z',
    by: '',
    instrument: '',
    note: '',
    corrects: null,
    on: null,
    ...more,
  },
]

const hazards: readonly (readonly [base: string, about: string, words: RegExp, ...changes: Change[]])[] = [
  [uk!, 'a box of another world', /box/, ['job.points.0.box.kind', 'na-new-18']],
  [na!, 'a box too small', /box-overfilled/, ['job.points.0.box.kind', 'na-handy-10.3']],
  [na!, 'five more cables in a box', /box-overfilled/, ['job.points.0.box.others', 5]],
  [uk!, 'a ceiling box for a twin outlet', /box-too-narrow/, ['job.points.0.box.kind', 'uk-ceiling-25']],
  [na!, 'a box nobody chose', /which box/, ['job.points.0.box.kind', null]],
  [uk!, 'a hidden box', /hidden-box/, ['job.points.0.hidden', true]],
  [uk!, 'a damaged point', /point-damaged/, ['job.points.0.condition', 'damaged']],
  [uk!, 'an accessory of another world', /accessory/, ['job.points.0.accessory', 'na-duplex-15']],
  [uk!, 'a fuse below its load', /fuse-not-right/, ['job.points.0.fuseA', 3]],
  [uk!, 'a socket near a bath', /socket-near-bath/, ['job.points.0.place', 'bathroom'], ['job.points.0.nearWater', true]],
  [uk!, 'an existing cable nobody read in a new circuit', /existing-cable-not-known/, ['job.cables.0.state', 'existing']],
  [na!, 'an existing cable nobody read in a new circuit', /existing-cable-not-known/, ['job.cables.0.state', 'existing']],
  [za!, 'an existing cable nobody read in a new circuit', /existing-cable-not-known/, ['job.cables.0.state', 'existing']],
  [uk!, 'a cable of 5000 m', /length-doubtful/, ['job.cables.0.lengthM', 5000]],
  [uk!, 'a thin cable in a ring', /ring-capacity/, ['job.cables.0.size', '1.0 mm2']],
  [uk!, 'a size of another world', /no size 12 AWG listed/, ['job.cables.0.size', '12 AWG']],
  [na!, 'a size of another world', /no size 2.5 mm2 listed/, ['job.cables.0.size', '2.5 mm2']],
  [uk!, 'a cable type of another world', /no cable nm-b listed/, ['job.cables.0.type', 'nm-b']],
  [uk!, 'a leg of the ring taken out', /ring-open/, ['job.cables.1.state', 'removed']],
  [na!, 'a thin existing cable', /branch-not-protected/, ['job.cables.0.state', 'existing'], ['job.cables.0.size', '14 AWG']],
  [na!, 'aluminium on terminals for copper', /aluminium-on-terminals/, [`${design}.conductor`, 'aluminium']],
  [na!, 'no GFCI in a kitchen', /residual-protection-needed/, [`${design}.residual.at`, 'none']],
  [na!, 'a breaker of 60 A for outlets', /outlet-not-allowed/, [`${design}.wantedBreakerA`, 60]],
  [na!, 'a voltage that no outlet gives', /voltage-mismatch/, ['job.circuits.0.load.volts', 277]],
  [na!, 'a bedroom without arc-fault protection', /arc-fault/, ['job.circuits.0.place', 'bedroom'], [`${design}.arcFault`, 'none']],
  [uk!, 'a breaker that cannot break the fault', /breaking-capacity/, ['job.supply.pscKa', 30]],
  [uk!, 'a breaker nobody read', /breaking-capacity/, [`${design}.breakingKa`, null]],
  [uk!, 'a heat no table knows', /outside-the-tables/, [`${design}.ambientC`, 69]],
  [uk!, 'a slower breaker type', /zs-too-high/, [`${design}.breakerType`, 'D']],
  [uk!, 'an RCD of 100 mA for sockets', /socket-residual-protection/, ['job.residualDevices.0.tripMa', 100]],
  [uk!, 'an RCD of type AC', /residual-type/, ['job.residualDevices.0.type', 'AC']],
  [uk!, 'an RCD rated below its sum', /residual-device-sum/, ['job.residualDevices.0.ratingA', 10]],
  [uk!, 'no main switch', /main-switch-missing/, ['job.boards.0.mainSwitch', 'none']],
  [uk!, 'a main switch nobody looked at', /main-switch-unknown/, ['job.boards.0.mainSwitch', 'unknown']],
  [uk!, 'a way beyond the board', /space-beyond-board/, ['job.ways.0.position', 80]],
  [uk!, 'two ways in one place', /space-taken-twice/, ['job.ways.1.position', 1]],
  [uk!, 'a way ahead of the main switch', /live-with-main-off/, ['job.ways.0.ahead', true]],
  [uk!, 'a second source', /second-source/, ['job.ways.0.kind', 'source']],
  [uk!, 'the new way behind no RCD', /socket-residual/, ['job.ways.#way-c1.residual', 'none']],
  [uk!, 'an earthing nobody looked at', /earthing-not-known/, ['job.supply.earthing', null]],
  [uk!, 'a Ze of 0', /not a possible reading/, ['job.supply.zeOhm', 0]],
  [uk!, 'nothing asked of fitness', /fitness questions/, ['job.brief.fitness', {}]],
  [uk!, 'a loop of 5 Ω', /reading-off-expectation/, reading({ value: 5 })],
  [uk!, 'a reading of a circuit that is not there', /reading-not-placed/, reading({ circuit: 'c99' })],
  [uk!, 'a reading of a test that is not asked', /reading-not-placed/, reading({ test: 'no-such' })],
  [day!, 'a task that waits for nothing', /day-waits-for-nothing/, own({ after: ['nope'] })],
  [day!, 'a task longer than its window', /day-window-too-short/, own({ minutes: 300, earliestMin: 600, latestMin: 700 })],
  [day!, 'an outage too short for its work', /day-off-too-short/, ['job.day.mostOffMin', 11]],
  [day!, 'hours the wrong way round', /day-no-hours/, ['job.day.startMin', 1000], ['job.day.endMin', 500]],
  [day!, 'everybody leaves after ten minutes', /day-person-leaves/, ['job.day.people.0.untilMin', 490], ['job.day.people.1.untilMin', 490]],
  [
    day!,
    'a signature for a circuit that is not there',
    /signed-no-circuit/,
    ['job.day.signatures.+', { id: 's', circuits: ['c99'], name: 'X', told: '', at: '2026-11-30T10:00:00.000Z' }],
  ],
]

describe('a hazard planted in a sound job', () => {
  it.each(hazards.map(([base, about, words, ...changes]) => [base, about, { words, changes }] as const))(
    '%s: %s',
    async (base, _, { words, changes }) => {
      const before = await saidOf(load(base))
      const file = load(base)
      for (const c of changes) plant(file, c)
      const fresh = [...(await saidOf(file))].filter((s) => !before.has(s))
      expect(fresh.some((s) => words.test(s))).toBe(true)
    },
  )
})
