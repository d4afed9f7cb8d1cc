'use client'
import { type StageId, stageOf } from '@/core/report/stages'
import clsx from 'clsx'
import { ChevronDown, ChevronUp } from 'lucide-react'
import Link from 'next/link'
import { useParams } from 'next/navigation'
import { useState } from 'react'
import type { StageReport } from '@/core/evaluate/evaluate'
import type { Cable } from '@/core/job/cable'
import { type Severity, worstSeverity } from '@/core/base/finding'
import { VerdictMark } from '@/ui/verdict'
import { useJob } from '../sync/context'
import type { RegionId } from '@/core/region/types'
import { worlds } from '@/core/region/worlds'
import { type BoardReport, notLookedAt } from '@/core/survey/board'

const summary = (s: StageReport): string => {
  const count = (of: string) => s.findings.filter((f) => f.severity === of).length
  const parts = [
    [count('error'), 'error'],
    [count('warning'), 'warning'],
    [count('unknown'), 'unknown'],
    [s.open.length, 'open'],
  ] as const
  const plural = (n: number, word: string) => `${n} ${word}${n > 1 && (word === 'error' || word === 'warning') ? 's' : ''}`
  return (
    parts
      .filter(([n]) => n > 0)
      .map(([n, word]) => plural(n, word))
      .join(', ') || 'nothing open'
  )
}

const mark = (s: StageReport): Verdict =>
  worstSeverity(s.findings.filter((f) => f.severity !== 'note')) ?? (s.open.length ? 'unknown' : 'met')

type Verdict = Severity | 'met'

/** Of the cables to be laid those that have a way, where some have none: nothing is wrong with a way that nobody looked for. */
function waysLeft(cables: readonly Cable[]): string | null {
  const fresh = cables.filter((k) => k.circuit !== null && k.state === 'new')
  const led = fresh.filter((k) => k.route).length
  return led < fresh.length ? `${led} of ${fresh.length} routes chosen` : null
}

/** What was not looked at on the boards, where nothing is wrong with what was seen. */
function leftOnBoards(region: RegionId, boards: readonly BoardReport[]): string | null {
  const unseen = boards.reduce((sum, b) => sum + notLookedAt(region, b).length, 0)
  return unseen > 0 ? `${unseen} not checked` : null
}

/** The state of a stage, for the eye: its mark, and in words what is found and open there. */
interface Seen {
  readonly report: StageReport
  readonly here: boolean
  readonly verdict: Verdict
  readonly words: string
  readonly undecided: boolean
}

const GRAVE: readonly Verdict[] = ['error', 'warning', 'unknown']
/** The gravest stage that is not among those shown already; none where nothing is wrong. */
const gravestElsewhere = (stages: readonly Seen[], shown: readonly Seen[]): Seen | undefined =>
  stages
    .filter((s) => !shown.includes(s) && (s.verdict === 'error' || s.verdict === 'warning'))
    .toSorted((a, b) => GRAVE.indexOf(a.verdict) - GRAVE.indexOf(b.verdict))[0]

/**
 * One line of copper from the board to what uses it. The stages sit on it in working order; where the person is the
 * strand is bright, and what is not decided yet is dashed. On a phone its piece about the stage in front is at the foot, with the
 * gravest thing elsewhere, and opens upward to the whole.
 */
