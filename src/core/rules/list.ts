import type { RegionId } from '../region/types'
import { computedRules } from './computed'
import { rules } from './index'
import { pointRules } from './points'

const worldNames: Record<RegionId, string> = { 'north-america': 'NA', 'united-kingdom': 'UK', 'southern-africa': 'ZA' }
const worldsOf = (ids: readonly string[]): string => (ids.length === 3 ? 'all' : ids.map((id) => worldNames[id as RegionId]).join(', '))

/** Kinds of hazard that a whole job may hold, and the rules that speak of each. A test holds that every one of them can be raised. */
export const hazards: readonly (readonly [kind: string, rules: readonly string[]])[] = [
  [
    'Existing and kept: breaker, cable, load, residual device, shared neutral, neutral bar',
    [
      'existing-breaker',
      'way-already-loaded',
      'existing-cable-not-known',
      'old-borrowed-neutral',
      'shared-neutral-tie',
      'neutral-bar',
      'wrong-neutral-bar',
      'neutral-bar-unknown',
    ],
  ],
  [
    'Protection presumed: a device not seen, of another trip current or type, too small, in a plain accessory',
    [
      'residual-device-not-said',
      'residual-rating-differs',
      'residual-device-overloaded',
      'residual-device-sum',
      'residual-type',
      'residual-protection-needed',
      'socket-residual-protection',
      'first-outlet-guards',
    ],
  ],
  [
    'Switching and connecting devices against load, breaker and poles to be opened',
    [
      'accessory-below-load',
      'accessory-below-breaker',
      'industrial-outlet-below-breaker',
      'poles-not-opened',
      'terminal-too-small',
      'fuse-not-right',
    ],
  ],
  [
    'Unknown that would pass: earthing, room, premises, water, ratings, lengths, service, attic, insulation',
    [
      'earthing-not-known',
      'loop-not-known',
      'length-not-known',
      'attic-ambient',
      'method-not-for-cable',
      'duty-not-known',
      'motor-current-not-known',
      'motor-overload',
      'old-work-not-known',
      'main-switch-unknown',
      'service-demand',
      'bathroom-residual-protection',
      'tamper-resistant',
    ],
  ],
  [
    'Cable and raceway: aluminium, grouping, places, nipples, fill, protective conductor, spurs, rings',
    [
      'aluminium-on-terminals',
      'old-aluminium',
      'cable-not-for-place',
      'concealed-cable',
      'raceway-overfilled',
      'raceway-fill-not-known',
      'raceway-nipple',
      'raceway-bends',
      'raceway-expansion',
      'protective-conductor-too-small',
      'spur-too-thin',
      'spur-too-many',
      'spur-on-spur',
      'ring-device',
      'ring-capacity',
      'ring-not-usual',
      'branch-overloaded',
      'branch-not-protected',
    ],
  ],
  [
    'Board and service: main switch, ways ahead of it, second sources, tandems, spaces, demand, what each device protects',
    [
      'main-switch-missing',
      'main-switch-single-pole',
      'live-with-main-off',
      'second-source',
      'tandem-two-pole',
      'space-taken-twice',
      'space-beyond-board',
      'way-taken',
      'two-pole-space',
      'breaker-over-main',
      'service-demand',
      'way-overloaded',
      'feeder-load',
      'total-drop',
    ],
  ],
  ['Tests: units, places, order, readings off every expectation', ['reading-off-expectation', 'reading-not-placed']],
  [
    'Findings that reach no stage: outlets along walls, boxes, traces, reports',
    [
      'outlet-spacing',
      'outlet-near-water',
      'outlet-height',
      'box-overfilled',
      'box-too-shallow',
      'fed-through-what-goes',
      'hidden-box',
      'trace-contradiction',
      'report-unanswered',
      'point-damaged',
    ],
  ],
  ['Lights and alarms', ['alarm-on-switched-leg', 'lampholders-on-breaker', 'lighting-residual-protection']],
]

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
\`src/core/region\`. A rule that lacks a fact says **unknown** and asks for it; it never passes.

| rule | worlds | severity | rests on | what it looks at |
| --- | --- | --- | --- | --- |
${[...asData, ...computed].join('\n')}

## Kinds of hazard, and the rules that speak of each

| kind | rules |
| --- | --- |
${hazards.map(([kind, rulesOf]) => `| ${kind} | ${rulesOf.map((r) => `\`${r}\``).join(', ')} |`).join('\n')}

How a circuit is chosen: NA, 210.19(A)(1), 210.20(A), 240.4(B) and (D), 110.14(C), 250.122(B); UK, BS 7671 433.1.1,
Appendix 4, 525, 411.4; southern Africa, IEC 60364-5-52 with SANS 10142-1 governing. Rings: 433.1.204, Appendix 15.
Several points: each cable carries the load beyond it; the worst point decides. Sections of a cable: the one that asks
for the largest governs the whole circuit, but a cable with a size or a fuse of its own.

Test limits: insulation at least 1 MΩ at 500 V (BS 7671 Table 64; SANS 10142-1; good practice in NA); loop impedance
measured cold at most 0.8 of the hot limit, or the residual device's limit; residual device at rated current at most
300 ms (BS EN/IEC 61008-1); supply voltage as declared (ANSI C84.1, ESQC Regulations, NRS 048); low resistance within
0.05 Ω + 20 % of what length and sizes give at 20 °C. Tolerances are shown beside each value.
`
}
