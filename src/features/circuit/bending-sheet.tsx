'use client'
import { useState } from 'react'
import { bendingDrawing } from '@/core/drawing/bending'
import { InputError } from '@/core/base/input-error'
import { formatSmallLength, trim } from '@/core/base/format'
import { celsiusFromFahrenheit, fahrenheitFromCelsius } from '@/core/base/units'
import { type Bending, openedBy } from '@/core/calculate/bending'
import { type RacewayReport, strapClause } from '@/core/rules/raceway'
import { FittingDrawing } from '@/ui/drawing'
import { NumberField } from '@/ui/number-field'
import { Section } from '@/ui/panel'
import { Table } from '@/ui/table'
import { useJob, useUnits } from '../sync/context'
import { PaperLink } from '../fields/paper-link'

/** How a run of pipe is marked, cut and bent, to scale, with its couplings, straps and pull points. */
export function BendingSheet({ report }: { report: RacewayReport }) {
  const { raceway, bending, bendProblem, straps } = report
  const units = useUnits()
  const job = useJob((s) => s.id)
  const mm = (x: number) => formatSmallLength(x, units)
  if (raceway.bends.length === 0) return null
  if (!bending)
    return (
      <Section title={`${raceway.name}, marked out`}>
        <p className="text-ink-2">
          {bendProblem?.message ??
            (raceway.kind === 'fmc' ? 'It is flexible, and bent by hand.' : 'Give the radius of the former, and it is marked out here.')}
        </p>
      </Section>
    )
  return (
    <Section title={`${raceway.name}, marked out`}>
      <FittingDrawing draw={(format) => bendingDrawing(bending, units, format)} className="w-full max-w-[52rem]" />
      <Table minRem={26} heads={['Bend', 'Piece', 'Degrees', 'Turned', 'Begins at', 'Ends at']}>
        {bending.pieces.flatMap((p, n) =>
          p.bends.map((b) => (
            <tr key={b.no} className="border-b border-rule">
              <td className="font-bold">{b.no}</td>
              <td>{n + 1}</td>
              <td>{trim(b.degrees, 1)}°</td>
              <td>{b.turn === 'left' ? 'one way' : 'back'}</td>
              <td className="font-bold">{mm(b.fromMm)}</td>
              <td>{mm(b.toMm)}</td>
            </tr>
          )),
        )}
      </Table>
      <ul className="mt-2 list-disc pl-5">
        <li>
          {bending.pieces.length === 1
            ? `One piece, cut to ${mm(bending.cutMm)}.`
            : `${bending.pieces.length} pieces, ${mm(bending.cutMm)} together, ${bending.pieces.length - 1} ` +
              `${bending.pieces.length === 2 ? 'coupling' : 'couplings'}. Each is marked from its own first end.`}
        </li>
        {bending.arrows.map((a) => (
          <li key={a.item}>
            The quarter bend at the {a.item === 0 ? 'first' : 'last'} end: the bender’s arrow at {mm(a.fromEndMm)} from that end.
          </li>
        ))}
        {straps && (
          <li>
            Straps at {straps.map(mm).join(', ')} along the straight pipe ({strapClause(raceway)}).
          </li>
        )}
        {bending.pullAfter.map((n) => (
          <li key={n} className="font-bold">
            A pull point or an access fitting after bend {lastBendOf(bending, n)}: more than 360° would lie between two.
          </li>
        ))}
      </ul>
      <PaperLink className="btn mt-2 inline-flex" job={job} file="bending.pdf" name="Bending">
        Print it for the bender
      </PaperLink>
      {report.expansion?.fittingNeeded && <Opened report={report} />}
    </Section>
  )
}

const lastBendOf = ({ bends }: Bending, item: number): number => bends.findLastIndex((b) => b.item <= item) + 1

/** The expansion fitting, set for the day it is put in. */
function Opened({ report: { raceway, expansion } }: { report: RacewayReport }) {
  const units = useUnits()
  const fahrenheit = units === 'imperial'
  const [nowC, setNowC] = useState<number | null>(null)
  let words = ''
  try {
    if (nowC !== null) words = `Open it by ${formatSmallLength(openedBy(expansion!.changeMm, { ...raceway, nowC }), units)} from shut.`
  } catch (e) {
    if (!(e instanceof InputError)) throw e
    words = e.message
  }
  return (
    <div className="mt-2 max-w-72">
      <NumberField
        label="Temperature of the pipe today"
        unit={fahrenheit ? '°F' : '°C'}
        optional
        digits={1}
        min={-76}
        max={200}
        value={nowC === null ? null : fahrenheit ? fahrenheitFromCelsius(nowC) : nowC}
        onCommit={(v) => setNowC(v === null ? null : fahrenheit ? celsiusFromFahrenheit(v) : v)}
      />
      <p className="font-bold">{words}</p>
    </div>
  )
}
