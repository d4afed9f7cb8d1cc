'use client'
import { Say } from '@/ui/worded'
import { Plus } from 'lucide-react'
import { PaperLink } from '../fields/paper-link'
import { useState } from 'react'
import { boardDrawing } from '@/core/drawing/board'
import { formatA } from '@/core/base/format'
import { boardName, type BoardReport, plannedIn, notLookedAt, unreadOn } from '@/core/survey/board'
import { plannedBoard } from '@/core/survey/planned-board'
import { serviceDemand } from '@/core/survey/service'
import { sentence } from '@/core/job/part'
import { MAIN_BOARD, newBoard, newResidualDevice, newWay } from '@/core/job/board'
import { FittingDrawing } from '@/ui/drawing'
import { Section, Stage } from '@/ui/panel'
import { useJob } from '../sync/context'
import { useAbout } from '../fields/use-about'
import { useLed } from '../fields/use-led'
import { Findings } from '../fields/findings'
import { Photographs } from '../photographs/photographs'
import { BoardFields, DemandFields, GuardFields, WayFields } from './board-fields'
import { placed, RoomInBoard, spaceAt, ToBePutIn } from './board-placing'
import { WaysTable } from './ways-table'
import { worlds } from '@/core/region/worlds'
import { inRegion } from '@/core/region/spelling'

/** The board as it is: drawn, its ways one by one, and what it offers the new work. */
export function BoardSheet() {
  const about = useAbout('survey')
  const job = useJob((s) => s.job)
  const boards = useJob((s) => s.report.boards)
  const { loads, proved } = useJob((s) => s.report.survey)
  const commit = useJob((s) => s.commit)
  const [boardId, setBoardId] = useState(MAIN_BOARD)
  const [part, setPart] = useState<string | null>(null)
  const feeders = job.circuits.filter((c) => c.kind === 'feeder')
  const toBuy = feeders.map((f) => plannedBoard(job, f)).filter((b) => !boards.some((x) => x.board.id === b.board.id))
  const report = [...boards, ...toBuy].find((b) => b.board.id === boardId) ?? boards[0]!
  const still = toBuy.includes(report)
  const [placing, setPlacing] = useState<string | null>(null)
  const [refused, setRefused] = useState<string | null>(null)
  const put = (id: string | null, space: number) => {
    const circuit = job.circuits.find((c) => c.id === id)
    if (!circuit || space < 1) return
    const answer = placed(job, report, circuit, space)
    setRefused('refused' in answer ? answer.refused : null)
    if ('refused' in answer) return
    commit({ kind: 'circuit.connect', circuit: circuit.id, way: answer.way })
    setPlacing(null)
  }
  const { board } = report
  const words = worlds[job.region].words
  const addWay = (position: number | null = report.free?.[0] ?? null) => {
    const way = newWay(crypto.randomUUID(), position === null ? `Way ${report.ways.length + 1}` : `${position} not labelled`, {
      board: board.id,
      position,
    })
    commit({ kind: 'way.add', way })
    return way.id
  }
  const addGuard = () => {
    const guard = newResidualDevice(
      crypto.randomUUID(),
      `${words.rcd.charAt(0).toUpperCase()}${words.rcd.slice(1)} ${report.devices.length + 1}`,
      { board: board.id },
    )
    commit({ kind: 'residual-device.add', item: guard })
    setPart(`device:${guard.id}`)
  }
  const close = () => setPart(null)
  useLed('survey', 'board', (kind, id) => {
    const [space, ...of] = kind === 'space' ? id.split(':') : []
    const on = [...job.ways, ...job.residualDevices].find((x) => x.id === id)?.board ?? (of.join(':') || id)
    setBoardId(on)
    setPart(kind === 'board' ? null : space ? `free:${space}` : `${kind}:${id}`)
  })
  const pick = (chosen: string) => {
    if (placing) return put(placing, spaceAt(report, chosen))
    if (!still)
      setPart(
        chosen.startsWith('free:') && Number(chosen.slice(5)) > 0 && board.spaces === null
          ? `way:${addWay(Number(chosen.slice(5)))}`
          : chosen,
      )
  }
  return (
    <Stage
      title="Survey"
      about={about}
      drawing={
        <div className="flex flex-col gap-4">
          <BoardBar
            boards={[...boards, ...toBuy]}
            shown={board.id}
            onShow={(to) => (setBoardId(to), close())}
            onWay={() => setPart(`way:${addWay()}`)}
            onGuard={addGuard}
          />
          {still ? (
            <p className="text-ink-2">
              {board.name} is not bought yet: with the circuits planned it needs {`${board.spaces} ${worlds[job.region].words.spaces}`},
              some of them spare.
            </p>
          ) : (
            <AtOnce report={report} />
          )}
          <ToBePutIn
            placing={placing}
            onPick={(c) => {
              setPlacing(c?.id ?? null)
              setRefused(null)
              if (!c || c.board === boardId) return
              setBoardId(c.board)
              close()
            }}
          />
          {refused && (
            <p role="alert" className="font-bold text-error">
              {refused}
            </p>
          )}
          <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={`The ${worlds[job.region].words.board}, drawn`}>
            <FittingDrawing
              draw={(format) => boardDrawing({ job, report, loads: still ? [] : loads, proved, planned: plannedIn(job, board.id) }, format)}
              selected={part}
              onSelect={pick}
              onDrop={(on, id) => put(id, spaceAt(report, on))}
              className="w-full max-w-[58rem]"
            />
          </div>
          {!still && <WaysTable board={board.id} />}
        </div>
      }
      working={
        <>
          {!still && <PartFields report={report} part={part} onAdd={(at) => setPart(`way:${addWay(at)}`)} onClose={close} />}
          <RoomInBoard report={report} planned={still} />
          {!still && <Photographs of={{ kind: 'board', id: board.id }} hint="The door, the cover off, the labels, the seals, the meter." />}
          <Section title="Findings">
            <Findings stage="survey" findings={report.findings} empty="Nothing wrong was found in this board as it is described." />
          </Section>
          {board.fedFrom === null && <DemandFields />}
        </>
      }
    />
  )
}

