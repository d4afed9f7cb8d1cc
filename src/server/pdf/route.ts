import 'server-only'
import type { Content } from 'pdfmake/interfaces'
import { type Side, sides } from '@/core/building/house'
import { elevationDrawing } from '@/core/drawing/elevation'
import { planDrawing } from '@/core/drawing/plan'
import type { Drawing } from '@/core/drawing/shape'
import { piecesOf, reelWords } from '@/core/workday/pieces'
import { evaluate } from '@/core/evaluate/evaluate'
import { buildingOf, placeNames, platesOfWay, standsAt, stepsOfWay } from '@/core/installation/building'
import { type Installation, read } from '@/core/installation/installation'
import type { Cable } from '@/core/job/cable'
import { partsInPipe } from '@/core/build/raceways'
import { formatLength, type UnitSystem } from '@/core/base/format'
import type { StoredJob } from '@/store/jobs'
import { paperOf } from './documents'
import { columns, figure, headed, type Document, quietly, title } from './kit'

const WIDTH = 500

interface Sheet {
  readonly name: string
  readonly drawing: Drawing
}
/** The drawings of one way, or of the house where none is given: each storey it crosses, the whole from the south, the walls it is in. */
function sheetsOf(job: Installation, cable: Cable | null, units: UnitSystem): { plans: Sheet[]; walls: Sheet[] } {
  const { input, rooms } = buildingOf(job.record)
  if (!input) return { plans: [], walls: [] }
  const parts = cable?.route?.elements ?? null
  const pipes = cable && parts ? partsInPipe(job, cable, parts) : new Set<number>()
  const names = placeNames(job)
  const asked = {
    input,
    rooms,
    names,
    parts: parts ?? [],
    steps: parts ? stepsOfWay(job, parts, units) : [],
    plates: platesOfWay(job.record, parts ?? []),
    pipes,
    region: job.region,
    units,
    format: 'wide' as const,
  }
  const floors = [...new Set(rooms.filter((r) => parts === null || parts.some((p) => p.room === r.id)).map((r) => r.floor))]
  const inWall = (room: string, side: Side) =>
    parts === null || parts.some((p) => p.room === room && (p.side === side || p.beyond === side) && p.kind !== 'partition')
  const walls = rooms.flatMap((room) => sides.filter((side) => inWall(room.id, side)).map((side) => ({ room, side })))
  return {
    plans: [
      ...floors.map((floor) => ({ name: 'Plan', drawing: planDrawing({ ...asked, view: 'plan', floor }) })),
      { name: 'From the south', drawing: planDrawing({ ...asked, view: 'section', floor: 0 }) },
    ],
    walls: walls.map(({ room, side }) => ({
      name: `${names.get(room.id)}, ${side} wall, as you face it`,
      drawing: elevationDrawing({
        input,
        rooms,
        room,
        side,
        names,
        parts: parts ?? [],
        plates: asked.plates,
        pipes,
        units,
        region: job.region,
        format: 'wide',
      }),
    })),
  }
}

/** Every drawing of the building to scale: of each way that was taken, or of the house alone. */
export function buildingSheets(stored: StoredJob, units: UnitSystem): readonly Sheet[] {
  const job = read(stored.job)
  const routed = job.record.cables.filter((k) => k.route)
  return (routed.length ? routed : [null]).flatMap((cable) => {
    const { plans, walls } = sheetsOf(job, cable, units)
    return [...plans, ...walls]
  })
}

/** Each way that was taken, on pages of its own: the storeys it crosses, the walls it is in, and the work in its order. */
export function routePaper(stored: StoredJob, date: string, units: UnitSystem): Document {
  const job = read(stored.job)
  const names = placeNames(job)
  const routed = job.record.cables.filter((k) => k.route)
  const sections = routed.map((k): Content[] => {
    const parts = k.route!.elements
    const steps = stepsOfWay(job, parts, units)
    const { plans, walls } = sheetsOf(job, k, units)
    const ends = [k.from, k.to].map((end) => names.get(standsAt(job.record, end)) || 'its end').join(' to ')
    return [
      title(ends, 18),
      quietly(`${formatLength(k.route!.cutM, units)} to cut: the way with a tenth more, a loop and two tails.`),
      ...plans.flatMap(({ name, drawing }) => headed(name, figure(drawing, WIDTH))),
      columns(
        job.region,
        [
          { name: '', flex: 0.4 },
          { name: 'Work', flex: 6 },
          { name: 'Mind', flex: 4 },
          { name: 'People', flex: 0.8 },
        ],
        steps.map((s, i) => [String(i + 1), s.words, s.caution ? `${s.caution.words} (${s.caution.clause})` : '', String(s.people)]),
        'In working order',
      ),
      ...walls.flatMap(({ name, drawing }) => headed(name, figure(drawing, WIDTH))),
    ]
  })
  const pieces = piecesOf(job, evaluate(job, stored.readings))
  const cutting: Content[] = pieces.length
    ? [
        columns(
          job.region,
          [
            { name: 'Cable', flex: 4 },
            { name: 'From and to', flex: 5 },
            { name: 'To cut', flex: 2 },
          ],
          pieces.map((p) => [reelWords(p), p.name, formatLength(p.lengthM, units)]),
          'To be cut',
        ),
      ]
    : [title('Routes through the building', 18), quietly('No routes yet. Choose one for each cable under Route.')]
  return { paper: paperOf(stored, date), sections: [...sections, cutting], name: `Routes through the building: ${job.title}` }
}
