'use client'
import { Copy, RotateCcw, Trash2 } from 'lucide-react'
import Link from 'next/link'
import { stageIds, stages } from '@/core/report/stages'
import { VerdictMark } from '@/ui/verdict'
import type { JobLine } from './job-line'

const x = (i: number) => 8 + i * 20
const WIDTH = x(stageIds.length - 1) + 8

/** How far a job has come, drawn as the strand it is: solid up to where the work is, dashed beyond. Drawn once, for all rows. */
export function ReachedSigns() {
  return (
    <svg className="absolute size-0" aria-hidden>
      {stageIds.map((reached, at) => (
        <symbol key={reached} id={`reached-${reached}`} viewBox={`0 0 ${WIDTH} 18`}>
          <path d={`M${x(0)} 9H${x(at)}`} stroke="var(--ink)" strokeWidth={3.5} />
          <path d={`M${x(at)} 9H${x(stageIds.length - 1)}`} stroke="var(--rule-2)" strokeWidth={3} strokeDasharray="4 4" />
          {stageIds.map((s, i) => (
            <circle
              key={s}
              cx={x(i)}
              cy={9}
              r={i === at ? 6.5 : 4}
              fill={i < at ? 'var(--ink)' : 'var(--paper)'}
              stroke={i <= at ? 'var(--ink)' : 'var(--rule-2)'}
              strokeWidth={i === at ? 3 : 2}
            />
          ))}
        </symbol>
      ))}
    </svg>
  )
}
const Reached = ({ stage }: { stage: string }) => (
  <svg width={WIDTH} height={18} aria-hidden>
    <use href={`#reached-${stage}`} />
  </svg>
)

export function JobRowMenu({
  row,
  world,
  when,
  about,
  deleted,
  onDelete,
  onDuplicate,
  onRestore,
}: {
  row: JobLine
  world: string
  when: string
  /** What an example shows; none of a job that is none. */
  about: string | undefined
  deleted: boolean
  onDelete: () => void
  onDuplicate: () => void
  onRestore: () => void
}) {
  const stage = stages.find((s) => s.id === row.stage)?.name ?? row.stage
  return (
    <li
      className={
        'relative grid grid-cols-[1fr_auto] items-center gap-x-4 border-b border-rule py-2 hover:bg-wash ' +
        'md:grid-cols-[minmax(0,1fr)_11.5rem_12.5rem_9.5rem_auto]'
      }
    >
      <div className="min-w-0">
        {deleted || row.setAside !== null ? (
          <span className="text-lg font-bold">{row.title}</span>
        ) : (
          <Link
            href={`/jobs/${row.id}`}
            prefetch={false}
            className="flex items-center text-lg font-bold after:absolute after:inset-0 hover:underline hand:min-h-[44px]"
          >
            <span className="min-w-0 truncate max-md:whitespace-normal">{row.title}</span>
          </Link>
        )}
        <p className="text-ink-2 md:truncate">
          {[row.place, world].filter(Boolean).join(' · ')}
          <span className="md:hidden"> · {when}</span>
        </p>
        {row.setAside !== null && (
          <p className="max-w-[44rem] border-l-4 border-ink pl-2 text-[0.9rem]">
            Set aside: this job was made with an older version and could not be brought up to this one. {row.setAside}{' '}
            <a className="tap inline underline" href={`/api/jobs/${row.id}/older`} download>
              Download it as it is
            </a>
          </p>
        )}
        {about && <p className="text-[0.9rem] text-ink-2">Example. {about}</p>}
      </div>
      <div className="max-md:hidden">
        <Reached stage={row.stage} />
        <p className="text-[0.85rem] text-ink-2">
          <span className="sr-only">Reached: </span>
          {stage}
        </p>
      </div>
      <ul className="flex gap-3 max-md:col-start-1">
        {!row.counted && row.setAside === null && <li className="text-[0.85rem] text-ink-2">changed since it was counted</li>}
        <Count n={row.errors} of="error" word={row.errors === 1 ? 'error' : 'errors'} />
        <Count n={row.warnings} of="warning" word={row.warnings === 1 ? 'warning' : 'warnings'} />
      </ul>
      <p className="text-[0.9rem] text-ink-2 max-md:hidden">{when}</p>
      <div className="relative flex gap-1 max-md:col-start-2 max-md:row-start-1 max-md:row-span-2">
        {deleted ? (
          <button type="button" className="btn" onClick={onRestore} aria-label={`Bring back ${row.title}`}>
            <RotateCcw size={16} aria-hidden /> Bring back
          </button>
        ) : (
          <>
            {row.setAside === null && (
              <button type="button" className="btn px-2" onClick={onDuplicate} aria-label={`Duplicate ${row.title}`} title="Duplicate">
                <Copy size={16} aria-hidden />
              </button>
            )}
            <button type="button" className="btn px-2" onClick={onDelete} aria-label={`Delete ${row.title}`} title="Delete (can be undone)">
              <Trash2 size={16} aria-hidden />
            </button>
          </>
        )}
      </div>
      {row.hits && row.hits.length > 0 && (
        <ul aria-label={`Found in ${row.title}`} className="relative z-10 col-span-full mt-1 border-l-2 border-rule-2 pl-3">
          {row.hits.map((h, i) => (
            <li key={i} className="py-0.5">
              <Link
                href={`/jobs/${row.id}/${h.stage}${h.circuit === null ? '' : `?circuit=${h.circuit}`}`}
                prefetch={false}
                className="tap inline hover:underline"
              >
                {h.what}: <b>{h.name}</b>, {h.says}
              </Link>
            </li>
          ))}
        </ul>
      )}
    </li>
  )
}

function Count({ n, of, word }: { n: number; of: 'error' | 'warning'; word: string }) {
  if (n === 0) return null
  return (
    <li className="flex items-center gap-1.5 whitespace-nowrap">
      <VerdictMark of={of} size={17} label="" />
      {n} {word}
    </li>
  )
}
