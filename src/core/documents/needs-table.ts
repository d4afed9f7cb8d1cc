import type { DesignReport } from '../evaluate/evaluate'
import type { Circuit, Installation } from '../installation/installation'
import type { RegionId } from '../region/types'
import { pointNeeds } from '../rules'
import type { PointType, PointVerdict } from '../rules/point-rule'
import { worlds } from '../region/worlds'

/** Each type in the words of the trade. */
export const needNames = (region: RegionId): Record<PointType, string> => ({
  residual: worlds[region].words.rcd,
  'residual-type': 'Its type',
  'arc-fault': worlds[region].says.arcFault,
  tamper: worlds[region].says.shutters,
  weather: 'Weather',
  surge: 'Surge',
  place: 'Place',
})

/** A verdict in a word or two; what is not judged is said so. */
export const needWords = ({ type, state, severity, words }: PointVerdict): string =>
  state === 'given'
    ? words
    : state === 'free'
      ? 'not asked'
      : state === 'unknown'
        ? 'not known'
        : severity === 'note'
          ? 'advised'
          : type === 'place'
            ? 'not allowed'
            : 'needed'

/** What each point needs, for the design sheet: a line for each point, with the clauses that ask, each once, below. */
export function needsTable(
  job: Installation,
  circuit: Circuit,
  report: DesignReport,
): { columns: string[]; rows: string[][]; clauses: string[] } {
  const { types, rows } = pointNeeds({ job, circuit, design: report.design, result: report.result, worked: report })
  const names = needNames(job.region)
  return {
    columns: ['Point', ...types.map((t) => names[t])],
    rows: rows.map(({ site, needs }) => [site.name, ...types.map((t) => (needs[t] ? needWords(needs[t]) : '–'))]),
    clauses: types.map((t) => `${names[t]}: ${[...new Set(rows.flatMap((r) => r.needs[t]?.clause ?? []))].join('; ')}`),
  }
}
