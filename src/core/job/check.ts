import { accessory } from '../catalogue/accessories'
import { boxKind } from '../catalogue/boxes'
import { faultOfBench } from './bench'
import { boardsOf, feederOf } from './circuit'
import { MAIN_BOARD, unnamedResiduals } from './board'
import { impossibleLoad } from './load'
import { worlds } from '../region/worlds'
import type { Job } from './schema'

/** What is wrong with a document as a whole, and where. */
export interface Fault {
  readonly path: string
  readonly message: string
}

const metals = ['copper', 'aluminium'] as const
type Check = (path: string, ok: boolean, message: string) => void

/** The first thing that a document says of something it does not hold, or null. */
export function faultIn(job: Job): Fault | null {
  const faults: Fault[] = []
  const check: Check = (path, ok, message) => void (ok || faults.push({ path, message }))
  const ids = (list: readonly { id: string }[], path: string): ReadonlySet<string> => {
    const seen = new Set<string>()
    list.forEach((x, i) => {
      check(`${path}.${i}.id`, !seen.has(x.id), `the id ${x.id} occurs twice`)
      seen.add(x.id)
    })
    return seen
  }
  const [rooms, walls, boards, devices] = [
    ids(job.rooms, 'rooms'),
    ids(job.walls, 'walls'),
    ids(job.boards, 'boards'),
    ids(job.residualDevices, 'residualDevices'),
  ]
  const [ways, points, circuits] = [ids(job.ways, 'ways'), ids(job.points, 'points'), ids(job.circuits, 'circuits')]
  job.points.forEach((p, i) => check(`points.${i}.id`, !ways.has(p.id), `a way is called ${p.id} already`))
  const boxes = ids(job.boxes, 'boxes')
  ids(job.cables, 'cables')
  for (const list of ['raceways', 'observations', 'traces', 'defects', 'coils', 'signalCables', 'due'] as const) ids(job[list] ?? [], list)
  const need = (path: string, known: ReadonlySet<string>, id: string | null) =>
    check(path, id === null || known.has(id), `there is no ${id} in the job`)
  check(
    'boards.0',
    job.boards[0]!.id === MAIN_BOARD && job.boards[0]!.fedFrom === null,
    'the first board is the main one, fed from the supply',
  )
  check('boards.0.state', job.boards[0]!.state !== 'new', 'the main board is there already; one that replaces it is entered once it is in')
  job.walls.forEach((w, i) => need(`walls.${i}.room`, rooms, w.room))
  checkRooms(job, check, rooms)
  job.building?.obstacles?.forEach((o, i) => need(`building.obstacles.${i}.room`, rooms, o.room))
  job.building?.otherwise?.forEach(({ of }, i) => need(`building.otherwise.${i}.of`, rooms, 'room' in of ? of.room : null))
  job.boards.forEach((b, i) => {
    need(`boards.${i}.fedFrom`, ways, b.fedFrom)
    need(`boards.${i}.wall`, walls, b.wall?.wall ?? null)
  })
  job.residualDevices.forEach((d, i) => need(`residualDevices.${i}.board`, boards, d.board))
  job.ways.forEach((w, i) => {
    need(`ways.${i}.board`, boards, w.board)
    check(
      `ways.${i}.residual`,
      unnamedResiduals.includes(w.residual) || devices.has(w.residual),
      `there is no residual device ${w.residual} in the job`,
    )
    const planned = w.planned?.residual
    check(
      `ways.${i}.planned.residual`,
      planned === undefined || unnamedResiduals.includes(planned) || devices.has(planned),
      `there is no residual device ${planned} in the job`,
    )
    check(`ways.${i}.bar`, w.bar === null || w.bar === 'main' || devices.has(w.bar), `there is no neutral bar ${w.bar} in the job`)
  })
  job.points.forEach((p, i) => {
    need(`points.${i}.box`, boxes, p.box)
    check(
      `points.${i}.accessory`,
      p.accessory === null || accessory(p.accessory)?.region === job.region,
      `there is no accessory ${p.accessory} listed for where the job is`,
    )
    p.controls?.forEach((c, n) => need(`points.${i}.controls.${n}`, points, c))
  })
  const used = new Set(job.points.map((p) => p.box))
  job.boxes.forEach((b, i) => {
    need(`boxes.${i}.room`, rooms, b.room)
    need(`boxes.${i}.wall`, walls, b.wall?.wall ?? null)
    check(`boxes.${i}.id`, used.has(b.id), 'this box holds no point')
    for (const [path, kind] of [
      ['kind', b.kind],
      ['planned.kind', b.planned?.kind ?? null],
    ] as const)
      check(
        `boxes.${i}.${path}`,
        kind === null || (boxKind(kind)?.regions.includes(job.region) ?? false),
        `there is no box ${kind} listed for where the job is`,
      )
    const fault = b.bench && faultOfBench(job.region, b.bench)
    if (fault) check(`boxes.${i}.bench.${fault.path}`, false, fault.message)
  })
  for (const id of Object.keys(job.day?.holds ?? {})) need('day.holds', points, id)
  checkCables(job, check, { way: ways, point: points, board: boards }, circuits)
  checkCircuits(job, check, ways, points, boards)
  job.raceways.forEach((r, i) => r.circuits.forEach((c, k) => need(`raceways.${i}.circuits.${k}`, circuits, c)))
  const sharable = new Set([...job.raceways.map((r) => r.id), ...boxes])
  job.signalCables?.forEach((k, i) => k.shares?.forEach((id, n) => need(`signalCables.${i}.shares.${n}`, sharable, id)))
  job.observations.forEach(({ seen, later }, i) => {
    const path = `observations.${i}`
    if (seen.kind === 'breaker-off') need(`${path}.seen.breaker`, ways, seen.breaker)
    else need(`${path}.seen.point`, points, seen.point)
    if (seen.kind !== 'cables') seen.dead.forEach((d, k) => need(`${path}.seen.dead.${k}`, points, d))
    later.forEach((d, k) => need(`${path}.later.${k}`, points, d))
  })
  return faults[0] ?? null
}

