'use client'
import clsx from 'clsx'
import { Printer } from 'lucide-react'
import { useMemo, useState } from 'react'
import { sides } from '@/core/building/house'
import { type Route, type WaysFound, waysOfAll } from '@/core/building/route'
import type { Part, Step } from '@/core/building/steps'
import { takesTwo, type WayKind } from '@/core/building/ways'
import { asElements, asTaken, type Leg, legsOf, lengthFrom, orderWanted, stepsOfWay, waysWanted } from '@/core/installation/building'
import { type BuildingRecord, weightsIn } from '@/core/job/building'
import { formatLength, type UnitSystem } from '@/core/base/format'
import { CheckField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section, Stage } from '@/ui/panel'
import { type Thinking, useWorker } from '@/ui/use-worker'
import { Working } from '@/ui/working'
import { useCircuit, useJob, useUnits } from '../sync/context'
import { useLed } from '../fields/use-led'
import { Findings } from '../fields/findings'
import { M_PER_FT } from '@/core/base/units'
import { partsInPipe } from '@/core/build/raceways'
import { Photographs } from '../photographs/photographs'
import { PlanChoice, type PlanShown, PlanView } from './plan-view'
import { BreakIn } from './break-in'
import { partName, placeWords, withNames } from '@/core/building/place-words'
import { Pipes } from './pipes'
import { type Building, useBuilding } from './use-building'
import { beginWays, minutes } from './ways-worker'
import { WallElevation } from './wall-fields'