export function Strand() {
  const { id, stage } = useParams<{ id: string; stage: string }>()
  const job = useJob((s) => s.job)
  const reports = useJob((s) => s.report.stages)
  const boards = useJob((s) => s.report.boards)
  const [openAt, setOpenAt] = useState<string | null>(null)
  const open = openAt === stage
  const board = worlds[job.region].words.board
  const unbegun: Partial<Record<StageId, boolean>> = {
    survey: job.ways.length === 0 && job.points.length === 0,
    route: job.rooms.every((r) => !r.measured),
    day: !job.day?.planned,
  }
  const leftAt: Partial<Record<StageId, () => string | null>> = {
    survey: () => leftOnBoards(job.region, boards),
    route: () => waysLeft(job.cables),
  }
  const loads = job.circuits.map((c) => c.load.name).filter(Boolean)
  const stages = reports.map((report): Seen => {
    const verdict = mark(report)
    const left = unbegun[report.id] ? 'not begun' : verdict === 'met' ? (leftAt[report.id]?.() ?? null) : null
    return {
      report,
      here: report.id === stage,
      verdict: left === null ? verdict : 'note',
      words: left ?? summary(report),
      undecided: report.open.length > 0 || left !== null,
    }
  })
  return (
    <nav
      aria-label="Stages of the work"
      className={
        'no-print flex min-h-0 border-rule bg-sheet max-md:fixed max-md:inset-x-0 max-md:bottom-0 max-md:z-20 max-md:h-16 ' +
        'max-md:border-t md:w-44 low:!w-32 md:flex-col md:border-r'
      }
      onKeyDown={(e) => e.key === 'Escape' && setOpenAt(null)}
    >
      <p className="hidden px-3 pt-3 pb-1 md:flex md:items-center md:gap-2 low:!hidden">
        <span aria-hidden className="grid size-6 place-items-center border-2 border-ink">
          <span className="h-3 w-1 bg-ink" />
        </span>
        <span className="truncate text-[0.9rem] first-letter:uppercase">{job.supply.board || board}</span>
      </p>
      <ol
        className={clsx(
          'flex min-h-0 flex-1 flex-col',
          'max-md:absolute max-md:inset-x-0 max-md:bottom-(--foot) max-md:max-h-[75dvh] max-md:overflow-y-auto max-md:border-t-2 ' +
            'max-md:border-ink max-md:bg-sheet max-md:shadow-[0_-4px_12px_rgb(0_0_0/0.15)]',
          !open && 'max-md:hidden',
        )}
      >
        {stages.map((s) => (
          <li key={s.report.id} className="relative min-h-0 flex-1 max-md:min-h-14">
            <Line of={s} className="md:left-[1.375rem] max-md:left-[1.375rem] inset-y-0 border-l-[4px]" />
            <StageLink job={id} of={s} className="h-full items-center gap-2 pr-2 pl-3" onGo={() => setOpenAt(null)} />
          </li>
        ))}
      </ol>
      <Foot job={id} stages={stages} open={open} onOpen={(up) => setOpenAt(up ? stage : null)} />
      <p className="hidden px-3 pb-3 pt-1 md:flex md:items-center md:gap-2 low:!hidden">
        <span aria-hidden className="size-6 shrink-0 rounded-full border-2 border-ink" />
        <span className="truncate text-[0.9rem]">{loads.join(', ') || 'appliance ?'}</span>
      </p>
    </nav>
  )
}

/** The strand's piece at a stage: bright where the person is, dashed where something is not decided. */
const Line = ({ of, className }: { of: Seen; className: string }) => (
  <span
    aria-hidden
    className={clsx('absolute', className, of.here ? 'border-ink' : 'border-rule-2', of.undecided ? 'border-dashed' : 'border-solid')}
  />
)

function StageLink({
  job,
  of,
  className,
  short = false,
  onGo,
}: {
  job: string
  of: Seen
  className: string
  short?: boolean
  onGo?: () => void
}) {
  const { report, here, verdict, words } = of
  return (
    <Link
      href={`/jobs/${job}/${report.id}`}
      prefetch={false}
      title={stageOf(report.id).about}
      aria-current={here ? 'page' : undefined}
      className={clsx('relative flex', className, here ? 'font-bold' : 'hover:bg-wash/50')}
      onClick={onGo}
    >
      <span className={clsx('grid size-6 shrink-0 place-items-center rounded-full bg-sheet', here && 'ring-2 ring-ink')}>
        <VerdictMark of={verdict} size={17} label="" />
      </span>
      <span className="min-w-0">
        <span className={clsx('block truncate', short && 'text-[0.8rem]')}>{stageOf(report.id).name}</span>
        <span className={clsx('block truncate text-[0.8rem] font-normal text-ink-2', short && 'sr-only', 'low:sr-only')}>{words}</span>
      </span>
    </Link>
  )
}

/** On a phone: the stage before, the one in front, the one after, then the gravest elsewhere, and the whole line at a touch. */
function Foot({ job, stages, open, onOpen }: { job: string; stages: readonly Seen[]; open: boolean; onOpen: (up: boolean) => void }) {
  const at = stages.findIndex((s) => s.here)
  const from = Math.min(Math.max(0, at - 1), Math.max(0, stages.length - 3))
  const about = stages.slice(from, from + 3)
  const grave = gravestElsewhere(stages, about)
  const column = 'h-full flex-col items-center justify-start gap-0.5 pt-1.5 text-center leading-tight'
  return (
    <div className="flex min-h-0 w-full flex-1 md:hidden">
      {!open && (
        <>
          <ol className="flex min-w-0 flex-1">
            {about.map((s) => (
              <li key={s.report.id} className="relative min-w-0 flex-1">
                <Line of={s} className="inset-x-0 top-[1.0625rem] border-t-[4px]" />
                <StageLink job={job} of={s} className={column} short />
              </li>
            ))}
          </ol>
          {grave && (
            <div className="w-20 shrink-0 border-l border-rule">
              <StageLink job={job} of={grave} className={column} short />
            </div>
          )}
        </>
      )}
      <button
        type="button"
        aria-expanded={open}
        aria-label={open ? 'Only the stages about this one' : 'All stages'}
        className={clsx(
          'flex flex-col items-center justify-center gap-0.5 border-l border-rule text-[0.8rem]',
          open ? 'flex-1' : 'w-16 shrink-0',
        )}
        onClick={() => onOpen(!open)}
      >
        {open ? <ChevronDown aria-hidden /> : <ChevronUp aria-hidden />}
        <span aria-hidden>{open ? 'Close' : 'All'}</span>
      </button>
    </div>
  )
}
