'use client'
import { daylightOn, inTheDark } from '@/core/workday/daylight'
import { clock, DAY_MIN, hour, type Planned } from '@/core/job/day'
import clsx from 'clsx'
import dayjs from 'dayjs'
import { Fragment, type Ref, useRef, useState } from 'react'
import { shutFor } from '@/core/workday/isolation'
import { daysOf, MOST_DAYS } from '@/core/workday/days'
import { brokenRules, placedOn, type Placed } from '@/core/workday/plan'
import type { Task } from '@/core/workday/tasks'
import { begunAt, timelineDrawing } from '@/core/drawing/timeline'
import { FittingDrawing } from '@/ui/drawing'
import { Section, Stage } from '@/ui/panel'
import { VerdictMark } from '@/ui/verdict'
import { useWindowed } from '@/ui/windowed'
import { useJob } from '../sync/context'
import { useAbout } from '../fields/use-about'
import { DayFields, WishFields } from './day-fields'
import { FirmMinutes } from './firm-minutes'
import { OwnTasks } from './own-tasks'
import { TaskFields } from './task-fields'
import { useDay } from './use-day'
import { type Planner, usePlanner } from './use-planner'

/** On the day a plan is wanted at once. */
const AT_ONCE_S = 0.4

/** What else moved, and when the supply is off, is listed up to this many. */
const MOST_TOLD = 5

/** The day by the clock, found and proved in a worker of the server; what is picked has its reasons beside it. */
export function PlanSheet() {
  const { day, tasks, cards } = useDay()
  const about = useAbout('day')
  const [picked, setPicked] = useState<string | null>(null)
  const done = new Set(day.log.flatMap((r) => (r.endedAt === null ? [] : [r.task])))
  const doing = new Set(day.log.flatMap((r) => (r.endedAt === null ? [r.task] : [])))
  const placed = day.planned ? placedOn(day.planned, tasks, day) : []
  const planned = new Set(placed.map((p) => p.task.id))
  const missing = day.planned ? tasks.filter((t) => !planned.has(t.id) && !done.has(t.id)) : []
  const broken = day.planned ? brokenRules(day.planned, tasks, day) : []
  const task = tasks.find((t) => `task:${t.id}` === picked)
  const days = daysOf(placed, day.planned?.outages ?? [])
  const [shownDay, setShownDay] = useState(0)
  const nth = Math.min(shownDay, days.length - 1)
  const today = days[nth]!
  const at = placed.find((p) => p.task === task)
  const planner = usePlanner(done)
  const light = daylightOn(day)
  const commit = useJob((s) => s.commit)
  /** Fixes a task to its time on the day, and has the rest planned round it. */
  const hold = (moving: Task, earliestMin: number | null) => {
    commit(
      moving.from === 'own'
        ? { kind: 'task.set', id: moving.id, patch: { earliestMin } }
        : { kind: 'task.hold', task: moving.id, earliestMin },
    )
    if (day.planned)
      return planner.run(
        tasks.map((t) => (t === moving ? { ...t, earliestMin } : t)),
        day.startMin,
      )
  }
  return (
    <Stage
      title="Day"
      about={about}
      drawing={
        <div className="flex flex-col gap-3">
          <PlanIt planner={planner} done={done} />
          {day.planned && (
            <>
              <WhichDay days={days} shown={nth} onShow={setShownDay} />
              <FittingDrawing
                draw={(format) =>
                  timelineDrawing({
                    ...today,
                    people: day.people,
                    light,
                    startMin: day.startMin,
                    endMin: day.endMin,
                    done,
                    doing,
                    format,
                  })
                }
                selected={picked}
                onSelect={setPicked}
                dragsWideOnly
                onDrag={(part, x, settled) => {
                  const moving = tasks.find((t) => `task:${t.id}` === part)
                  if (settled && moving)
                    void hold(
                      moving,
                      begunAt({ placed: today.placed, startMin: day.startMin, endMin: day.endMin }, x, moving.minutes) + nth * DAY_MIN,
                    )
                }}
                className="w-full max-w-[64rem]"
              />
              <Outcome planned={day.planned} startMin={day.startMin} placed={placed} days={days.length} />
            </>
          )}
          <WrongWithIt dark={days.flatMap((d) => inTheDark(d.placed, light))} broken={broken} missing={missing.length} />
          <TaskList placed={placed} picked={picked} onPick={setPicked} done={done} doing={doing} />
        </div>
      }
      working={
        <>
          {task && (
            <TaskFields
              key={task.id}
              task={task}
              at={at ?? null}
              shut={shutFor(task, cards)}
              done={done}
              doing={doing}
              onHold={(min) => void hold(task, min)}
            />
          )}
          <DayFields />
          <WishFields />
          <OwnTasks tasks={tasks} />
          <FirmMinutes />
        </>
      }
    />
  )
}

