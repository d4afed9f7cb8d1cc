'use client'
import clsx from 'clsx'
import { GripVertical } from 'lucide-react'
import { useState } from 'react'
import { subBoardName } from '@/core/design/fed'
import { boardDrawing } from '@/core/drawing/board'
import type { Circuit } from '@/core/installation/installation'
import { formatA } from '@/core/quantity/format'
import { pairOf } from '@/core/job/circuit'
import { plannedIn, spacesGiven } from '@/core/survey/board'
import { plannedBoard } from '@/core/survey/planned-board'
import { rebalance } from '@/core/survey/rebalance'
import { DrawingView } from '@/ui/drawing'
import { Section, Stage } from '@/ui/panel'
import { FindingList } from '@/ui/verdict'
import { useCircuit, useJob } from '../job/context'

const placeRules = new Set(['two-pole-space', 'way-taken', 'shared-neutral-tie'])

/** New circuits find their ways in the board: dragged there, or picked and then put. */
export function PlaceSheet() {
  const job = useJob((s) => s.job)
  const mainBoard = useJob((s) => s.report.boards[0]!)
  const { loads, proved } = useJob((s) => s.report.survey)
  const circuits = useJob((s) => s.report.circuits)
  const commit = useJob((s) => s.commit)
  const pick = useJob((s) => s.pickCircuit)
  const { circuit } = useCircuit()
  const [refused, setRefused] = useState<string | null>(null)
  // The board in view is the one that the circuit in hand leaves from; at the end of a feeder it is still to be bought.
  const feeder = job.circuits.find((c) => c.id === circuit.feeder)
  const board = feeder ? plannedBoard(job, feeder) : mainBoard
  const planned = plannedIn(job, circuit.board)
  const two = (c: Circuit) => job.region === 'north-america' && (c.kind === 'shared-neutral' || (c.load.volts ?? 0) > 150)
  const put = (id: string, space: number) => {
    const c = job.circuits.find((x) => x.id === id)
    if (!c || space < 1) return
    const spaces = two(c) ? [space, pairOf(job.region, space)] : [space]
    const clash = board.ways.find(
      (w) => w.position !== null && spaces.some((s) => s === w.position || (w.poles === 2 && s === pairOf(job.region, w.position!))),
    )
    const other = planned.find((p) => p.id !== id && p.spaces.some((s) => spaces.includes(s)))
    if (clash || other)
      return setRefused(
        `${c.name} does not go in ${spaces.join('-')}: ${clash?.label ?? other!.name} stands ` +
          `there${two(c) ? ', and it needs two spaces one above the other' : ''}.`,
      )
    if (!feeder && board.board.spaces !== null && spaces.some((s) => s > board.board.spaces!))
      return setRefused(`${c.name} does not go in ${spaces.join('-')}: the board ends at ${board.board.spaces}.`)
    setRefused(null)
    commit({ kind: 'circuit.connect', circuit: id, way: spaces.join('-') })
  }
  const boardAt = (id: string) => subBoardName(job.circuits.find((c) => c.id === id)!)
  const balance = feeder ? null : rebalance(board, loads)
  const fresh = circuits.filter((c) => c.circuit.work === 'new' && (c.circuit.source === null || c.circuit.source.kind === 'board'))
  return (
    <Stage
      title="Circuit"
      drawing={
        <div className="flex flex-col gap-3">
          <p className="text-ink-2">
            Drag a circuit to its place in the board, or pick it here and then touch the place.
            {feeder &&
              ` ${board.board.name} is still to be bought: with the circuits planned it wants ${board.board.spaces} ways, some ` +
                'of them for later.'}
          </p>
          <ul className="flex max-h-44 flex-wrap gap-2 overflow-y-auto p-0.5" aria-label="New circuits">
            {fresh.map(({ circuit: c }) => (
              <li key={c.id}>
                <button
                  type="button"
                  draggable
                  aria-pressed={c.id === circuit.id}
                  onDragStart={(e) => {
                    e.dataTransfer.setData('text/plain', c.id)
                    pick(c.id)
                  }}
                  onClick={() => pick(c.id)}
                  className={clsx('btn cursor-grab', c.id === circuit.id && 'border-2 border-ink font-bold')}
                >
                  <GripVertical size={15} className="shrink-0" aria-hidden /> <span className="truncate">{c.name}</span>
                  <span className="font-normal text-ink-2">
                    {c.way || (two(c) ? 'two spaces' : 'one space')}
                    {c.feeder && `, ${boardAt(c.feeder)}`}
                  </span>
                </button>
              </li>
            ))}
          </ul>
          {refused && (
            <p role="alert" className="font-bold text-error">
              {refused}
            </p>
          )}
          <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="The board, to put circuits in">
            <DrawingView
              drawing={boardDrawing({ job, report: board, loads: feeder ? [] : loads, proved, planned })}
              selected={circuit.way ? `free:${spacesGiven(job.region, circuit)[0] ?? 0}` : null}
              onSelect={(part) => put(circuit.id, Number(/\d+$/.exec(part)?.[0] ?? 0) || spaceOf(board.ways, part))}
              onDrop={(part, id) => put(id, part.startsWith('free:') ? Number(part.slice(5)) : spaceOf(board.ways, part))}
              className="w-full max-w-[58rem] max-md:min-w-[38rem]"
            />
          </div>
        </div>
      }
      working={
        <>
          <Section title="Findings">
            <FindingList
              findings={circuits.flatMap((c) =>
                c.chosen.findings
                  .filter((f) => placeRules.has(f.rule))
                  .map((f) => ({ ...f, message: circuits.length > 1 ? `${c.circuit.name}: ${f.message}` : f.message })),
              )}
              empty="Every new circuit that was placed stands free."
            />
          </Section>
          {job.region === 'north-america' && (
            <Section title="The two legs">
              {board.legs && (
                <p>
                  {feeder ? 'Planned' : 'Traced'} on leg A <b>{formatA(board.legs.A)}</b>, on leg B <b>{formatA(board.legs.B)}</b>.
                </p>
              )}
              {feeder ? (
                !board.legs && <p className="text-ink-2">Known once each of its circuits has a way and a load.</p>
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
                  {board.free === null
                    ? 'Moves are worked out once every way’s place is noted.'
                    : 'No move of a one-pole breaker brings them nearer.'}
                </p>
              )}
            </Section>
          )}
          {!feeder && (
            <Section title="Room for a two-pole breaker">
              <p>
                {board.pair
                  ? board.pair.moves.length
                    ? `${board.pair.pair.join(' and ')}, once ` +
                      `${board.pair.moves.map((m) => `${m.way.label} has moved to ${m.to}`).join(' and ')}.`
                    : `${board.pair.pair.join(' and ')} are free.`
                  : `None: ${board.noPair}.`}
              </p>
              {board.pair && board.pair.moves.length > 0 && (
                <button
                  type="button"
                  className="btn mt-2 w-full"
                  onClick={() => commit({ kind: 'ways.move', moves: board.pair!.moves.map((m) => ({ id: m.way.id, position: m.to })) })}
                >
                  Make that room
                </button>
              )}
            </Section>
          )}
        </>
      }
    />
  )
}

const spaceOf = (ways: readonly { id: string; position: number | null }[], part: string): number =>
  ways.find((w) => `way:${w.id}` === part)?.position ?? 0
