import { islandOutlets, type OutletSpacing, outletSpacing } from '../calculate/outlet-spacing'
import type { Finding } from '../base/finding'
import { formatArea, formatLength, formatSmallLength, type UnitSystem } from '../base/format'
import { atLeast, atMost } from '../base/tolerance'
import type { RegionId } from '../region/types'
import type { Wall } from '../installation/installation'
import { worlds } from '../region/worlds'

/** An unbroken stretch of a run, where outlets count. */
interface Stretch {
  readonly id: string
  readonly fromM: number
  readonly toM: number
}

export interface RunReport {
  readonly lengthM: number
  readonly stretches: readonly Stretch[]
  /** Along the run, not the stretch. North America only. */
  readonly gaps: readonly { readonly fromM: number; readonly toM: number }[]
  readonly missing: readonly number[]
  readonly findings: readonly Finding[]
}

/** Pieces that an outlet may serve; the others break the line (a door, a fixed cabinet to the floor, a sink in a counter). */
const serves = (run: Wall, what: Wall['pieces'][number]['what']): boolean =>
  what === 'wall' || (run.kind === 'wall' && (what === 'sink' || what === 'basin' || what === 'window'))

export const runLength = (run: Wall): number => run.pieces.reduce((sum, p) => sum + p.lengthM, 0)

/** Where each piece begins. */
export function pieceStarts(run: Pick<Wall, 'pieces'>): number[] {
  let at = 0
  return run.pieces.map((p) => {
    const start = at
    at += p.lengthM
    return start
  })
}

function stretchesOf(run: Wall): Stretch[] {
  const starts = pieceStarts(run)
  const list: Stretch[] = []
  run.pieces.forEach((p, i) => {
    if (!serves(run, p.what)) return
    const fromM = starts[i]!
    const last = list.at(-1)
    if (last && Math.abs(last.toM - fromM) < 1e-9) list[list.length - 1] = { ...last, toM: fromM + p.lengthM }
    else list.push({ id: p.id, fromM, toM: fromM + p.lengthM })
  })
  return list
}

/** Least distance along the wall, in metres, from an outlet to the edge of such a piece, and where it is said. */
const waterClear: Partial<Record<Wall['pieces'][number]['what'], { m: number; clause: Partial<Record<RegionId, string>>; what: string }>> =
  {
    bath: {
      m: 2.5,
      clause: { 'united-kingdom': '701.512.3', 'southern-africa': 'SANS 10142-1 bath and shower zones; IEC 60364-7-701' },
      what: 'the edge of zone 1 of the bath',
    },
    shower: {
      m: 2.5,
      clause: { 'united-kingdom': '701.512.3', 'southern-africa': 'SANS 10142-1 bath and shower zones; IEC 60364-7-701' },
      what: 'the edge of zone 1 of the shower',
    },
  }
/** Good practice, not a rule of the tables: clear of splashes and of a wet reach. */
const SINK_CLEAR_M = 0.3

/** Gaps and the outlets that close them (NA); heights and distances from water (UK, ZA). */
export function runReport(region: RegionId, run: Wall, units: UnitSystem): RunReport {
  const lengthM = runLength(run)
  const stretches = stretchesOf(run)
  const inside = (s: Stretch, at: number) => atLeast(at, s.fromM) && atMost(at, s.toM)
  // A switch, a light or a box serves nothing that is plugged in, and what is taken out serves nothing any more.
  const serving = run.outlets.filter((o) => o.kind === 'outlet' && o.state !== 'removed')
  let spacing: OutletSpacing | null = null
  const spaced = worlds[region].outletsBy === 'spacing'
  if (spaced && run.kind !== 'island') {
    const spaces =
      run.kind === 'hallway'
        ? [{ id: run.id, lengthM, outletsAtM: serving.map((o) => Math.min(o.atM, lengthM)) }]
        : stretches.map((s) => ({
            id: s.id,
            lengthM: s.toM - s.fromM,
            outletsAtM: serving.filter((o) => inside(s, o.atM)).map((o) => Math.min(o.atM - s.fromM, s.toM - s.fromM)),
          }))
    spacing = outletSpacing({ kind: run.kind, spaces })
  }
  const start = new Map(run.kind === 'hallway' ? [[run.id, 0]] : stretches.map((s) => [s.id, s.fromM]))
  return {
    lengthM,
    stretches,
    gaps: (spacing?.gaps ?? []).map((g) => ({ fromM: start.get(g.id)! + g.fromM, toM: start.get(g.id)! + g.toM })),
    missing: (spacing?.missing ?? []).flatMap((m) => m.atM.map((at) => start.get(m.id)! + at)),
    findings: [
      ...(spaced && run.kind === 'island' ? islandFindings(run, serving.length, units) : spacingFindings(run, serving, spacing)).map(
        (f) => ({ ...f, about: `wall:${run.id}` }),
      ),
      ...run.outlets.flatMap((o) =>
        outletFindings(region, run, o, lengthM, stretches, units).map((f) => ({ ...f, about: `point:${o.id}` })),
      ),
    ],
  }
}

