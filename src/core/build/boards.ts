import { boardProtection } from '../installation/protection'
import type { Installation } from '../installation/installation'
import { feederBoardId } from '../job/cable'
import type { Board, Way } from '../job/board'
import type { BreakerType } from '../region/types'
import { worlds } from '../region/worlds'
import { coresOf, type Worked } from './cores'
import { systemOf } from '../design/endings'

/* What will be in each board: each way with what was found there, what is to be fitted, and where each conductor lands. */

/** An overcurrent device, with residual current protection of its own or without. */
export interface BoardDevice {
  readonly kind: 'breaker' | 'breaker-residual'
  /** Null: not read. */
  readonly ratingA: number | null
  readonly curve: BreakerType | null
  readonly poles: 1 | 2
  /** Of its residual protection; null: it has none, or it was not read. */
  readonly tripMa: number | null
  readonly type: string | null
}
/** A core on a terminal of a way, or on a bar. */
export interface Landing {
  readonly cable: string
  readonly core: string
  readonly to: string
}
export interface BoardWay {
  readonly id: string
  readonly board: string
  readonly circuit: string | null
  /** As it was found; null: not checked, or nothing is there. */
  readonly found: BoardDevice | null
  /** To be fitted; null: what is there stays. */
  readonly planned: BoardDevice | null
  readonly poles: 1 | 2
  readonly lands: readonly Landing[]
}
export interface BuiltBoard {
  readonly board: Board
  readonly bars: readonly { readonly id: string; readonly role: string }[]
  readonly ways: readonly BoardWay[]
}

export const neutralBar = (board: string, device: string | null = null): string =>
  device === null ? `bar:${board}:neutral` : `bar:${board}:neutral:${device}`
export const protectiveBar = (board: string): string => `bar:${board}:protective`
const terminal = (way: string, mark: string): string => `${way}:${mark}`

/** What was found in a way, as far as anything of it was read. */
function foundIn(job: Installation, way: Way): BoardDevice | null {
  if (way.state === 'new' || (way.ratingA === null && way.curve === null && way.residual === 'unknown')) return null
  const own = way.residual === 'own'
  return {
    kind: own ? 'breaker-residual' : 'breaker',
    ratingA: way.ratingA,
    curve: worlds[job.region].typedBreakers ? way.curve : null,
    poles: way.poles,
    tripMa: null,
    type: null,
  }
}

/** The poles that a circuit takes at its board. */
export const polesOf = (job: Installation, report: Worked): 1 | 2 =>
  worlds[job.region].splitPhase && systemOf(job.region, report.circuit, report.ends) !== 'line-neutral'
    ? 2
    : (report.circuit.ways[0]?.poles ?? 1)

/** The device that a circuit asks for and its board does not have; null: none, or not worked out. */
export function plannedFor(job: Installation, report: Worked): BoardDevice | null {
  const { circuit, chosen } = report
  const { design, result } = chosen
  const [way] = circuit.ways
  if (!result?.breakerA) return null
  // A circuit that continues from a point of another has that one's device.
  if (circuit.source && circuit.source.kind !== 'board') return null
  const { typedBreakers } = worlds[job.region]
  const shared = boardProtection(job, circuit).kind === 'device'
  const own = design.residual.at === 'board' && !shared
  const wanted: BoardDevice = {
    kind: own ? 'breaker-residual' : 'breaker',
    ratingA: result.breakerA,
    curve: typedBreakers ? design.breakerType : null,
    poles: polesOf(job, report),
    tripMa: own ? design.residual.ma : null,
    type: own ? design.residual.type : null,
  }
  if (!way || way.state === 'new') return wanted
  // Of what is there and was not read nobody can say that it is to be replaced, unless that was decided.
  const decided = way.planned?.residual === 'own' && way.residual !== 'own'
  const differs =
    way.ratingA !== null && (way.ratingA !== wanted.ratingA || (typedBreakers && way.curve !== null && way.curve !== wanted.curve))
  return decided || differs ? { ...wanted, kind: decided || way.residual === 'own' ? 'breaker-residual' : 'breaker' } : null
}

/** Where the neutral of a way goes: on its own device, on the bar of the device that it is behind, or on the board's. */
function neutralOf(
  job: Installation,
  way: Way | null,
  board: string,
  id: string,
  device: BoardDevice | null,
  behind: string | null,
): string {
  const group = job.residualDevices.find((d) => d.id === (way?.bar ?? behind))
  if (group) return neutralBar(board, group.id)
  if (device?.kind === 'breaker-residual' && way?.bar !== 'main') return terminal(id, 'N')
  return neutralBar(board)
}

