import type { RegionId } from '../region/types'
import { computedRules } from './computed'
import { rules } from './index'
import { pointRules } from './points'

const worldNames: Record<RegionId, string> = { 'north-america': 'NA', 'united-kingdom': 'UK', 'southern-africa': 'ZA' }
const worldsOf = (ids: readonly string[]): string => (ids.length === 3 ? 'all' : ids.map((id) => worldNames[id as RegionId]).join(', '))

/** The list of rules as it stands in docs/rules.md, made from the rules themselves. */
export function rulesDocument(): string {
  const asData = [...pointRules, ...rules].map(
    (r) =>
      `| \`${r.id}\` | ${worldsOf(Object.keys(r.clause))} | ` +
      r.severity +
      ((r.looksAt.length || ('asksOfPoint' in r && r.asksOfPoint)) && r.severity !== 'unknown' ? '; unknown without a fact' : '') +
      ' ' +
      `| ${[...new Set(Object.values(r.clause))].join(' · ')} | ${r.about} |`,
  )
  const computed = computedRules.map(([id, worlds, severity, clause]) => `| \`${id}\` | ${worlds} | ${severity} | ${clause} | |`)
  return `# Rules and the clauses they rest on

Made by \`npm run rules\`; a test holds it against the rules. Local code, its edition in force, the inspector and
licensed practice come before anything here. Figures are published ones, with their clauses, in
\`src/core/region/tables\`. A rule that lacks a fact says **unknown** and asks for it; it never passes.

| rule | worlds | severity | rests on | what it looks at |
| --- | --- | --- | --- | --- |
${[...asData, ...computed].join('\n')}

How a circuit is chosen: NA, 210.19(A)(1), 210.20(A), 240.4(B) and (D), 110.14(C), 250.122(B); UK, BS 7671 433.1.1,
Appendix 4, 525, 411.4; southern Africa, IEC 60364-5-52 with SANS 10142-1 governing. Rings: 433.1.204, Appendix 15.
Several points: each cable carries what hangs beyond it; the worst point decides. Stretches of a run: the one that asks
for the largest cable governs the whole.

Test limits: insulation at least 1 MΩ at 500 V (BS 7671 Table 64; SANS 10142-1; good practice in NA); loop impedance
measured cold at most 0.8 of the hot limit, or the residual device's limit; residual device at rated current at most
300 ms (BS EN/IEC 61008-1); supply voltage as declared (ANSI C84.1, ESQC Regulations, NRS 048); low resistance within
0.05 Ω + 20 % of what length and sizes give at 20 °C. Tolerances are shown beside each value.
`
}
