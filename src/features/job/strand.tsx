'use client'
import { stageOf } from '@/core/stages'
import clsx from 'clsx'
import Link from 'next/link'
import { useParams } from 'next/navigation'
import type { StageReport } from '@/core/evaluate'
import { worstSeverity } from '@/core/finding'
import { VerdictMark } from '@/ui/verdict'
import { useJob } from './context'
import { worlds } from '@/core/region/worlds'

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

const mark = (s: StageReport) => worstSeverity(s.findings.filter((f) => f.severity !== 'note')) ?? (s.open.length ? 'unknown' : 'met')

/**
 * One line of copper from the board to what uses it. The stages sit on it in working order; where the person is the
 * strand is bright, and what is not decided yet is dashed.
 */
export function Strand() {
  const { id, stage } = useParams<{ id: string; stage: string }>()
  const job = useJob((s) => s.job)
  const stages = useJob((s) => s.report.stages)
  const board = worlds[job.region].words.board
  const unbegun = job.ways.length === 0 && job.points.length === 0
  const loads = job.circuits.map((c) => c.load.name).filter(Boolean)
  return (
    <nav
      aria-label="Stages of the work"
      className={
        'no-print flex min-h-0 border-rule bg-sheet max-md:fixed max-md:inset-x-0 max-md:bottom-0 max-md:z-20 max-md:h-16 ' +
        'max-md:border-t md:w-44 md:flex-col md:border-r'
      }
    >
      <p className="hidden px-3 pt-3 pb-1 md:flex md:items-center md:gap-2">
        <span aria-hidden className="grid size-6 place-items-center border-2 border-ink">
          <span className="h-3 w-1 bg-ink" />
        </span>
        <span className="truncate text-[0.9rem] first-letter:uppercase">{job.supply.board || board}</span>
      </p>
      <ol className="flex min-h-0 flex-1 max-md:w-full md:flex-col">
        {stages.map((s, i) => {
          const here = s.id === stage
          const notBegun = s.id === 'survey' && unbegun
          const undecided = s.open.length > 0 || notBegun
          return (
            <li key={s.id} className="relative min-h-0 flex-1 max-md:min-w-0">
              <span
                aria-hidden
                className={clsx(
                  'absolute md:left-[1.375rem] md:border-l-[4px] max-md:top-[0.9rem] max-md:border-t-[4px]',
                  i === 0 ? 'md:top-0 max-md:left-0' : 'md:top-0 max-md:left-0',
                  'md:bottom-0 max-md:right-0',
                  here ? 'border-ink' : 'border-rule-2',
                  undecided ? 'border-dashed' : 'border-solid',
                )}
              />
              <Link
                href={`/jobs/${id}/${s.id}`}
                prefetch={false}
                title={stageOf(s.id).about}
                aria-current={here ? 'page' : undefined}
                className={clsx(
                  'relative flex h-full items-center gap-2 max-md:flex-col max-md:justify-start max-md:gap-0.5 max-md:pt-1 md:pl-3 md:pr-2',
                  here ? 'font-bold' : 'hover:bg-wash/50',
                )}
              >
                <span className={clsx('grid size-6 shrink-0 place-items-center rounded-full bg-sheet', here && 'ring-2 ring-ink')}>
                  <VerdictMark of={notBegun ? 'note' : mark(s)} size={17} label="" />
                </span>
                <span className="min-w-0 max-md:text-[0.68rem] max-md:leading-tight">
                  <span className="block truncate">{stageOf(s.id).name}</span>
                  <span className={clsx('block truncate text-[0.8rem] font-normal text-ink-2 max-md:sr-only')}>
                    {notBegun ? 'not begun' : summary(s)}
                  </span>
                </span>
              </Link>
            </li>
          )
        })}
      </ol>
      <p className="hidden px-3 pb-3 pt-1 md:flex md:items-center md:gap-2">
        <span aria-hidden className="size-6 shrink-0 rounded-full border-2 border-ink" />
        <span className="truncate text-[0.9rem]">{loads.join(', ') || 'appliance ?'}</span>
      </p>
    </nav>
  )
}