type Days = ReturnType<typeof daysOf>
function WhichDay({ days, shown, onShow }: { days: Days; shown: number; onShow: (n: number) => void }) {
  if (days.length < 2) return null
  return (
    <div className="no-print flex flex-wrap gap-1.5" role="group" aria-label="Which day is shown">
      {days.map((d, n) => (
        <button
          key={n}
          type="button"
          className={clsx('btn', n === shown && 'border-ink font-bold')}
          aria-pressed={n === shown}
          onClick={() => onShow(n)}
        >
          Day {n + 1}: {d.placed.length} {d.placed.length === 1 ? 'task' : 'tasks'}
        </button>
      ))}
    </div>
  )
}

/** When all is done, for how long the supply is off, and whether any plan is better. */
function Outcome({ planned, startMin, placed, days }: { planned: Planned; startMin: number; placed: readonly Placed[]; days: number }) {
  const { outages, optimal } = planned
  return (
    <p>
      Done at <b>{clock(Math.max(startMin, ...placed.map((p) => p.endMin)))}</b>
      {outages.length > 0 && (
        <>
          , the supply off <b>{Math.round(outages.reduce((n, o) => n + o.toMin - o.fromMin, 0))} min</b>
          {outages.length > MOST_TOLD
            ? ` in ${outages.length} times`
            : `: ${outages.map((o) => `${clock(o.fromMin)} to ${hour(o.toMin)}`).join('; ')}`}
        </>
      )}
      .{' '}
      {days > 1
        ? 'Each day is planned for itself: that the work is best parted so is not proved.'
        : optimal
          ? 'No plan ends earlier, or is off for less.'
          : boundWords(planned)}
    </p>
  )
}

/** What is wrong with a plan that was taken over: in the dark, against a wish, or without what came since. */
function WrongWithIt({ dark, broken, missing }: { dark: readonly Placed[]; broken: readonly string[]; missing: number }) {
  if (broken.length + missing + dark.length === 0) return null
  return (
    <ul>
      {dark.map((d) => (
        <li key={d.task.id} className="flex items-start gap-2">
          <VerdictMark of="warning" /> {d.task.name} falls outdoors after dark: light the place, or move the task.
        </li>
      ))}
      {broken.map((b) => (
        <li key={b} className="flex items-start gap-2">
          <VerdictMark of="error" /> {b}
        </li>
      ))}
      {missing > 0 && (
        <li className="flex items-start gap-2">
          <VerdictMark of="unknown" /> {missing} {missing === 1 ? 'task has' : 'tasks have'} come since: plan again.
        </li>
      )}
    </ul>
  )
}

/** What is known where it is not proved that no plan is better. */
const boundWords = ({ bound }: Planned): string =>
  bound
    ? 'Best plan found in the time allowed. No plan can finish before ' +
      `${clock(bound.finishMin)} or keep the power off for less than ${bound.outageMin} min.`
    : 'Best plan found in the time allowed. A better one may exist.'

/** Has the day planned, from its begin or from now; it can be given up while it is worked out. */
function PlanIt({ planner: { thinking, wrong, moved, run, stop }, done }: { planner: Planner; done: ReadonlySet<string> }) {
  const { day, tasks } = useDay()
  /** Now, on whichever day of the plan that is; the first, where nobody said when that is. */
  const now = () => {
    const d = new Date()
    const since = day.date === null ? 0 : dayjs(d).startOf('day').diff(day.date, 'day')
    // An old plan is started over.
    return (since > 0 && since < MOST_DAYS ? since : 0) * DAY_MIN + d.getHours() * 60 + d.getMinutes()
  }
  if (tasks.length === 0)
    return <p className="text-ink-2">Nothing is to be done yet: tasks come from the circuits, and from what is added here.</p>
  return (
    <div aria-live="polite">
      <div className="no-print flex flex-wrap items-center gap-2">
        {thinking ? (
          <>
            <span>working it out, a few seconds…</span>
            <button type="button" className="btn" onClick={stop}>
              Cancel
            </button>
          </>
        ) : (
          <>
            <button type="button" className={clsx('btn', !day.planned && 'btn-ink')} onClick={() => void run(tasks, day.startMin)}>
              {day.planned ? 'Plan it again' : `Plan the day: ${tasks.length} tasks`}
            </button>
            {day.planned && done.size > 0 && (
              <button type="button" className="btn btn-ink" onClick={() => void run(tasks, now(), AT_ONCE_S)}>
                Plan the rest from now
              </button>
            )}
          </>
        )}
      </div>
      {wrong && (
        <p role="alert" className="mt-1 font-bold">
          {wrong}
        </p>
      )}
      {moved.length > 0 && !thinking && (
        <p className="mt-1">
          Moved with it: {moved.slice(0, MOST_TOLD).join('; ')}
          {moved.length > MOST_TOLD && ` and ${moved.length - MOST_TOLD} more`}.
        </p>
      )}
    </div>
  )
}