const ONLY_NEW = ' That is asked of new wiring, not of a finished wall.'
const ASK_FINISHED = ' That is asked of new wiring: say under Points whether its walls are finished.'

function spacingFindings(run: Wall, serving: Wall['outlets'], spacing: OutletSpacing | null): Finding[] {
  if (!spacing || spacing.passes) return []
  const count = spacing.missing.reduce((sum, m) => sum + m.atM.length, 0)
  const one = spacing.gaps.length === 1
  const gaps =
    `${spacing.gaps.length} ${one ? 'part of the wall is' : 'parts of the wall are'} too far from an outlet; ` +
    `${count} more ${count === 1 ? 'closes' : 'close'} ${one ? 'it' : 'them'}`
  const clause = run.kind === 'wall' ? '210.52(A)' : run.kind === 'counter' ? '210.52(C)' : '210.52(H)'
  const lacks = run.kind === 'hallway' ? 'a hallway of this length needs an outlet' : gaps
  // An empty list is no survey: the wall may have outlets that nobody entered.
  const unlisted = serving.length === 0
  // Spacing is asked of new wiring: a finished wall that was wired before keeps what it has.
  const existing = serving.some((o) => o.state !== 'new') ? run.finished : false
  const severity = unlisted || existing === null ? 'unknown' : existing ? 'note' : 'error'
  return [
    {
      rule: 'outlet-spacing',
      severity,
      clause,
      message: unlisted
        ? `${run.name}: no outlets are recorded along it. Add those that are there. With none, ${lacks}.`
        : // A finished wall keeps what it has.
          `${run.name}: ${lacks}.${existing === false ? '' : existing ? ONLY_NEW : ASK_FINISHED}`,
    },
  ]
}

/** The outlets of an island or a peninsula, which go by the area of its counter and by the edition in force. NFPA 70 210.52(C)(2). */
function islandFindings(run: Wall, outlets: number, units: UnitSystem): Finding[] {
  const rule = 'island-outlets'
  const clause = '210.52(C)(2)'
  if (run.depthM == null)
    return [
      {
        rule: 'island-depth-not-known',
        severity: 'unknown',
        clause,
        message: `${run.name}: the depth of its counter is not known; its outlets go by its area.`,
      },
    ]
  const areaM2 = runLength(run) * run.depthM
  const asked = islandOutlets(areaM2)
  if (outlets >= asked) return []
  const one = asked === 1
  const byArea =
    `${run.name}: under the 2020 edition a counter of ${formatArea(areaM2, units)} needs ${asked} ${one ? 'outlet' : 'outlets'}; ` +
    `it has ${outlets === 0 ? 'none' : outlets}.`
  const by2023 = 'The 2023 edition makes them optional'
  // Asked of new wiring alone, as spacing is.
  if (run.finished) return [{ rule, severity: 'note', clause, message: `${byArea}${ONLY_NEW}` }]
  if (outlets > 0) return [{ rule, severity: 'note', clause, message: `${byArea} ${by2023}: ask which edition is in force.` }]
  if (run.forLater === true)
    return [
      {
        rule,
        severity: 'note',
        clause,
        message: `${byArea} ${by2023}, with provision for one later, which is recorded: ask which edition is in force.`,
      },
    ]
  return run.forLater === false
    ? [
        {
          rule,
          severity: 'error',
          clause,
          message: `${byArea} ${by2023}, but asks for provision for one later: leave a cable or a raceway to it, or put an outlet in.`,
        },
      ]
    : [
        {
          rule,
          severity: 'unknown',
          clause,
          message: `${byArea} ${by2023}, but asks for provision for one later: say whether a cable or a raceway was left for it.`,
        },
      ]
}

