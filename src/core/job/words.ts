import { accessory } from '../catalogue/accessories'
import { applianceKinds } from '../catalogue/appliances'
import { boxKind } from '../catalogue/boxes'
import { formatSize } from '../base/format'
import { MAIN_BOARD } from './board'
import { endPointId, feederBoardId } from './cable'
import type { Say } from './part'
import type { Job } from './schema'

/** What the history calls a field whose key does not say it. */
const fieldNames: Readonly<Record<string, string>> = {
  along: 'route it follows',
  tapeMm: 'tape width',
  address: 'address in the code',
  shares: 'what it shares',
  setBackMm: 'how far it is behind the finished face',
  apartMm: 'distance to power cables',
  insulated: 'insulation for the highest voltage present',
  extraTests: 'extra tests',
  askedBy: 'asked by',
  later: 'wishes for later',
  zeOhm: 'Ze',
  basis: 'load given in',
  amount: 'load',
  lengthM: 'length',
  ambientC: 'ambient',
  loadedConductors: 'loaded conductors',
  terminalC: 'terminals',
  groupedCircuits: 'circuits grouped',
  insulationMm: 'length in insulation',
  accessories: 'number of outlets',
  cordA: 'cord rating',
  wantedBreakerA: 'wanted breaker',
  minSize: 'smallest size',
  breakerType: 'breaker type',
  residual: 'behind',
  nearWater: 'near water',
  outOfReach: 'out of reach',
  others: 'other cables in it',
  internalClamps: 'internal clamps',
  supportFittings: 'support fittings',
  reportBy: 'who wrote the report',
  answers: 'answers about time',
  weights: 'weights of the sources',
  demand: 'facts for the demand',
  practice: 'practice building',
  ratingA: 'rating',
  mustHold: 'must stay on',
  heightMm: 'height',
  mainA: 'main rating',
  mainSwitch: 'main switch',
  fedFrom: 'fed from',
  tripMa: 'trips at',
  bar: 'neutral bar',
  pscKa: 'fault current',
  breakingKa: 'breaking capacity',
  selectiveKa: 'selective up to',
  recordedA: 'highest current recorded',
  fuseA: 'fuse',
  closeM: 'length back to the board',
  guardsOn: 'protects the points downstream',
  watts: 'load',
  wattsFrom: 'load known from',
  leg: 'line',
  minC: 'lowest temperature',
  maxC: 'highest temperature',
  stretches: 'sections of the run',
  board: 'fed from',
  free: 'free spaces',
  studAtM: 'a stud found',
  noggingAtM: 'what is between its studs',
  built: 'how it is built',
  closed: 'whether its face stays closed',
  joistAtM: 'a joist found',
  cableMm: 'the thickness of the cable',
  outside: 'conduit along the outside',
  otherwise: 'exceptions by floor and room',
  pictures: 'the picture under the plan',
  holeMm: 'the drill',
  ahead: 'upstream of the main switch',
}

/** A field in the words of the history: its name, or its key taken apart, without the unit. */
export const fieldWords = (key: string): string =>
  fieldNames[key] ?? key.replace(/(?<=[a-z])(M|Mm|A|Ma|Ka|C|W|V|Ohm|Min)$/, '').replace(/(?<=[a-z])[A-Z]/g, (c) => ` ${c.toLowerCase()}`)

/** Fields that name something else of the job by its id, and what they say where they name nothing. */
const pointing: Readonly<Record<string, string>> = {
  from: 'the board',
  fedFrom: 'the supply',
  residual: 'not said',
  bar: 'not known',
  board: 'none',
  appliance: 'anything',
}

/** What a way may be behind without its having a name. */
const unnamed: Readonly<Record<string, string>> = {
  own: 'a device of its own',
  none: 'nothing',
  unknown: 'not known',
  main: 'the main bar',
}

/** What every id of a job is called. */
function namesIn(job: Job): ReadonlyMap<string, string> {
  const boards = job.boards.map(
    (b) =>
      [
        b.id,
        b.name ||
          (b.id === MAIN_BOARD
            ? 'the main board'
            : `the board of ${job.circuits.find((c) => feederBoardId(c.id) === b.id)?.name ?? 'a feeder'}`),
      ] as const,
  )
  const called = new Map(job.points.map((p) => [p.box, p.name] as const).toReversed())
  const named = [...job.raceways, ...(job.signalCables ?? []), ...job.walls, ...job.circuits, ...job.residualDevices, ...job.points]
  return new Map([
    ...boards,
    ...applianceKinds(job.region).map((k) => [k.id, k.name] as const),
    ...job.ways.map((w) => [w.id, w.label] as const),
    // The point at its end is called as the circuit, until it has a name of its own.
    ...job.circuits.map((c) => [endPointId(c.id), c.name] as const),
    // A box is called as the first of what is in it.
    ...job.boxes.flatMap((b) => (called.get(b.id) ? [[b.id, called.get(b.id)!] as const] : [])),
    ...named.flatMap((x) => (x.name === '' ? [] : [[x.id, x.name] as const])),
  ])
}

/** How the history speaks of a job. */
export function sayOf(job: Job): Say {
  let names: ReadonlyMap<string, string> | null = null
  const name = (id: string, other = id): string => (names ??= namesIn(job)).get(id) || other
  const value = (key: string, v: unknown): string => {
    if (typeof v === 'string' && (key === 'residual' || key === 'bar') && v in unnamed) return unnamed[v]!
    if (key in pointing && typeof v !== 'object') return name(String(v))
    if (key in pointing && v === null) return pointing[key]!
    if (key === 'accessory' && v === null) return 'as the circuit says'
    if (v === null || v === '') return 'none'
    if (typeof v === 'boolean') return v ? 'yes' : 'no'
    if (key === 'accessory') return accessory(String(v))?.name ?? String(v)
    if (key === 'kind') return boxKind(String(v))?.name ?? String(v)
    if (Array.isArray(v)) return v.every((x) => typeof x === 'string' || typeof x === 'number') ? v.join(', ') || 'none' : String(v.length)
    if (typeof v === 'object')
      return Object.values(v)
        .filter((x) => x !== null)
        .join(' ')
    const words = formatSize(String(v))
    return words.length > 60 ? `${words.slice(0, 57)}…` : words
  }
  return {
    name,
    value,
    patch: (patch) =>
      Object.entries(patch)
        .map(([k, v]) => `${k === 'residual' && typeof v === 'object' ? 'residual protection' : fieldWords(k)} ${value(k, v)}`)
        .join(', '),
    fields: (patch) => Object.keys(patch).map(fieldWords).join(', '),
    ofCircuit: (id) => (job.circuits.length > 1 ? ` (${job.circuits.find((c) => c.id === id)?.name ?? id})` : ''),
  }
}
