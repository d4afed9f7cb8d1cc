import 'server-only'
import type { Content } from 'pdfmake/interfaces'
import { bendingDrawing } from '@/core/drawing/bending'
import { evaluate } from '@/core/evaluate/evaluate'
import { formatSmallLength, trim, type UnitSystem } from '@/core/base/format'
import type { Bending } from '@/core/calculate/bending'
import { type RacewayReport, strapClause } from '@/core/rules/raceway'
import type { StoredJob } from '@/store/jobs'
import { paperOf } from './documents'
import { columns, figure, type Document, quietly, title, words } from './kit'

/** Each run of pipe on a page of its own, to take to the bender: to scale, with every mark from the end of its piece. */
export function bendingPaper(stored: StoredJob, date: string, units: UnitSystem): Document {
  const { raceways } = evaluate(stored.job, stored.readings)
  const bent = raceways.flatMap((r) => (r.bending ? [{ r, bending: r.bending }] : []))
  const pages = bent.map(({ r, bending }) => page(stored, r, bending, units))
  const none = [words('No pipe of this job is bent, or the radius of its bends is not known.')]
  return { paper: { ...paperOf(stored, date), large: true }, sections: pages.length ? pages : [none], name: `${stored.job.title}, bending` }
}

function page({ job }: StoredJob, r: RacewayReport, bending: Bending, units: UnitSystem): Content[] {
  const mm = (x: number) => formatSmallLength(x, units)
  return [
    title(`Bending: ${r.raceway.name}`, 19),
    quietly(`${mm(bending.cutMm)} of pipe in ${bending.pieces.length === 1 ? 'one piece' : `${bending.pieces.length} pieces`}.`),
    figure(bendingDrawing(bending, units), 500),
    columns(
      job.region,
      [
        { name: 'Bend', flex: 1 },
        { name: 'Piece', flex: 1 },
        { name: 'Degrees', flex: 1 },
        { name: 'Turned', flex: 2 },
        { name: 'Begins at', flex: 2 },
        { name: 'Ends at', flex: 2 },
      ],
      bending.pieces.flatMap((p, n) =>
        p.bends.map((b) => [
          String(b.no),
          String(n + 1),
          `${trim(b.degrees, 1)}°`,
          b.turn === 'left' ? 'one way' : 'back',
          mm(b.fromMm),
          mm(b.toMm),
        ]),
      ),
    ),
    ...bending.arrows.map((a) =>
      words(`The quarter bend at the ${a.item === 0 ? 'first' : 'last'} end: the bender’s arrow at ${mm(a.fromEndMm)} from that end.`),
    ),
    ...(r.straps ? [words(`Straps at ${r.straps.map(mm).join(', ')} along the straight pipe (${strapClause(r.raceway)}).`)] : []),
    ...r.findings.map((f) => words(`${f.message} (${f.clause})`)),
    quietly('Measured along the straight pipe, from the first end of each piece. Try the bender on a short end before the first.'),
  ]
}
