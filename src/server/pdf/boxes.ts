import 'server-only'
import type { Content } from 'pdfmake/interfaces'
import { deviceWords, endWords, placeWords } from '@/core/build/words'
import { houseOf } from '@/core/wired/house'
import { noTrial } from '@/core/wired/laid'
import { benchDrawing } from '@/core/drawing/bench'
import { mountingDrawing, templateDrawing } from '@/core/drawing/mounting'
import { mountingOf } from '@/core/build/mounting'
import { evaluate } from '@/core/evaluate/evaluate'
import { read } from '@/core/installation/installation'
import { formatSize, formatSmallLength, formatTorque, type UnitSystem } from '@/core/base/format'
import type { StoredJob } from '@/store/jobs'
import { paperOf } from './documents'
import { columns, figure, type Document, quietly, title, together, words } from './kit'

/** Each box on a page to stick up in front while terminating: every conductor where it ends, and what is wrong with it so far. */
export function boxesPaper(stored: StoredJob, date: string, units: UnitSystem, circuit: string | null, wide = 400): Document {
  const job = read(stored.job)
  const { circuits, stages } = evaluate(job, stored.readings)
  const house = houseOf(job, circuits, noTrial)
  const said = stages.find((s) => s.id === 'wiring')!.findings
  const boxes = house.boxes.filter((b) => circuit === null || b.points.some((p) => p.circuit === circuit))
  const pages = boxes.map((box): Content[] => {
    const made = new Map(box.bench.ends.map((e) => [e.end, e.to]))
    const here = new Set(box.points.map((p) => `point:${p.id}`))
    const findings = said.filter((f) => f.about !== undefined && here.has(f.about))
    return [
      together(
        title(`Box: ${box.name}`, wide < 400 ? 13 : 19),
        quietly(box.usual ? 'Standard wiring.' : 'Wired as it was drawn by hand.'),
        { ...(figure(benchDrawing(box, null), wide) as object), alignment: 'center' } as Content,
      ),
      columns(
        job.region,
        [
          { name: 'Conductor', flex: 5 },
          { name: 'Goes to', flex: 4 },
          { name: 'Done', flex: 1 },
        ],
        box.cables.flatMap((k) => k.ends.map((e) => [endWords(box, e.name), placeWords(box, made.get(e.name) ?? ''), ''])),
      ),
      ...box.devices.map((d) =>
        quietly(
          `${deviceWords(box, d)}: strip ${formatSmallLength(d.kind.stripMm, units)}, ` +
            `conductors up to ${formatSize(d.kind.largestSize)}, ` +
            (d.torqueNm ? `${formatTorque(d.torqueNm, units)}.` : 'torque as marked on it.'),
        ),
      ),
      ...findings.map((f) => words(`${f.severity === 'error' ? 'Wrong' : 'Mind'}: ${f.message}`, { bold: f.severity === 'error' })),
    ]
  })
  const none = [words('No circuit is worked out yet, so no box can be opened.')]
  return { paper: { ...paperOf(stored, date), large: true }, sections: pages.length ? pages : [none], name: `${job.title}, boxes` }
}

/** Templates to cut by, at one to one, and how each box is held. */
export function templatePaper(stored: StoredJob, date: string, units: UnitSystem, point: string | null): Document {
  const job = read(stored.job)
  const pages = job.circuits.flatMap((circuit) => {
    const points = circuit.points.length ? circuit.points : circuit.end ? [circuit.end] : []
    return points.flatMap((p): Content[][] => {
      if (point !== null && p.id !== point) return []
      const name = p.name || circuit.name
      const report = mountingOf(job, circuit, p, units)
      const template = templateDrawing(report, name, p.heightMm, units)
      if (!template) return []
      return [
        [
          title(`Cut-out: ${name}`, 16),
          // One unit is one point: no wider and no narrower than it is drawn.
          figure(template, template.width),
          figure(mountingDrawing(report, p.heightMm, units), 330),
          ...report.findings.map((f) => words(f.message, { bold: f.severity === 'error' })),
          ...report.steps.map((s) => words(`${s.text}${s.clause ? ` (${s.clause})` : ''}`)),
        ],
      ]
    })
  })
  const none = [words('No box that is cut in is chosen yet.')]
  return { paper: paperOf(stored, date), sections: pages.length ? pages : [none], name: `${job.title}, templates` }
}