const count = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`

/** The ways of each cable of the circuit in hand, the best first; one is taken over, and lengths and stretches follow. */
export function WaySheet() {
  const building = useBuilding()
  const { circuit } = useCircuit()
  const { job } = building
  const legs = legsOf(job.record, circuit.id)
  const placed = legs.filter((l) => l.unplaced.length === 0)
  const each = waysWanted(job.record, circuit.id)
  const order = orderWanted(job.record, circuit.id)
  // The last question is that of the best order, where there is one.
  const asked = useMemo(() => each && [...each, ...(order ? [order] : [])], [each, order])
  const { answer, ...at } = useWorker(beginWays, asked, waysOfAll)
  const [picked, setPicked] = useState<string | null>(null)
  useLed('route', 'way', (_, id) => setPicked(id))
  const leg = legs.find((l) => l.cable === picked) ?? legs[0]
  const found = leg && answer ? (answer[placed.indexOf(leg)] ?? null) : null
  if (asked === null || !leg)
    return (
      <Stage
        title="Route"
        drawing={<Lacking building={building} legs={legs} />}
        working={
          <p className="text-ink-2">Routes are worked out once the building is entered and both ends of the cable are placed in it.</p>
        }
      />
    )
  return (
    <OneLeg
      key={leg.cable}
      building={building}
      legs={legs}
      leg={leg}
      onLeg={(l) => setPicked(l.cable)}
      found={found}
      all={answer ?? []}
      ordered={order && answer?.length === asked.length ? (answer.at(-1) ?? null) : null}
      placed={placed}
      at={at}
    />
  )
}

function Lacking({ building: { read, names }, legs }: { building: Building; legs: readonly Leg[] }) {
  const unplaced = [...new Set(legs.flatMap((l) => l.unplaced))]
  return (
    <div className="flex flex-col gap-2">
      <p className="font-bold">No routes yet.</p>
      <ul className="list-disc pl-5">
        {read.lacks.map((l) => (
          <li key={l}>{l}</li>
        ))}
        {read.input && unplaced.length > 0 && (
          <li>
            Say where {unplaced.map((id) => names.get(id) || 'a point').join(', ')} {unplaced.length === 1 ? 'stands' : 'stand'}.
          </li>
        )}
      </ul>
      <p>
        <button type="button" className="btn" onClick={() => window.history.pushState(null, '', '?sheet=house')}>
          Go to the building
        </button>
      </p>
    </div>
  )
}

interface LegShown {
  building: Building
  legs: readonly Leg[]
  leg: Leg
  onLeg: (leg: Leg) => void
  found: WaysFound | null
  all: readonly WaysFound[]
  /** The way through all points in their best order; null where there is no choice. */
  ordered: WaysFound | null
  placed: readonly Leg[]
  at: Looking
}
/** Whether ways are still looked for, and how far that is. */
type Looking = Omit<Thinking<unknown>, 'answer'>

function OneLeg({ building, legs, leg, onLeg, found, all, ordered, placed, at }: LegShown) {
  const { job, read, names, made } = building
  const commit = useJob((s) => s.commit)
  const units = useUnits()
  const [pick, setPick] = useState<number | 'taken' | null>(null)
  const [touched, setTouched] = useState<string | null>(null)
  const [shown, setShown] = useState<PlanShown>({ view: 'plan', floor: read.rooms[0]?.floor ?? 0 })
  const cable = job.record.cables.find((k) => k.id === leg.cable)!
  const routes = found && 'routes' in found ? found.routes : []
  const current = pick ?? (cable.route ? 'taken' : 0)
  const parts: readonly Part[] =
    current === 'taken' ? (cable.route?.elements ?? []) : routes[current] ? asElements(routes[current].elements) : []
  const steps = stepsOfWay(job, parts, units)
  const pipes = partsInPipe(job, cable, parts)
  const takeOf = (cable: string, route: Route) => ({ kind: 'route.take' as const, cable, route: asTaken(route, new Date().toISOString()) })
  const [kind, ...rest] = (touched ?? '').split(':')
  const side = sides.find((s) => kind === 'wall' && s === rest[0])
  const wallRoom = read.rooms.find((r) => kind === 'wall' && r.id === rest.slice(1).join(':'))
  const stepAt = kind === 'step' ? Number(rest[0]) : null
  const open = placed.flatMap((l, i) => {
    const ways = all[i]
    const best = ways && 'routes' in ways ? ways.routes[0] : undefined
    return best && !job.record.cables.find((k) => k.id === l.cable)?.route ? [takeOf(l.cable, best)] : []
  })
  return (
    <Stage
      title="Route"
      drawing={
        <div className="flex flex-col gap-3">
          <Legs legs={legs} leg={leg} names={names} cables={job.record.cables} onLeg={onLeg} />
          <BestOrder legs={legs} all={all} ordered={ordered} names={names} />
          <PlanChoice building={building} shown={shown} onShow={setShown} />
          {leg.unplaced.length > 0 ? (
            <p>
              Say where {leg.unplaced.map((id) => names.get(id) || 'a point').join(' and ')}{' '}
              {leg.unplaced.length === 1 ? 'stands' : 'stand'}: on the sheet “Building”.
            </p>
          ) : (
            <Ways routes={routes} cable={cable} current={current} at={at} onPick={setPick} found={found} names={names}>
              {current !== 'taken' && routes[current] && (
                <button
                  type="button"
                  className="btn btn-ink"
                  disabled={at.thinking || at.stopped}
                  onClick={() => (commit(takeOf(leg.cable, routes[current]!)), setPick('taken'))}
                >
                  Use this route
                </button>
              )}
              {open.length > 1 && (
                <button type="button" className="btn" disabled={at.thinking || at.stopped} onClick={() => open.forEach((e) => commit(e))}>
                  Take the best for all {open.length} cables
                </button>
              )}
            </Ways>
          )}
          <PlanView building={building} shown={shown} parts={parts} pipes={pipes} steps={steps} selected={touched} onSelect={setTouched} />
          {wallRoom && side && <WallElevation building={building} room={wallRoom} side={side} parts={parts} pipes={pipes} />}
        </div>
      }
      working={
        <>
          <Touched building={building} touched={touched} parts={parts} steps={steps} onTouch={setTouched} />
          <Steps steps={steps} at={stepAt} onStep={(i) => setTouched(`step:${i}`)} />
          <BreakIn building={building} branch={leg.cable} from={names.get(leg.from) || 'the board'} best={routes[0]} />
          <Pipes parts={parts} cable={cable} title={`${names.get(leg.from) || 'board'} to ${names.get(leg.to) || 'its end'}`} />
          <Lengths cable={cable} onDrop={() => (commit({ kind: 'route.drop', cable: leg.cable }), setPick(null))} />
          <Photographs of={{ kind: 'cable', id: cable.id }} hint="The cable before it is covered, with a measured length on the picture." />
          <Barred made={made} names={names} />
          <WhatCounts made={made} />
          <OwnFindings circuit={cable.circuit} />
        </>
      }
    />
  )
}

function Legs({
  legs,
  leg,
  names,
  cables,
  onLeg,
}: {
  legs: readonly Leg[]
  leg: Leg
  names: ReadonlyMap<string, string>
  cables: Building['job']['cables']
  onLeg: (l: Leg) => void
}) {
  return (
    <div className="no-print flex flex-wrap gap-1.5" role="group" aria-label="Cables of this circuit">
      {legs.map((l) => {
        const routed = cables.find((k) => k.id === l.cable)?.route !== undefined
        return (
          <button
            key={l.cable}
            type="button"
            className={clsx('btn', l === leg && 'border-ink font-bold')}
            aria-pressed={l === leg}
            onClick={() => onLeg(l)}
          >
            {names.get(l.from) || 'Board'} to {names.get(l.to) || 'its end'}
            {l.unplaced.length ? ', not placed' : routed ? ' ✓' : ''}
          </button>
        )
      })}
    </div>
  )
}

/** Points chained in another order than the one they are in, where that takes less: what it takes, and what it takes as it is. */
function BestOrder({
  legs,
  all,
  ordered,
  names,
}: {
  legs: readonly Leg[]
  all: readonly WaysFound[]
  ordered: WaysFound | null
  names: ReadonlyMap<string, string>
}) {
  const { circuit } = useCircuit()
  const units = useUnits()
  const commit = useJob((s) => s.commit)
  const best = ordered && 'routes' in ordered ? ordered.routes[0] : undefined
  const now = legs.map((_, i) => {
    const ways = all[i]
    return ways && 'routes' in ways ? ways.routes[0] : undefined
  })
  if (!best || now.some((r) => r === undefined)) return null
  // Each piece is named after where it ends.
  const order = best.pieces.map((p) => p.cable.replace(/^to /, ''))
  const sum = (list: readonly (Route | undefined)[], of: (r: Route) => number) => list.reduce((n, r) => n + of(r!), 0)
  const cut = (r: Route) => r.pieces.reduce((n, p) => n + p.lengthM, 0)
  const [cost, less] = [sum(now, (r) => r.cost), best.cost]
  const same = order.every((id, i) => legs[i]!.to === id && (i === 0 || legs[i]!.from === order[i - 1]))
  if (same || less > cost - LEAST_GAIN) return null
  const called = order.map((id) => names.get(id) || 'a point').join(', ')
  const took = (m: number, min: number) => `${formatLength(m, units)}, ${minutes(min)}`
  return (
    <p className="border-l-4 border-ink pl-2">
      Chained in the order {called} it takes {took(cut(best), best.minutes)}; as it is,{' '}
      {took(
        sum(now, cut),
        sum(now, (r) => r.minutes),
      )}
      .{' '}
      <button
        type="button"
        className="btn no-print"
        title="Lengths of cables that then lead elsewhere are asked for again. Undo brings it back"
        onClick={() => commit({ kind: 'circuit-point.chain', circuit: circuit.id, order })}
      >
        Chain them so
      </button>
    </p>
  )
}
/** What is gained by less than this is not worth another order. */
const LEAST_GAIN = 1

/** The ways found, each as what it is made of. */
function Ways({
  routes,
  cable,
  current,
  at,
  onPick,
  found,
  names,
  children,
}: {
  routes: readonly Route[]
  cable: Building['job']['cables'][number]
  current: number | 'taken'
  at: Looking
  onPick: (p: number | 'taken') => void
  found: WaysFound | null
  names: ReadonlyMap<string, string>
  children: React.ReactNode
}) {
  const units = useUnits()
  const wrong = found && 'wrong' in found ? found.wrong : found && 'findings' in found ? found.findings[0]?.message : undefined
  const taken = cable.route
  const called = titles(routes, names)
  const sum = (of: 'minutes' | 'holes' | 'openings') => taken!.elements.reduce((n, e) => n + e[of], 0)
  const told = (r: { minutes: number; cutM: number; holes: number; openings: number; elements: readonly { kind: WayKind }[] }) =>
    [
      formatLength(r.cutM, units),
      minutes(r.minutes),
      count(r.holes, 'hole'),
      ...(r.openings ? [`${count(r.openings, 'opening')} to make good`] : []),
      r.elements.some((e) => takesTwo(e.kind)) ? 'two people for part of it' : 'one person',
    ].join(', ')
  const row = (value: number | 'taken', title: string, words: string) => (
    <button
      key={value}
      type="button"
      aria-pressed={current === value}
      className={clsx(
        'tap min-w-56 flex-1 border px-3 py-1.5 text-left',
        current === value ? 'border-2 border-ink bg-sheet' : 'border-rule-2 hover:bg-wash',
      )}
      onClick={() => onPick(value)}
    >
      <b className="block">{title}</b>
      <span className="block text-[0.9rem] text-ink-2">{words}</span>
    </button>
  )
  return (
    <div aria-live="polite">
      <div className="flex flex-wrap gap-2" role="group" aria-label="Routes" tabIndex={-1}>
        {taken &&
          row(
            'taken',
            'The chosen route',
            told({ minutes: sum('minutes'), cutM: taken.cutM, holes: sum('holes'), openings: sum('openings'), elements: taken.elements }),
          )}
        {routes.map((r, i) =>
          row(
            i,
            `${['Best', 'Second', 'Third', 'Fourth', 'Fifth'][i]}: ${called[i]}`,
            told({ ...r, cutM: r.pieces.reduce((n, p) => n + p.lengthM, 0) }),
          ),
        )}
      </div>
      {wrong && (
        <p role="alert" className="mt-1 font-bold">
          {withNames(wrong, names)}
        </p>
      )}
      {taken && routes[0] && againstNow(taken.elements, taken.cutM, routes[0], units) && (
        <p className="mt-1">{againstNow(taken.elements, taken.cutM, routes[0], units)}</p>
      )}
      <div className="no-print mt-2 flex flex-wrap items-center gap-2">
        {children}
        {(at.thinking || at.stopped) && <Working words="looking…" again="Look again" at={at} />}
      </div>
    </div>
  )
}

const means: Partial<Record<WayKind, string>> = {
  attic: 'attic',
  crawl: 'crawl space',
  'ceiling-void': 'above the ceiling',
  surface: 'on the face',
  stud: 'across studs',
  cavity: 'inside walls',
}
/** How the way that was taken differs from the best one now, before that is taken over; null where it is as good. */
function againstNow(taken: readonly Part[], cutM: number, best: Route, units: UnitSystem): string | null {
  const now = best.pieces.reduce((sum, p) => sum + p.lengthM, 0)
  const more = (n: number, words: string) => (n === 0 ? [] : [`${count(Math.abs(n), words)} ${n > 0 ? 'more' : 'less'}`])
  const sum = (of: 'holes' | 'openings') => taken.reduce((n, e) => n + e[of], 0)
  const said = [
    ...(Math.abs(cutM - now) < 0.05 ? [] : [`${formatLength(Math.abs(cutM - now), units)} ${cutM > now ? 'longer' : 'shorter'}`]),
    ...more(sum('holes') - best.holes, 'hole'),
    ...more(sum('openings') - best.openings, 'opening'),
  ]
  return said.length ? `Against the best found now: ${said.join(', ')}.` : null
}

/** In a few words, where a way mostly leads through. */
function through({ elements }: Route): string {
  const metres = new Map<string, number>()
  for (const e of elements) {
    const by = means[e.kind]
    if (by) metres.set(by, (metres.get(by) ?? 0) + e.lengthM)
  }
  const all = [...metres.values()].reduce((sum, m) => sum + m, 0)
  const main = [...metres].filter(([, m]) => m > all / 8).toSorted((a, b) => b[1] - a[1])
  return main.map(([by]) => by).join(', ') || 'straight through'
}
/** What each way is called: what it leads through, and where two are alike the wall by which it differs. */
function titles(routes: readonly Route[], names: ReadonlyMap<string, string>): string[] {
  const said = routes.map(through)
  return routes.map((r, i) => {
    if (said.indexOf(said[i]!) === i) return said[i]!
    const others = new Set(routes.slice(0, i).flatMap((o) => o.elements.map((e) => e.id)))
    const own = r.elements.find((e) => e.room !== null && !others.has(e.id))
    return own ? `${said[i]}, ${placeWords(own.id, names)}` : said[i]!
  })
}

/** What may be said of what was touched in the plan: that no cable goes there, or that one must. */
function Touched({
  building: { names, made },
  touched,
  parts,
  steps,
  onTouch,
}: {
  building: Building
  touched: string | null
  parts: readonly Part[]
  steps: readonly Step[]
  onTouch: (part: string) => void
}) {
  const commit = useJob((s) => s.commit)
  const [kind, ...rest] = (touched ?? '').split(':')
  const place =
    kind === 'wall'
      ? `${rest.slice(1).join(':')} ${rest[0]}`
      : kind === 'step' && steps[Number(rest[0])]
        ? partName(parts[steps[Number(rest[0])]!.parts[0]!]!)
        : null
  const { read } = useBuilding()
  const room = kind === 'room' ? read.rooms.find((r) => r.id === rest.join(':')) : undefined
  if (room)
    return (
      <Section title={names.get(room.id) ?? room.id}>
        <div className="no-print flex flex-wrap items-center gap-1.5" role="group" aria-label="Its walls">
          {sides.map((side) => (
            <button key={side} type="button" className="btn" onClick={() => onTouch(`wall:${side}:${room.id}`)}>
              {side} wall
            </button>
          ))}
        </div>
      </Section>
    )
  if (place === null) return null
  const add = (to: 'forbid' | 'force') => commit({ kind: 'building.set', patch: { [to]: [...new Set([...made[to], place])] } })
  return (
    <Section title={placeWords(place, names)}>
      <div className="flex flex-wrap gap-2">
        <button type="button" className="btn" disabled={made.forbid.includes(place)} onClick={() => add('forbid')}>
          No cable here
        </button>
        <button type="button" className="btn" disabled={made.force.includes(place) || made.force.length >= 4} onClick={() => add('force')}>
          It must go here
        </button>
      </div>
    </Section>
  )
}

function Steps({ steps, at, onStep }: { steps: readonly Step[]; at: number | null; onStep: (i: number) => void }) {
  if (steps.length === 0) return null
  return (
    <Section
      title="In working order"
      aside={
        <button type="button" className="no-print tap flex items-center gap-1 text-ink-2 hover:text-ink" onClick={() => window.print()}>
          <Printer size={15} aria-hidden /> Print
        </button>
      }
    >
      <ol>
        {steps.map((s, i) => (
          <li key={i} className={clsx('border-b border-rule py-1.5', at === i && 'bg-wash')}>
            <button type="button" className="w-full text-left hand:min-h-[44px]" aria-pressed={at === i} onClick={() => onStep(i)}>
              <b>{i + 1}.</b> {s.words} <span className="text-ink-2">{minutes(s.minutes)}</span>
            </button>
            {s.caution && (
              <p className="text-[0.9rem] text-ink-2">
                {s.caution.words} ({s.caution.clause})
              </p>
            )}
          </li>
        ))}
      </ol>
    </Section>
  )
}

/** What the circuit has of this way: its length, or the one typed since. */
function Lengths({ cable, onDrop }: { cable: Building['job']['cables'][number]; onDrop: () => void }) {
  const units = useUnits()
  if (!cable.route) return null
  const { way, m } = lengthFrom(cable)!
  return (
    <Section title="To be cut">
      <p>
        <b>{formatLength(cable.route.cutM, units)}</b>: the route, a tenth more, a loop and two tails.{' '}
        {way ? 'The circuit uses this length.' : `The circuit uses ${m === null ? 'no length' : formatLength(m, units)}, as typed.`}
      </p>
      <button type="button" className="btn no-print mt-2" title="The lengths stay as they are" onClick={onDrop}>
        Withdraw this route
      </button>
    </Section>
  )
}

/** What no way may take, and what each must. */
function Barred({ made, names }: { made: BuildingRecord; names: ReadonlyMap<string, string> }) {
  const commit = useJob((s) => s.commit)
  const set = (patch: Partial<BuildingRecord>) => commit({ kind: 'building.set', patch })
  const spaces = [
    { id: 'attic', there: made.attic !== null && made.attic !== 'none', words: 'Keep out of the attic' },
    { id: 'crawl', there: made.crawl !== null && made.crawl !== 'none', words: 'Keep out of the crawl space' },
    { id: 'surface', there: true, words: 'Nothing on the face of a wall' },
    { id: 'stud', there: made.walls?.kind === 'timber', words: 'Open no lining to cross studs' },
  ].filter((s) => s.there && !made.forbid.includes(s.id))
  return (
    <Section title="Exclusions">
      <CheckField
        label="Cables on one route are kept one cable thickness apart"
        value={made.apart ?? false}
        onCommit={(apart) => set({ apart })}
      />
      {made.forbid.length + made.force.length > 0 ? (
        <ul>
          {(['forbid', 'force'] as const).flatMap((list) =>
            made[list].map((place) => (
              <li key={`${list} ${place}`} className="flex items-center gap-2 border-b border-rule py-1">
                <span className="min-w-0 flex-1">
                  {list === 'forbid' ? 'Not' : 'Must go'} {placeWords(place, names)}
                </span>
                <button type="button" className="btn" onClick={() => set({ [list]: made[list].filter((p) => p !== place) })}>
                  Allow
                </button>
              </li>
            )),
          )}
        </ul>
      ) : (
        <p className="text-ink-2">None. Select a wall or a step on the plan to exclude it.</p>
      )}
      <div className="no-print mt-2 flex flex-wrap gap-1.5">
        {spaces.map((s) => (
          <button key={s.id} type="button" className="btn" onClick={() => set({ forbid: [...made.forbid, s.id] })}>
            {s.words}
          </button>
        ))}
      </div>
    </Section>
  )
}

/** How ways are weighed against each other. */
function WhatCounts({ made }: { made: BuildingRecord }) {
  const commit = useJob((s) => s.commit)
  const feet = useUnits() === 'imperial'
  const field = (key: keyof BuildingRecord['weights'], label: string, min = 0, per = 1) => (
    <NumberField
      key={key}
      label={label}
      value={weightsIn(made)[key] * per}
      min={min}
      max={1000}
      onCommit={(v) => v !== null && commit({ kind: 'building.set', patch: { weights: { ...made.weights, [key]: v / per } } })}
    />
  )
  return (
    <Section title="Minutes used in the search">
      <FieldGrid>
        {field('metre', feet ? 'A foot of cable' : 'A metre of cable', 0, feet ? M_PER_FT : 1)}
        {field('hole', 'A hole')}
        {field('opening', 'An opening to make good')}
        {field('hot', 'Factor where it is hot', 1)}
        {field('cramped', 'Crawling time factor', 1)}
        {field('second', 'A minute of a second person')}
        {field('outage', 'A minute without power')}
      </FieldGrid>
    </Section>
  )
}

function OwnFindings({ circuit }: { circuit: string | null }) {
  const findings = useJob((s) => s.report.stages.find((x) => x.id === 'route')!.findings)
  return (
    <Section title="Findings">
      <Findings
        stage="route"
        findings={findings.filter((f) => f.circuit === circuit)}
        empty="Nothing is wrong with the routes chosen so far."
      />
    </Section>
  )
}