/** Which board is shown, what is added to it, and its schedule. */
function BoardBar({
  boards,
  shown,
  onShow,
  onWay,
  onGuard,
}: {
  boards: readonly BoardReport[]
  shown: string
  onShow: (id: string) => void
  onWay: () => void
  onGuard: () => void
}) {
  const job = useJob((s) => s.job)
  const id = useJob((s) => s.id)
  const found = useJob((s) => s.report.boards).length
  const commit = useJob((s) => s.commit)
  const addBoard = () => {
    const item = newBoard(crypto.randomUUID(), { name: `Sub-board ${found}` })
    commit({ kind: 'board.add', item })
    onShow(item.id)
  }
  return (
    <div className="no-print flex flex-wrap items-center gap-2">
      {boards.length > 1 &&
        boards.map((b) => (
          <button
            key={b.board.id}
            type="button"
            className={`btn ${b.board.id === shown ? 'border-ink font-bold' : ''}`}
            aria-pressed={b.board.id === shown}
            onClick={() => onShow(b.board.id)}
          >
            {boardName(job.region, b.board, b.board.id === MAIN_BOARD ? job.supply.board : '')}
          </button>
        ))}
      <button type="button" className="btn" onClick={onWay}>
        <Plus size={16} aria-hidden /> {inRegion(job.region, 'Add a way')}
      </button>
      {worlds[job.region].boardManner === 'rail' && (
        <button type="button" className="btn" onClick={onGuard}>
          <Plus size={16} aria-hidden /> Residual device
        </button>
      )}
      <button type="button" className="btn" onClick={addBoard}>
        <Plus size={16} aria-hidden /> <Say>Sub-board</Say>
      </button>
      <PaperLink className="btn" job={id} file="door.pdf" name={inRegion(job.region, 'Circuit chart')}>
        {inRegion(job.region, 'Circuit chart')}
      </PaperLink>
    </div>
  )
}

/** What is known of the part of the board that is picked; of the board itself where none is. */
function PartFields({
  report,
  part,
  onAdd,
  onClose,
}: {
  report: BoardReport
  part: string | null
  onAdd: (position: number | null) => void
  onClose: () => void
}) {
  const [kind, of] = part?.split(':') ?? []
  const way = kind === 'way' ? report.ways.find((w) => w.id === of) : undefined
  if (way) return <WayFields key={way.id} way={way} onClose={onClose} />
  const guard = kind === 'device' ? report.devices.find((g) => g.id === of) : undefined
  if (guard) return <GuardFields key={guard.id} guard={guard} onClose={onClose} />
  if (kind === 'free') return <FreeSpace space={Number(of)} report={report} onAdd={onAdd} onClose={onClose} />
  return <BoardFields report={report} />
}

