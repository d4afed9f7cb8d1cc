import { boardDrawing } from '../../src/core/drawing/board'
import { bendingDrawing } from '../../src/core/drawing/bending'
import { boxDrawing } from '../../src/core/drawing/box'
import { chainDrawing } from '../../src/core/drawing/chain'
import { profileDrawing } from '../../src/core/drawing/profile'
import { sides } from '../../src/core/building/house'
import { waysOfAll } from '../../src/core/building/route'
import { elevationDrawing } from '../../src/core/drawing/elevation'
import { planDrawing } from '../../src/core/drawing/plan'
import { buildingOf, placeNames, platesOfWay, stepsOfWay, waysWanted } from '../../src/core/installation/building'
import type { Drawing } from '../../src/core/drawing/shape'
import { treeDrawing } from '../../src/core/drawing/tree'
import { wallDrawing } from '../../src/core/drawing/wall'
import { placedOn } from '../../src/core/workday/plan'
import { tasksOf } from '../../src/core/workday/tasks'
import { timelineDrawing } from '../../src/core/drawing/timeline'
import { houseOf } from '../../src/core/wired/house'
import { noTrial } from '../../src/core/wired/laid'
import { liveOf } from '../../src/core/wired/live'
import { benchDrawing } from '../../src/core/drawing/bench'
import { mountingDrawing, templateDrawing } from '../../src/core/drawing/mounting'
import { mountingOf } from '../../src/core/build/mounting'
import { newMount } from '../../src/core/job/mount'
import { evaluate, type Report } from '../../src/core/evaluate/evaluate'
import { newDay } from '../../src/core/job/day'
import type { Installation } from '../../src/core/installation/installation'
import { worlds } from '../../src/core/region/worlds'
import { plannedIn } from '../../src/core/survey/board'
import { runReport } from '../../src/core/survey/walls'

const formats = ['wide', 'narrow'] as const

/** The building from above and from the south, with the best way of each circuit, and every wall as one faces it. */
function buildingDrawings(job: Installation): Drawing[] {
  const { input, rooms } = buildingOf(job.record)
  if (!input) return []
  const names = placeNames(job)
  const ways = job.circuits.flatMap((c) => waysOfAll(waysWanted(job.record, c.id) ?? [])).flatMap((w) => ('routes' in w ? w.routes : []))
  return [{ elements: [] }, ...ways].flatMap(({ elements: parts }) => {
    const steps = stepsOfWay(job, parts, 'metric')
    const asked = {
      input,
      rooms,
      names,
      parts,
      steps,
      units: 'metric' as const,
      region: job.region,
      plates: platesOfWay(job.record, parts),
    }
    const floors = [...new Set(rooms.map((r) => r.floor))]
    return formats.flatMap((format) => [
      ...floors.map((floor) => planDrawing({ ...asked, format, view: 'plan', floor })),
      ...rooms.map((r) => planDrawing({ ...asked, format, view: 'plan', floor: r.floor, dimensioned: r.id })),
      planDrawing({ ...asked, format, view: 'section', floor: 0 }),
      ...rooms.flatMap((room) => sides.map((side) => elevationDrawing({ ...asked, room, side, format }))),
    ])
  })
}

/** The day with all its tasks one after another, and an outage over what is done dead. */
function dayDrawings(job: Installation, report: Report): Drawing[] {
  const day = { ...newDay(), people: [newDay().people[0]!, { id: 'p2', name: 'Somebody with a long name' }] }
  const tasks = tasksOf(job, report).slice(0, 80)
  let from = day.startMin
  const spans = tasks.map((t) => ({ id: t.id, startMin: from, endMin: (from += t.minutes) }))
  const dead = spans.filter((_, i) => tasks[i]!.power === 'off')
  const outages = dead.slice(0, 2).map((s) => ({ fromMin: s.startMin, toMin: s.endMin }))
  const placed = placedOn({ at: '', tasks: spans, outages, optimal: false }, tasks, day)
  return formats.map((format) => timelineDrawing({ placed, outages, ...day, done: new Set(), doing: new Set(), format }))
}

/** Every box opened with all that is written in it, and how it is held in a wall of many layers. */
function boxDrawings(job: Installation, report: Report): Drawing[] {
  const house = houseOf(job, report.circuits, noTrial)
  const live = liveOf(house)
  const mount = {
    ...newMount(),
    behind: 'finished' as const,
    layers: [
      { what: 'tile' as const, mm: 8 },
      { what: 'board' as const, mm: 12.5 },
      { what: 'gap' as const, mm: 10 },
    ],
    cavityMm: 50,
    studMm: 60,
  }
  const held = report.circuits.flatMap(({ circuit }) =>
    circuit.points.slice(0, 2).flatMap((p) => {
      const whole = mountingOf(job, circuit, { ...p, box: { ...p.box, mount } }, 'metric')
      const template = templateDrawing(whole, p.name, 450, 'metric')
      const bare = mountingOf(job, circuit, p, 'metric')
      const drawn = formats.flatMap((f) => [mountingDrawing(whole, 450, 'metric', f), mountingDrawing(bare, null, 'metric', f)])
      return [...drawn, ...(template ? [template] : [])]
    }),
  )
  return [...house.boxes.flatMap((b) => formats.map((f) => benchDrawing(b, live, f))), ...held]
}

/** Every drawing of a job, in every format it is drawn in. */
export function drawingsOf(job: Installation): Drawing[] {
  const report = evaluate(job, [])
  const { survey } = report
  return [
    ...buildingDrawings(job),
    ...dayDrawings(job, report),
    ...boxDrawings(job, report),
    ...report.circuits.flatMap(({ circuit, chosen, ends }) => [
      ...formats.map((f) => chainDrawing(job, circuit, chosen, 'metric', f)),
      ...(chosen.layout?.points.length
        ? formats.map((f) => profileDrawing(circuit, chosen.layout!, worlds[job.region].drop.percent(circuit.load.lighting), 'metric', f))
        : []),
      ...ends.flatMap((e) => [
        ...formats.map((f) => boxDrawing(e.boxReport, 'metric', f)),
        ...(e.built ? formats.map((f) => benchDrawing(e.built!, null, f)) : []),
      ]),
    ]),
    ...report.boards.flatMap((b) =>
      formats.map((f) =>
        boardDrawing({ job, report: b, loads: survey.loads, proved: survey.proved, planned: plannedIn(job, b.board.id) }, f),
      ),
    ),
    ...(job.points.length + job.ways.length ? [treeDrawing(job, survey, job.supply.board || worlds[job.region].words.board)] : []),
    ...report.raceways.flatMap((r) => (r.bending ? formats.map((f) => bendingDrawing(r.bending!, 'metric', f)) : [])),
    ...job.walls.flatMap((w) => formats.map((f) => wallDrawing(w, runReport(job.region, w, 'metric'), 'metric', f))),
  ]
}
