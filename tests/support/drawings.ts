import Elk from 'elkjs/lib/elk.bundled.js'
import { boardDrawing } from '../../src/core/drawing/board'
import { boxDrawing } from '../../src/core/drawing/box'
import { chainDrawing } from '../../src/core/drawing/chain'
import { profileDrawing } from '../../src/core/drawing/profile'
import type { Drawing } from '../../src/core/drawing/shape'
import { treeDrawing, treeGraph } from '../../src/core/drawing/tree'
import { wallDrawing } from '../../src/core/drawing/wall'
import { wiringDrawing } from '../../src/core/drawing/wiring'
import { evaluate } from '../../src/core/evaluate'
import type { Installation } from '../../src/core/installation/installation'
import { worlds } from '../../src/core/region/worlds'
import { plannedIn } from '../../src/core/survey/board'
import { runReport } from '../../src/core/survey/walls'
import { wiringPlan } from '../../src/core/wiring/plan'

const formats = ['wide', 'narrow'] as const

/** Every drawing of a job, in every format it is drawn in. */
export async function drawingsOf(job: Installation): Promise<Drawing[]> {
  const report = evaluate(job, [])
  const { survey } = report
  const laid = await new Elk().layout(treeGraph(job, survey))
  return [
    ...report.circuits.flatMap(({ circuit, chosen, ends }) => [
      ...formats.map((f) => chainDrawing(job, circuit, chosen, 'metric', f)),
      ...(chosen.layout?.points.length
        ? formats.map((f) => profileDrawing(circuit, chosen.layout!, worlds[job.region].drop.percent(circuit.load.lighting), 'metric', f))
        : []),
      ...ends.flatMap((e) => [
        ...(e.boxReport.kind ? [boxDrawing(e.boxReport, 'metric')] : []),
        ...(e.fitted
          ? formats.map((f) =>
              wiringDrawing(job.region, e.fitted!, wiringPlan(job.region, e.fitted!, circuit.colours, e.size, 'metric'), e.size, e.feed, f),
            )
          : []),
      ]),
    ]),
    ...report.boards.flatMap((b) =>
      formats.map((f) =>
        boardDrawing({ job, report: b, loads: survey.loads, proved: survey.proved, planned: plannedIn(job, b.board.id) }, f),
      ),
    ),
    ...(job.points.length + job.ways.length ? [treeDrawing(job, survey, laid, job.supply.board || worlds[job.region].words.board)] : []),
    ...job.walls.map((w) => wallDrawing(w, runReport(job.region, w, 'metric'), 'metric')),
  ]
}