function landingsOf(job: Installation, report: Worked, id: string, device: BoardDevice | null): readonly Landing[] {
  const { circuit } = report
  const way = circuit.ways[0] ?? null
  const neutral = neutralOf(job, way, circuit.board, id, device, circuit.behind)
  return circuit.cables.flatMap((k) => {
    if (k.state === 'removed') return []
    const ends = [k.from, k.to].filter((e) => e.kind !== 'point' && e.id !== feederBoardId(circuit.id))
    return ends.flatMap(() =>
      coresOf(job, report, k).map((c): Landing => ({
        cable: k.id,
        core: c.id,
        to:
          c.role === 'pe'
            ? protectiveBar(circuit.board)
            : c.role === 'neutral'
              ? neutral
              : c.role === 'line'
                ? terminal(id, 'L')
                : c.role === 'line-2'
                  ? terminal(circuit.ways[1]?.id ?? id, circuit.ways[1] ? 'L' : 'L2')
                  : 'cap',
      })),
    )
  })
}

/** The cables of feeders that arrive at a board: its incoming terminals and bars. */
function arriving(job: Installation, reports: readonly Worked[], board: string): readonly Landing[] {
  return reports.flatMap((r) =>
    feederBoardId(r.circuit.id) === board
      ? r.circuit.cables
          .filter((k) => k.to.id === board && k.state !== 'removed')
          .flatMap((k) =>
            coresOf(job, r, k).map((c): Landing => ({
              cable: k.id,
              core: c.id,
              to:
                c.role === 'pe'
                  ? protectiveBar(board)
                  : c.role === 'neutral'
                    ? neutralBar(board)
                    : terminal(`main:${board}`, c.role === 'line-2' ? 'L2' : 'L'),
            })),
          )
      : [],
  )
}

/** Every board of a job with its ways, found and planned. Pure. */
export function builtBoards(job: Installation, reports: readonly Worked[]): readonly BuiltBoard[] {
  return job.record.boards.map((board): BuiltBoard => {
    const devices = job.residualDevices.filter((d) => d.board === board.id)
    const ofCircuits = reports.flatMap((r): BoardWay[] => {
      const { circuit } = r
      const fromBoard = circuit.cables.some((k) => k.from.kind !== 'point' || k.to.kind === 'way')
      if (circuit.board !== board.id || !fromBoard) return []
      const planned = plannedFor(job, r)
      const [way] = circuit.ways
      const id = way?.id ?? `way:${circuit.id}`
      const found = way ? foundIn(job, way) : null
      const first: BoardWay = {
        id,
        board: board.id,
        circuit: circuit.id,
        found,
        planned,
        poles: planned?.poles ?? way?.poles ?? polesOf(job, r),
        lands: landingsOf(job, r, id, planned ?? found),
      }
      const second = circuit.ways[1]
      return second
        ? [
            first,
            {
              id: second.id,
              board: board.id,
              circuit: circuit.id,
              found: foundIn(job, second),
              planned: null,
              poles: second.poles,
              lands: [],
            },
          ]
        : [first]
    })
    const taken = new Set(ofCircuits.map((w) => w.id))
    const staying = job.ways.flatMap((w): BoardWay[] =>
      w.board !== board.id || taken.has(w.id)
        ? []
        : [{ id: w.id, board: board.id, circuit: null, found: foundIn(job, w), planned: null, poles: w.poles, lands: [] }],
    )
    const incoming = arriving(job, reports, board.id)
    const main: BoardWay[] = incoming.length
      ? [
          {
            id: `main:${board.id}`,
            board: board.id,
            circuit: null,
            found: null,
            planned: null,
            poles: worlds[job.region].splitPhase ? 2 : 1,
            lands: incoming,
          },
        ]
      : []
    return {
      board,
      bars: [
        { id: neutralBar(board.id), role: 'neutral' },
        ...devices.map((d) => ({ id: neutralBar(board.id, d.id), role: 'neutral' })),
        { id: protectiveBar(board.id), role: 'protective' },
      ],
      ways: [...main, ...oneOfEach(ofCircuits), ...staying],
    }
  })
}

/** Two circuits may leave from one way: it is there once, with what lands of both. */
function oneOfEach(ways: readonly BoardWay[]): readonly BoardWay[] {
  const byId = new Map<string, BoardWay>()
  for (const w of ways) {
    const known = byId.get(w.id)
    byId.set(w.id, known ? { ...known, planned: known.planned ?? w.planned, lands: [...known.lands, ...w.lands] } : w)
  }
  return [...byId.values()]
}