type Outlet = Wall['outlets'][number]

function heightFindings(region: RegionId, run: Wall, { heightMm }: Outlet, where: string, units: UnitSystem): Finding[] {
  const { cites, socketHeightMm } = worlds[region]
  if (!socketHeightMm || run.kind !== 'wall') return []
  const found = { rule: 'outlet-height', clause: cites.outletHeight }
  if (heightMm === null) return [{ ...found, severity: 'unknown', message: `${where}: its height above the floor is not known.` }]
  const { min, max } = socketHeightMm
  if (heightMm >= min && heightMm <= max) return []
  const asked = `${formatSmallLength(min, units)} to ${formatSmallLength(max, units)}`
  return [
    {
      ...found,
      severity: 'warning',
      message:
        `${where} is at ${formatSmallLength(heightMm, units)}; new dwellings ask for ${asked}. Matching the rest of an older house ` +
        'may be right: say so.',
    },
  ]
}

/** How far an outlet is from what splashes, along the wall. */
function waterFindings(region: RegionId, run: Wall, outlet: Outlet, where: string, units: UnitSystem): Finding[] {
  const starts = pieceStarts(run)
  return run.pieces.flatMap((p, i) => {
    const list: Finding[] = []
    const [from, to] = [starts[i]!, starts[i]! + p.lengthM]
    const away = Math.max(from - outlet.atM, outlet.atM - to, 0)
    const rule = waterClear[p.what]
    if (rule && !atLeast(away, rule.m))
      list.push({
        rule: 'outlet-near-water',
        severity: 'error',
        clause: rule.clause[region] ?? '',
        message:
          `${where} is ${formatLength(away, units)} along the wall from ${rule.what}; a socket-outlet stays ` +
          `${formatLength(rule.m, units)} away (a shaver unit excepted). Move it, or prove the true distance.`,
      })
    if ((p.what === 'sink' || p.what === 'basin') && !atLeast(away, SINK_CLEAR_M))
      list.push({
        rule: 'outlet-near-sink',
        severity: 'warning',
        clause: '512.2 (external influences); usual practice',
        message:
          `${where} is ${formatSmallLength(away * 1000, units)} from the ${p.what}; keep it ` +
          `${formatSmallLength(SINK_CLEAR_M * 1000, units)} clear of splashes, measured along the wall.`,
      })
    return list
  })
}

function outletFindings(
  region: RegionId,
  run: Wall,
  outlet: Outlet,
  lengthM: number,
  stretches: readonly Stretch[],
  units: UnitSystem,
): Finding[] {
  const where = `${run.name}, outlet at ${formatLength(outlet.atM, units)}`
  if (outlet.atM > lengthM + 1e-9)
    return [
      {
        rule: 'outlet-off-wall',
        severity: 'error',
        clause: 'What was measured',
        message: `${where} lies beyond the end of the wall. Measure again.`,
      },
    ]
  const { outletsBy, cites } = worlds[region]
  const serves = stretches.some((s) => outlet.atM >= s.fromM - 1e-9 && outlet.atM <= s.toM + 1e-9)
  const inBreak: Finding = {
    rule: 'outlet-in-break',
    severity: 'warning',
    clause: cites.outletInBreak,
    message: `${where} is in a doorway or a fixed panel and serves nothing there.`,
  }
  return [
    ...(serves ? [] : [inBreak]),
    ...(outletsBy === 'spacing'
      ? []
      : [...heightFindings(region, run, outlet, where, units), ...waterFindings(region, run, outlet, where, units)]),
  ]
}
