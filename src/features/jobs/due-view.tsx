import { CalendarDays } from 'lucide-react'
import Link from 'next/link'
import { grouped } from '@/core/base/grouped'
import type { DueRow } from '@/core/job/due'

const monthWords = new Intl.DateTimeFormat('en-GB', { month: 'long', year: 'numeric', timeZone: 'UTC' })
const dayWords = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric', timeZone: 'UTC' })

/** What is to be inspected or tested again over all jobs: what is overdue first, then month by month. */
export function DueView({ rows, today }: { rows: readonly DueRow[]; today: string }) {
  const late = rows.filter((r) => r.on < today)
  const months = [
    ...grouped(
      rows.filter((r) => r.on >= today),
      (r) => r.on.slice(0, 7),
    ),
  ]
  return (
    <div className="mx-auto flex min-h-dvh max-w-[60rem] flex-col px-4 py-4">
      <header className="flex flex-wrap items-center gap-3 border-b border-rule-2 pb-3">
        <Link href="/" prefetch={false} className="flex tap items-center font-bold">
          Jobs
        </Link>
        <h1 className="flex-1 text-xl font-bold">Due again</h1>
        {rows.length > 0 && (
          <a className="btn" href="/api/due" download>
            <CalendarDays size={16} aria-hidden /> Calendar (.ics)
          </a>
        )}
      </header>
      {rows.length === 0 ? (
        <p className="mt-10 max-w-prose text-ink-2">
          Nothing is due again. In a job, under Handover, enter when it is to be inspected or tested again: it is then listed here, over all
          jobs, and can be taken into a calendar.
        </p>
      ) : (
        <main>
          {late.length > 0 && <Rows title={`Overdue (${late.length})`} rows={late} />}
          {months.map(([month, of]) => (
            <Rows key={month} title={monthWords.format(new Date(`${month}-01`))} rows={of} />
          ))}
        </main>
      )}
    </div>
  )
}

const Rows = ({ title, rows }: { title: string; rows: readonly DueRow[] }) => (
  <section className="mt-5" aria-label={title}>
    <h2 className="text-lg font-bold">{title}</h2>
    <ul className="border-t border-rule-2">
      {rows.map((r, i) => (
        <li key={i} className="grid grid-cols-[1fr_auto] gap-x-4 border-b border-rule py-2">
          <span>
            {r.what}
            <Link href={`/jobs/${r.job}/handover`} prefetch={false} className="block tap underline">
              {r.title}
            </Link>
            <span className="text-ink-2">{r.place}</span>
          </span>
          <time dateTime={r.on} className="text-right">
            {dayWords.format(new Date(r.on))}
          </time>
        </li>
      ))}
    </ul>
  </section>
)
