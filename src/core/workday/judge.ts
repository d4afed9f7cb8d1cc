import type { Finding, Severity } from '../base/finding'
import type { Installation } from '../installation/installation'
import type { DayRecord } from '../job/day'
import type { CircuitReport, Report } from '../report/report'
import { worlds } from '../region/worlds'
import { ISOLATION_MIN } from '../schedule/day'
import { brokenRules, mostOff } from './plan'
import { type Task, tasksOf } from './tasks'

/* What is wrong with the day as it is recorded: people, hours, what waits for what, the plan taken over, and signatures. */

const CLAUSE = 'the day as recorded'
const finding = (rule: string, severity: Severity, message: string, more: Partial<Finding> = {}): Finding => ({
  rule,
  severity,
  clause: CLAUSE,
  message,
  ...more,
})

/** Findings of the stage of the day; none while no day is recorded. */
export function dayFindings(job: Installation, report: Pick<Report, 'circuits' | 'byCircuit'>): readonly Finding[] {
  const { day } = job
  if (!day) return []
  const tasks = tasksOf(job, report)
  return [
    ...holdPoints(job, day, tasks),
    ...hours(day, tasks),
    ...people(day, tasks),
    ...tooLong(day, tasks),
    ...waits(day, tasks),
    ...plan(day, tasks),
    ...signed(job, day, report),
  ]
}

/** Walls that are closed over new cable, where nobody is to look before. */
function holdPoints(job: Installation, day: DayRecord, tasks: readonly Task[]): Finding[] {
  const closes = tasks.some((t) => t.kind === 'close')
  if (!closes || day.own.some((t) => t.kind === 'hold')) return []
  return [
    finding(
      'day-no-hold-point',
      'note',
      'Walls or ceilings are closed over new cable. Where a permit or the customer asks for an inspection before that, put a hold ' +
        'point into the day: nothing is closed before it is passed.',
      { clause: worlds[job.region].cites.hidden },
    ),
  ]
}

function hours(day: DayRecord, tasks: readonly Task[]): Finding[] {
  const length = day.endMin - day.startMin
  if (length <= 0) return [finding('day-no-hours', 'error', 'The day ends before it begins. Enter its start and end again.')]
  const longest = tasks.reduce<Task | null>((most, t) => (most === null || t.minutes > most.minutes ? t : most), null)
  if (!longest || longest.minutes <= length) return []
  return [
    finding(
      'day-too-short',
      'error',
      `The day is ${length} minutes long and “${longest.name}” takes ${longest.minutes} minutes. Lengthen the day or divide the task.`,
    ),
  ]
}

function people(day: DayRecord, tasks: readonly Task[]): Finding[] {
  const able = day.people.filter((p) => !p.helper).length
  const skilled = tasks.find((t) => t.skilled > 0)
  const most = day.people.length
  const without = day.people.find((p) => p.fromMin != null && p.untilMin != null && p.untilMin <= p.fromMin)
  return [
    ...(skilled && able === 0
      ? [
          finding(
            'day-no-electrician',
            'error',
            `Everyone on the day is a helper, and “${skilled.name}” is electrical work. Add a person who does electrical work.`,
          ),
        ]
      : []),
    ...day.own
      .filter((t) => t.people > most)
      .map((t) =>
        finding(
          'day-too-few-people',
          'error',
          `“${t.name}” asks for ${t.people} people and the day has ${most}. Add people or plan it with fewer.`,
          { about: `task:${t.id}` },
        ),
      ),
    ...(without
      ? [finding('day-person-no-hours', 'error', `${without.name || 'One person'} leaves before arriving. Enter the hours again.`)]
      : []),
  ]
}

/** How long somebody is there, in minutes. */
const thereMin = (day: DayRecord, { fromMin, untilMin }: DayRecord['people'][number]): number =>
  Math.min(untilMin ?? day.endMin, day.endMin) - Math.max(fromMin ?? day.startMin, day.startMin)