/** What one wants to know standing in front of it. */
function AtOnce({ report }: { report: BoardReport }) {
  const job = useJob((s) => s.job)
  const { free, pair, noPair, legs, liveWithMainOff } = report
  const unseen = notLookedAt(job.region, report)
  const demand = report.board.fedFrom === null ? serviceDemand(job) : null
  const pairWords = pair
    ? `${pair.pair.join(' and ')}` +
      `${pair.moves.length ? `, after moving ${pair.moves.map((m) => `${m.way.label} to ${m.to}`).join(', ')}` : ''}`
    : noPair
  const facts: [string, string][] = [
    ['Free', free === null ? (noPair ?? 'not known') : free.length === 0 ? 'none' : `${free.length}: ${free.join(', ')}`],
    ['For a two-pole breaker', pairWords ?? 'not known'],
    ...(legs ? [['Traced on the legs', `A ${formatA(legs.A)}, B ${formatA(legs.B)}${unreadOn(legs)}`] as [string, string]] : []),
    ...(demand
      ? [
          [
            'Spare supply capacity',
            demand.result
              ? `${formatA(demand.result.spareA)} of ${formatA(report.board.mainA!)}`
              : demand.ask
                ? `not known: ${demand.ask} is missing`
                : `no published allowance; ${demand.unsaid ? 'at least ' : ''}${formatA(demand.connectedA)} connected`,
          ] as [string, string],
        ]
      : []),
    ['Still live with the main off', liveWithMainOff.join('; ')],
    ...(unseen.length ? [['Not checked', unseen.join('; ')] as [string, string]] : []),
  ]
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-4 border-y border-rule py-1.5 max-md:grid-cols-1" aria-label="Summary">
      {facts.map(([name, value]) => (
        <div key={name} className="contents">
          <dt className="text-ink-2">{name}</dt>
          <dd className="font-bold max-md:mb-1">{value}</dd>
        </div>
      ))}
    </dl>
  )
}

/** A space nothing is in: note a breaker there, or give it to a circuit of this job. */
function FreeSpace({
  space,
  report,
  onAdd,
  onClose,
}: {
  space: number
  report: BoardReport
  onAdd: (position: number | null) => void
  onClose: () => void
}) {
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const at = space > 0 ? space : null
  const word = worlds[job.region].words.space
  const { board } = report
  const seen = at !== null && board.free?.includes(at) === true
  const see = (free: readonly number[] | null) =>
    commit({ kind: 'board.set', id: board.id, patch: { free: free && [...free].toSorted((a, b) => a - b) } })
  const waiting = seen ? job.circuits.filter((c) => c.way === '') : []
  return (
    <Section
      title={at === null ? `A free ${word}` : `${sentence(word)} ${at}, ${seen ? 'free' : 'not checked'}`}
      aside={
        <button type="button" className="btn" onClick={onClose}>
          Back to the board
        </button>
      }
    >
      <div role="group" aria-label="What is there" tabIndex={-1}>
        <button type="button" className="btn btn-ink w-full" onClick={() => onAdd(at)}>
          There is a breaker here
        </button>
        {at !== null && !seen && (
          <button type="button" className="btn mt-2 w-full" onClick={() => see([...(board.free ?? []), at])}>
            Spare (checked)
          </button>
        )}
        {seen && (
          <button type="button" className="btn mt-2 w-full" onClick={() => see(board.free!.filter((s) => s !== at))}>
            Not checked after all
          </button>
        )}
      </div>
      {at !== null && waiting.length > 0 && (
        <div className="mt-3">
          <p className="mb-1 text-[0.9rem] text-ink-2">Give it to a new circuit of this job:</p>
          {waiting.map((c) => {
            const two = worlds[job.region].splitPhase && (c.load.volts ?? 0) > 150
            const [a, b] = report.pair?.pair ?? []
            return (
              <button
                key={c.id}
                type="button"
                className="btn mb-1 w-full"
                disabled={two && a !== at}
                onClick={() => (commit({ kind: 'circuit.connect', circuit: c.id, way: two ? `${a}-${b}` : String(at) }), onClose())}
              >
                {c.name}
                {two && a !== at && ' needs two spaces'}
              </button>
            )
          })}
        </div>
      )}
    </Section>
  )
}
