import { type BoxMounting } from '../catalogue/boxes'
import type { Report } from '../report/report'
import type { Installation } from '../installation/installation'
import { worlds } from '../region/worlds'
import type { TaskKind } from './task-kinds'
import type { Task } from './tasks'

/** What decides which tools go along. */
interface Work {
  readonly kinds: ReadonlySet<TaskKind>
  readonly mountings: ReadonlySet<BoxMounting>
  readonly job: Installation
  readonly bent: boolean
  readonly drawnIn: boolean
  readonly hot: boolean
  readonly residual: boolean
}
interface ToolEntry {
  readonly name: string
  /** What does instead, and what it costs; null: nothing does. */
  readonly second: string | null
  readonly when: (w: Work) => boolean
}
export interface Tool {
  readonly name: string
  readonly second: string | null
}

const any = (w: Work, ...kinds: TaskKind[]): boolean => kinds.some((k) => w.kinds.has(k))
const metric = ({ job }: Work): boolean => worlds[job.region].metric !== null

/** In the order they are wanted on the day. */
const tools: readonly ToolEntry[] = [
  {
    name: 'Two-pole voltage tester, and what proves it',
    second: 'A multimeter with fused leads, proved on a live source before and after each use',
    when: (w) => any(w, 'board', 'fit', 'remove', 'dead', 'live'),
  },
  { name: 'Lock, tag and their key', second: null, when: (w) => any(w, 'board', 'fit', 'remove', 'dead') },
  { name: 'Safety glasses, gloves, dust mask', second: null, when: (w) => any(w, 'bore', 'box', 'close', 'run') },
  { name: 'Head lamp, knee pads and water, for the hot space', second: null, when: (w) => w.hot },
  {
    name: 'Drill and bits for the holes along the route',
    second: 'A brace and bit, where it must be quiet',
    when: (w) => any(w, 'bore', 'run'),
  },
  { name: 'Angle drill, for between the members', second: 'A flexible bit from the opening of the box', when: (w) => any(w, 'bore') },
  { name: 'Fishing rods or tape', second: 'A cord with a weight, where it drops straight', when: (w) => any(w, 'pull', 'run') },
  { name: 'Draw tape and lubricant for the pipe', second: 'A cord blown through with a vacuum cleaner', when: (w) => w.drawnIn },
  { name: 'Bender or former of its size', second: 'Made bends and offsets, with more couplings', when: (w) => w.bent },
  {
    name: 'Pad saw, and the template of the box',
    second: 'A blade that swings; slower in drywall, cleaner in tile',
    when: (w) => w.mountings.has('clamps to a finished wall'),
  },
  {
    name: 'Chisel, hammer and a box sinker',
    second: 'Chain drilling and a bolster',
    when: (w) => w.mountings.has('set in masonry'),
  },
  { name: 'Level, tape and pencil', second: 'The level line of the template', when: (w) => any(w, 'box', 'bore', 'run') },
  { name: 'Stripper, sheath knife and side cutters', second: null, when: (w) => any(w, 'fit', 'board') },
  { name: 'Torque screwdriver', second: null, when: (w) => any(w, 'fit', 'board') },
  {
    name: 'Low-ohm meter and insulation tester, 500 V',
    second: 'A multimeter for continuity; nothing for insulation',
    when: (w) => any(w, 'dead') && metric(w),
  },
  {
    name: 'Insulation tester, 500 V, and a multimeter',
    second: 'The multimeter alone: then insulation stays untested',
    when: (w) => any(w, 'dead') && !metric(w),
  },
  { name: 'Loop tester', second: null, when: (w) => any(w, 'live') && metric(w) },
  {
    name: 'Tester for residual devices, by time and by ramp',
    second: 'The device’s own button, which proves the mechanism and not the time',
    when: (w) => any(w, 'live') && w.residual,
  },
  { name: 'Label maker', second: 'The printed labels, under clear tape', when: (w) => any(w, 'label') },
  { name: 'Filler, trowel and sandpaper', second: null, when: (w) => any(w, 'close') },
  { name: 'Vacuum cleaner, sheets and bags', second: 'A brush and a damp cloth', when: (w) => any(w, 'clear') },
]

/** The tools that the tasks of a job ask for, each with what does instead. */
export function toolsOf(job: Installation, report: Pick<Report, 'circuits' | 'raceways'>, tasks: readonly Task[]): readonly Tool[] {
  const kinds = new Set(tasks.map((t) => t.kind) as TaskKind[])
  const boxes = report.circuits.flatMap(({ ends }) => ends.flatMap((e) => e.boxReport.kind?.mounting ?? []))
  const w: Work = {
    kinds,
    mountings: new Set(kinds.has('box') ? boxes : []),
    job,
    bent: report.raceways.some((r) => r.raceway.bends.length > 0 && r.raceway.kind !== 'fmc'),
    drawnIn: report.raceways.length > 0,
    hot: tasks.some((t) => t.hot),
    residual: report.circuits.some(({ chosen: { design } }) => design.residual.at !== 'none'),
  }
  return tools.filter((t) => t.when(w)).map(({ name, second }) => ({ name, second }))
}