function checkRooms(job: Job, check: Check, rooms: ReadonlySet<string>): void {
  const beside = new Map(job.rooms.map((r) => [r.id, r.measured?.beside?.room]))
  job.rooms.forEach((r, i) => {
    const by = r.measured?.beside?.room
    if (by === undefined) return
    check(`rooms.${i}.measured.beside.room`, rooms.has(by), `there is no ${by} in the job`)
    let at: string | undefined = by
    for (let steps = 0; at !== undefined && steps <= job.rooms.length; steps++) at = beside.get(at)
    check(`rooms.${i}.measured.beside.room`, at === undefined, 'this room lies by itself, through others')
  })
  const taken = new Set<string>()
  job.walls.forEach((w, i) => {
    if (w.side === undefined || w.room === null) return
    check(`walls.${i}.side`, !taken.has(`${w.side} ${w.room}`), 'this side of the room has two walls')
    taken.add(`${w.side} ${w.room}`)
  })
  job.cables.forEach((k, i) =>
    k.route?.elements.forEach((e, n) => {
      check(`cables.${i}.route.elements.${n}.room`, e.room === null || rooms.has(e.room), `there is no ${e.room} in the job`)
    }),
  )
}

function checkCables(
  job: Job,
  check: Check,
  ends: Readonly<Record<'way' | 'point' | 'board', ReadonlySet<string>>>,
  circuits: ReadonlySet<string>,
): void {
  const reached = new Set<string>()
  job.cables.forEach((k, i) => {
    const path = `cables.${i}`
    for (const end of ['from', 'to'] as const)
      check(`${path}.${end}.id`, ends[k[end].kind].has(k[end].id), `there is no ${k[end].kind} ${k[end].id} in the job`)
    // What was found may be of a kind that nobody makes any more.
    const { cables, sizes } = worlds[job.region]
    if (k.state === 'new' && k.circuit !== null) {
      check(`${path}.type`, k.type === null || cables.includes(k.type), `there is no cable ${k.type} listed for where the job is`)
      const made =
        k.size === null || cables.some((c) => (k.type === null || c === k.type) && metals.some((m) => sizes(c, m).includes(k.size!)))
      check(`${path}.size`, made, `there is no size ${k.size} listed for where the job is`)
    }
    check(`${path}.circuit`, k.circuit === null || circuits.has(k.circuit), `there is no circuit ${k.circuit} in the job`)
    if (k.to.kind !== 'point') return
    const once = `${k.circuit} ${k.to.id}`
    check(`${path}.to.id`, !reached.has(once), `two cables of one circuit lead to ${k.to.id}`)
    reached.add(once)
  })
  const up = new Map(job.cables.filter((k) => k.circuit !== null && k.to.kind === 'point').map((k) => [`${k.circuit} ${k.to.id}`, k]))
  job.cables.forEach((k, i) => {
    let at = k
    for (let steps = 0; at.from.kind === 'point'; steps++) {
      if (steps > job.cables.length) return check(`cables.${i}.from`, false, 'this cable leads back to itself, never to a board')
      const next = up.get(`${k.circuit} ${at.from.id}`)
      if (!next) return
      at = next
    }
  })
}

function checkCircuits(job: Job, check: Check, ways: ReadonlySet<string>, points: ReadonlySet<string>, boards: ReadonlySet<string>): void {
  const reached = new Set(job.cables.map((k) => k.circuit))
  const world = worlds[job.region]
  const byId = new Map(job.circuits.map((c) => [c.id, c]))
  const leaving = boardsOf(job)
  job.circuits.forEach((c, i) => {
    const path = `circuits.${i}`
    const designs = new Set<string>()
    c.designs.forEach((d, k) => {
      check(`${path}.designs.${k}.id`, !designs.has(d.id), `the id ${d.id} occurs twice`)
      designs.add(d.id)
      const listed = (ok: boolean, what: string, field: string) =>
        check(`${path}.designs.${k}.${field}`, ok, `there is no ${what} listed for where the job is`)
      listed(d.accessory === null || accessory(d.accessory)?.region === job.region, `accessory ${d.accessory}`, 'accessory')
      listed(world.cables.includes(d.cable), `cable ${d.cable}`, 'cable')
    })
    const wrong = impossibleLoad(c.load)
    check(`${path}.load.${wrong?.field}`, wrong === null, wrong?.message ?? '')
    check(`${path}.chosen`, designs.has(c.chosen), `there is no design called ${c.chosen}`)
    c.ways.forEach((w, k) => check(`${path}.ways.${k}`, ways.has(w), `there is no way ${w} in the job`))
    check(path, reached.has(c.id), 'a circuit has at least one cable')
    if (c.source)
      check(
        `${path}.source.from`,
        (c.source.kind === 'board' ? boards : points).has(c.source.from),
        `there is no ${c.source.from} in the job`,
      )
    let at: typeof c | undefined = c
    for (let steps = 0; at; steps++) {
      if (steps > job.circuits.length) return check(`${path}.ways`, false, `${c.name} would be fed by its own board`)
      const feeder: string | undefined = feederOf(job, leaving.get(at.id) ?? '')?.id
      at = feeder === undefined ? undefined : byId.get(feeder)
    }
  })
}
