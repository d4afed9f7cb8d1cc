'use client'
import clsx from 'clsx'
import { GripVertical } from 'lucide-react'
import { subBoardName } from '@/core/design/fed'
import type { Circuit, Installation } from '@/core/installation/installation'
import { pairOf } from '@/core/job/circuit'
import { formatA } from '@/core/base/format'
import { worlds } from '@/core/region/worlds'
import { type BoardReport, plannedIn, unreadOn } from '@/core/survey/board'
import { rebalance } from '@/core/survey/rebalance'
import { Section } from '@/ui/panel'
import { useJob } from '../sync/context'
import { Findings } from '../fields/findings'

const placeRules = new Set(['two-pole-space', 'way-taken', 'shared-neutral-tie'])

/** Whether a circuit takes two spaces, one above the other. */
const takesTwo = (job: Installation, c: Circuit): boolean =>
  worlds[job.region].splitPhase && (c.kind === 'shared-neutral' || (c.load.volts ?? 0) > 150)

/** New circuits that find their ways in a board: dragged there, or picked and then put. */
export function ToBePutIn({ placing, onPick }: { placing: string | null; onPick: (circuit: Circuit | null) => void }) {
  const job = useJob((s) => s.job)
  const fresh = job.circuits.filter((c) => c.work === 'new' && (c.source === null || c.source.kind === 'board'))
  const boardAt = (id: string) => subBoardName(job.circuits.find((c) => c.id === id)!)
  if (fresh.length === 0) return null
  const { space, spaces } = worlds[job.region].words
  return (
    <div className="no-print">
      <p className="mb-1 text-[0.9rem] text-ink-2">
        {placing ? `Touch the ${space} it takes.` : `New circuits: drag one to its ${space}, or pick it and then touch the ${space}.`}
      </p>
      <ul className="flex max-h-44 flex-wrap gap-2 overflow-y-auto p-0.5" aria-label="New circuits">
        {fresh.map((c) => (
          <li key={c.id}>
            <button
              type="button"
              draggable
              aria-pressed={c.id === placing}
              onDragStart={(e) => {
                e.dataTransfer.setData('text/plain', c.id)
                onPick(c)
              }}
              onClick={() => onPick(c.id === placing ? null : c)}
              className={clsx('btn cursor-grab', c.id === placing && 'border-2 border-ink font-bold')}
            >
              <GripVertical size={15} className="shrink-0" aria-hidden /> <span className="truncate">{c.name}</span>
              <span className="font-normal text-ink-2">
                {c.way || (takesTwo(job, c) ? `two ${spaces}` : `one ${space}`)}
                {c.feeder && `, ${boardAt(c.feeder)}`}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  )
}

const spaceOf = (ways: BoardReport['ways'], part: string): number => ways.find((w) => `way:${w.id}` === part)?.position ?? 0

/** The space a part of the drawn board stands for; 0: none. */
export const spaceAt = (report: BoardReport, part: string): number =>
  part.startsWith('way:') ? spaceOf(report.ways, part) : Number(/\d+$/.exec(part)?.[0] ?? 0)

/** Puts a circuit into a space: what it is connected to, or why it does not go there. */
export function placed(job: Installation, report: BoardReport, circuit: Circuit, space: number): { way: string } | { refused: string } {
  const two = takesTwo(job, circuit)
  const spaces = two ? [space, pairOf(job.region, space)] : [space]
  const at = spaces.join('-')
  const clash = report.ways.find(
    (w) => w.position !== null && spaces.some((s) => s === w.position || (w.poles === 2 && s === pairOf(job.region, w.position!))),
  )
  const other = plannedIn(job, circuit.board).find((p) => p.id !== circuit.id && p.spaces.some((s) => spaces.includes(s)))
  if (clash || other)
    return {
      refused:
        `${circuit.name} does not go in ${at}: ${clash?.label ?? other!.name} is ` +
        `there${two ? ', and it needs two spaces one above the other' : ''}.`,
    }
  if (circuit.feeder === null && report.board.spaces !== null && spaces.some((s) => s > report.board.spaces!))
    return { refused: `${circuit.name} does not go in ${at}: the board ends at ${report.board.spaces}.` }
  return { way: at }
}

/** What the board gives the new circuits: room for two poles, the legs, what is wrong with their places. */
export function RoomInBoard({ report, planned }: { report: BoardReport; planned: boolean }) {
  const job = useJob((s) => s.job)
  const circuits = useJob((s) => s.report.circuits)
  const { loads } = useJob((s) => s.report.survey)
  const commit = useJob((s) => s.commit)
  const balance = planned ? null : rebalance(report, loads)
  const wrong = circuits.flatMap((c) =>
    c.circuit.board === report.board.id
      ? c.chosen.findings
          .filter((f) => placeRules.has(f.rule))
          .map((f) => ({ ...f, message: circuits.length > 1 ? `${c.circuit.name}: ${f.message}` : f.message }))
      : [],
  )
  return (
    <>
      {wrong.length > 0 && (
        <Section title="Where the new circuits stand">
          <Findings stage="survey" findings={wrong} empty="" />
        </Section>
      )}
      {worlds[job.region].splitPhase && (
        <Section title="The two legs">
          {report.legs && (
            <p>
              {planned ? 'Planned' : 'Traced'} on leg A <b>{formatA(report.legs.A)}</b>, on leg B <b>{formatA(report.legs.B)}</b>
              {unreadOn(report.legs)}.
            </p>
          )}
          {planned ? (
            !report.legs && <p className="text-ink-2">Known once each of its circuits has a way and a load.</p>
          ) : balance ? (
            <>
              <p className="mt-2">
                {balance.moves.map(({ way, to }) => `${way.label} to ${to}`).join(', ')} brings the difference from{' '}
                {formatA(balance.before)} to <b>{formatA(balance.after)}</b>.
              </p>
              <button
                type="button"
                className="btn mt-2 w-full"
                onClick={() => commit({ kind: 'ways.move', moves: balance.moves.map((m) => ({ id: m.way.id, position: m.to })) })}
              >
                Note {balance.moves.length === 1 ? 'this move' : 'these moves'} in the board
              </button>
            </>
          ) : (
            <p className="mt-2 text-ink-2">
              {report.free === null
                ? `Moves are worked out once it is known which ${worlds[job.region].words.spaces} are free.`
                : 'No move of a one-pole breaker brings them nearer.'}
            </p>
          )}
        </Section>
      )}
      {report.pair && report.pair.moves.length > 0 && (
        <Section title="Room for a two-pole breaker">
          <button
            type="button"
            className="btn w-full"
            onClick={() => commit({ kind: 'ways.move', moves: report.pair!.moves.map((m) => ({ id: m.way.id, position: m.to })) })}
          >
            {report.pair.moves.map((m) => `${m.way.label} has moved to ${m.to}`).join(', ')}: make that room
          </button>
        </Section>
      )}
    </>
  )
}