/** About as high as a task is. */
const TASK_PX = 54
/** The room of rows that are not in sight. */
const Unseen = ({ px }: { px: number }) => (
  <tr aria-hidden style={{ height: px, padding: 0 }}>
    <td colSpan={4} className="p-0" />
  </tr>
)

function TaskList({
  placed,
  picked,
  onPick,
  done,
  doing,
}: {
  placed: readonly Placed[]
  picked: string | null
  onPick: (part: string) => void
  done: ReadonlySet<string>
  doing: ReadonlySet<string>
}) {
  const { tasks, day } = useDay()
  const at = new Map(placed.map((p, i) => [p.task.id, { ...p, n: i + 1 }]))
  const list = placed.length ? [...placed.map((p) => p.task), ...tasks.filter((t) => !at.has(t.id))] : tasks
  const body = useRef<HTMLTableSectionElement>(null)
  const { rows, after, measure, onFocus } = useWindowed(list.length, body, TASK_PX)
  if (list.length === 0) return null
  const total = tasks.reduce((n, t) => n + t.minutes * Math.max(t.people, t.circuit === null ? 0 : 1), 0)
  return (
    <Section title="Tasks" aside={<span className="text-ink-2">{(total / 60).toFixed(1)} h of work</span>}>
      <table className="cards w-full" aria-rowcount={list.length + 1}>
        <thead className="sr-only">
          <tr>
            <th>Number</th>
            <th>Task</th>
            <th>When</th>
            <th>Minutes</th>
          </tr>
        </thead>
        <tbody ref={body} onFocus={onFocus}>
          {rows.map(({ nth, above }) => {
            const t = list[nth]!
            const p = at.get(t.id)
            const part = `task:${t.id}`
            return (
              <Fragment key={t.id}>
                {above > 0 && <Unseen px={above} />}
                <tr
                  ref={measure as Ref<HTMLTableRowElement>}
                  data-index={nth}
                  aria-rowindex={nth + 2}
                  className={clsx('border-b border-rule max-md:!grid-cols-[1.5rem_1fr_auto]', picked === part && 'bg-wash')}
                >
                  <td className="w-9 py-1 pl-1 font-bold max-md:!col-auto">{done.has(t.id) ? '✓' : (p?.n ?? '')}</td>
                  <td className="py-1">
                    <button
                      type="button"
                      className="w-full text-left hover:underline hand:min-h-[44px]"
                      aria-pressed={picked === part}
                      onClick={() => onPick(part)}
                    >
                      {t.name}
                      {doing.has(t.id) && <b> · being done</b>}
                      <span className="block text-[0.85rem] text-ink-2">
                        {[
                          t.power === 'off' ? 'dead' : t.power === 'on' ? 'live' : '',
                          t.people > 1 ? `${t.people} people` : '',
                          t.hot ? 'hot' : '',
                          t.cramped ? 'cramped' : '',
                          t.high ? 'up a ladder' : '',
                          t.outside ? 'outside' : '',
                          p?.why ?? '',
                          t.presumed && `presumed, ${t.presumed}`,
                        ]
                          .filter(Boolean)
                          .join(' · ')}
                      </span>
                    </button>
                  </td>
                  <td className="px-2 py-1 whitespace-nowrap max-md:order-last max-md:col-start-2 max-md:empty:!hidden">
                    {p ? `${clock(p.startMin)} to ${clock(p.endMin)}` : ''}
                  </td>
                  <td className="py-1 pr-1 text-right whitespace-nowrap max-md:!text-right">
                    {t.minutes} min
                    <span className="block text-[0.8rem] text-ink-2">
                      {t.from === 'usual'
                        ? 'usual'
                        : t.from === 'way'
                          ? 'by its way'
                          : t.from === 'table'
                            ? 'the firm’s'
                            : t.from === 'said'
                              ? 'said'
                              : ''}
                    </span>
                  </td>
                </tr>
              </Fragment>
            )
          })}
          {after > 0 && <Unseen px={after} />}
        </tbody>
      </table>
      {day.people.length === 1 && tasks.some((t) => t.kind === 'pull') && (
        <p className="mt-1 text-[0.9rem] text-ink-2">
          A pull down a wall goes with two people, one aloft and one at the cut-out; there is one.
        </p>
      )}
    </Section>
  )
}