/** Tasks that nobody is there long enough for, that their own window is too short for, or that the supply may not be off for. */
function tooLong(day: DayRecord, tasks: readonly Task[]): Finding[] {
  const length = day.endMin - day.startMin
  const longestOf = (people: DayRecord['people']) => Math.max(0, ...people.map((p) => thereMin(day, p)))
  const [anybody, able] = [longestOf(day.people), longestOf(day.people.filter((p) => !p.helper))]
  // What is longer than the day is said already.
  const within = length > 0 ? tasks.filter((t) => t.minutes <= length) : []
  const left = within.find((t) => t.people > 0 && t.minutes > (t.skilled > 0 ? able : anybody) && (t.skilled === 0 || able > 0))
  const most = mostOff(day)
  const off = most === null ? undefined : within.find((t) => t.power === 'off' && t.minutes > most - ISOLATION_MIN)
  return [
    ...(left
      ? [
          finding(
            'day-person-leaves',
            'error',
            `“${left.name}” takes ${left.minutes} minutes, longer than anyone who may do it is there. Change the hours of a person, or ` +
              'divide the task.',
          ),
        ]
      : []),
    ...(off
      ? [
          finding(
            'day-off-too-short',
            'error',
            `The supply may be off ${most} minutes at a time, ${ISOLATION_MIN} of them to isolate it and prove it dead, and ` +
              `“${off.name}” takes ${off.minutes}. Agree on longer, or divide the task.`,
          ),
        ]
      : []),
    ...day.own
      .filter((t) => t.earliestMin !== null && t.latestMin !== null && t.latestMin - t.earliestMin < t.minutes)
      .map((t) =>
        finding(
          'day-window-too-short',
          'error',
          `“${t.name}” takes ${t.minutes} minutes and has ${Math.max(0, t.latestMin! - t.earliestMin!)} between its earliest start and ` +
            'its latest end. Change the times.',
          { about: `task:${t.id}` },
        ),
      ),
  ]
}

/** Tasks of one's own that wait for what is not there, or for each other, round and round. */
function waits(day: DayRecord, tasks: readonly Task[]): Finding[] {
  const byId = new Map(day.own.map((t) => [t.id, t]))
  const known = new Set(tasks.map((t) => t.id))
  const lost = day.own.find((t) => t.after.some((a) => !known.has(a)))
  if (lost)
    return [
      finding(
        'day-waits-for-nothing',
        'warning',
        `“${lost.name}” waits for a task that is not on the day any more. Choose again what it comes after.`,
        {
          about: `task:${lost.id}`,
        },
      ),
    ]
  for (const start of day.own) {
    const seen = new Set<string>()
    const next = [...start.after]
    for (const id of next) {
      if (id === start.id)
        return [
          finding('day-waits-for-itself', 'error', `“${start.name}” waits for a task that waits for it. Take one of the two waits off.`, {
            about: `task:${start.id}`,
          }),
        ]
      if (seen.has(id)) continue
      seen.add(id)
      next.push(...(byId.get(id)?.after ?? []))
    }
  }
  return []
}

function plan(day: DayRecord, tasks: readonly Task[]): Finding[] {
  if (!day.planned) return []
  const known = new Set(tasks.map((t) => t.id))
  const gone = day.planned.tasks.filter((t) => !known.has(t.id)).length
  const broken = [
    ...(gone ? [`${gone} of its tasks ${gone === 1 ? 'is' : 'are'} not in the job any more.`] : []),
    ...brokenRules(day.planned, tasks, day),
  ]
  return broken.length
    ? [
        finding(
          'day-plan-broken',
          'error',
          `The plan of the day does not hold: ${broken.slice(0, 3).join(' ')}` +
            `${broken.length > 3 ? ` And ${broken.length - 3} more.` : ''} Plan it again.`,
        ),
      ]
    : []
}

const isolated = ({ testReport }: CircuitReport): boolean => testReport.phase.isolation.met
/** Isolation that was signed for a circuit that is not there, or that nothing proved dead. */
function signed(job: Installation, day: DayRecord, { byCircuit }: Pick<Report, 'byCircuit'>): Finding[] {
  return day.signatures.flatMap((s) => {
    const who = s.name || 'Someone'
    const gone = s.circuits.find((id) => !byCircuit.has(id))
    if (gone !== undefined)
      return [
        finding(
          'signed-no-circuit',
          'error',
          `${who} signed an isolation card for a circuit that is not in the job. Sign the card as it is now.`,
        ),
      ]
    return s.circuits.flatMap((id) => {
      const c = byCircuit.get(id)!
      if (isolated(c)) return []
      const words = `${who} signed the isolation of ${c.circuit.name}, and it is not proved dead: its isolation tests are not recorded.`
      return [finding('signed-not-proved', 'error', `${words} Do not start work until they are.`, { about: `circuit:${id}` })]
    })
  })
}
