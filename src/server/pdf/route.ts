import 'server-only'
import type { Content } from 'pdfmake/interfaces'
import { sides } from '@/core/building/house'
import { elevationDrawing } from '@/core/drawing/elevation'
import { planDrawing } from '@/core/drawing/plan'
import { piecesOf, reelWords } from '@/core/documents/pieces'
import { evaluate } from '@/core/evaluate'
import { buildingOf, placeNames, standsAt, stepsOfWay } from '@/core/installation/building'
import { read } from '@/core/installation/installation'
import { formatLength, type UnitSystem } from '@/core/quantity/format'
import type { StoredJob } from '@/store/jobs'
import { paperOf } from './documents'
import { columns, figure, headed, pdf, quietly, title } from './kit'

const WIDTH = 500

/** Each way that was taken, on pages of its own: the storeys it crosses, the walls it is in, and the work in its order. */
export async function routePdf(stored: StoredJob, date: string, units: UnitSystem): Promise<Buffer> {
  const job = read(stored.job)
  const building = buildingOf(job.record)
  const names = placeNames(job)
  const routed = job.record.cables.filter((k) => k.route)
  const { input, rooms } = building
  const sections = routed.map((k): Content[] => {
    const parts = k.route!.elements
    const steps = stepsOfWay(job, parts, units)
    const asked = { input: input!, rooms, names, parts, steps, units, format: 'wide' as const }
    const floors = [...new Set(rooms.filter((r) => parts.some((p) => p.room === r.id)).map((r) => r.floor))]
    const walls = rooms.flatMap((room) =>
      sides
        .filter((side) => parts.some((p) => p.room === room.id && (p.side === side || p.beyond === side) && p.kind !== 'partition'))
        .map((side) => ({ room, side })),
    )
    const ends = [k.from, k.to].map((end) => names.get(standsAt(job.record, end)) || 'its end').join(' to ')
    return [
      title(ends, 18),
      quietly(`${formatLength(k.route!.cutM, units)} to cut: the way with a tenth more, a loop and two tails.`),
      ...(input
        ? [
            ...floors.flatMap((floor) => headed('Plan', figure(planDrawing({ ...asked, view: 'plan', floor }), WIDTH))),
            ...headed('From the south', figure(planDrawing({ ...asked, view: 'section', floor: 0 }), WIDTH)),
          ]
        : []),
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
      ...(input
        ? walls.flatMap(({ room, side }) =>
            headed(
              `${names.get(room.id)}, ${side} wall, as you face it`,
              figure(elevationDrawing({ input, room, side, names, parts, units, format: 'wide' }), WIDTH),
            ),
          )
        : []),
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
    : [title('Ways through the building', 18), quietly('No way was taken yet: the stage “Route” looks for them.')]
  return pdf(paperOf(stored, date), [...sections, cutting], `Ways through the building: ${job.title}`)
}
