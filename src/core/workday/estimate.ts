import { type Installation, pointsThere } from '../installation/installation'
import type { Learnt } from './log'
import type { Task } from './tasks'

interface Choice {
  readonly id: string
  readonly label: string
  /** Minutes added to the best, the likely and the worst case. */
  readonly adds: readonly [best: number, likely: number, worst: number]
}
export interface TimeQuestion {
  readonly id: string
  readonly ask: string
  readonly choices: readonly Choice[]
}

const choice = (id: string, label: string, best: number, likely: number, worst: number): Choice => ({
  id,
  label,
  adds: [best, likely, worst],
})

/** What makes a small job long, asked before a price is given. Figures are ours: compare them with your own logbook. */
export const timeQuestions: readonly TimeQuestion[] = [
  {
    id: 'walls',
    ask: 'What are the walls and ceilings on the route?',
    choices: [
      choice('open', 'Open framing or surface run', 0, 0, 20),
      choice('board', 'Finished board on studs', 30, 60, 150),
      choice('masonry', 'Plastered brick, block or stone', 60, 120, 300),
    ],
  },
  {
    id: 'crowd',
    ask: 'How many cables and switches are in that wall already?',
    choices: [choice('none', 'None', 0, 0, 10), choice('few', 'One or two', 0, 15, 60), choice('many', 'More', 15, 45, 150)],
  },
  {
    id: 'floor',
    ask: 'On which floor is the board, seen from the work?',
    choices: [choice('same', 'The same', 0, 0, 15), choice('next', 'One up or down', 20, 45, 120), choice('far', 'Farther', 45, 90, 240)],
  },
  {
    id: 'above',
    ask: 'Is there a loft, a cellar or a crawl space to run in?',
    choices: [
      choice('walk', 'Yes, one can walk in it', 0, 0, 20),
      choice('crawl', 'Yes, crawling, or in insulation', 20, 45, 120),
      choice('none', 'None', 45, 90, 240),
    ],
  },
  {
    id: 'trust',
    ask: 'Are the circuits there traced and sound?',
    choices: [
      choice('traced', 'Traced and tested', 0, 0, 15),
      choice('labels', 'Labels only', 15, 45, 150),
      choice('old', 'Old, or found faulty', 45, 120, 360),
    ],
  },
  {
    id: 'people',
    ask: 'Who is in the way?',
    choices: [
      choice('empty', 'Unoccupied: free to switch off', 0, 0, 15),
      choice('used', 'People live or work there', 15, 30, 90),
      choice('limits', 'Power may be off only at set times', 30, 75, 240),
    ],
  },
]

export interface Estimate {
  readonly bestH: number
  readonly likelyH: number
  readonly worstH: number
  /** (best + 4 × likely + worst) / 6. */
  readonly expectedH: number
  /** The two facts that widen the range most, widest first, with how much of it each makes. */
  readonly wideners: readonly { readonly question: TimeQuestion; readonly answer: string | null; readonly hours: number }[]
  readonly basis: readonly string[]
}

/** An unanswered question spans from its easiest to its hardest answer. */
function adds(question: TimeQuestion, answer: string | undefined): readonly [number, number, number] {
  const found = question.choices.find((c) => c.id === answer)
  if (found) return found.adds
  const [easy, middle, hard] = question.choices
  return [easy!.adds[0], middle!.adds[1], hard!.adds[2]]
}

/** How far a task spreads about what is expected of it, where the firm’s log does not say so yet: of ours. */
const USUAL_SPREAD = { best: 0.7, worst: 1.6 }
/** A run of which nobody knows the length spans from a third of what is presumed to twice of it. */
const UNKNOWN_RUN = { best: 1 / 3, worst: 2 }
/** Questions that a way through the building answers: what it asks for is in the minutes of its tasks. */
const answeredByWays: readonly string[] = ['walls', 'floor', 'above']

/** Minutes of one person for a task: best, likely, worst; by what the log says of its kind where it says enough. */
function spanOfTask(t: Task, log: ReadonlyMap<string, Learnt>): readonly [number, number, number] {
  const minutes = t.minutes * Math.max(1, t.people)
  // What is done by others, waited for or promised is nobody’s work here.
  if (t.circuit === null && t.kind !== 'work' && t.kind !== 'clear' && t.kind !== 'remove') return [0, 0, 0]
  if (t.from === 'own' || t.from === 'said') return [minutes, minutes, minutes]
  const known = log.get(t.kind)
  const spread = known ? { best: known.low, likely: known.factor, worst: known.high } : { ...USUAL_SPREAD, likely: 1 }
  const run = t.presumed ? UNKNOWN_RUN : { best: 1, worst: 1 }
  return [minutes * spread.best * run.best, minutes * spread.likely, minutes * spread.worst * run.worst]
}

/**
 * Hours of one person for the whole job: best, likely and worst, and what to find out to narrow them. The tasks of the design with their
 * minutes, what tracing and the report leave to do, and the questions of the survey: one range for all who ask.
 */
export function estimateTime(job: Installation, tasks: readonly Task[], log: readonly Learnt[] = []): Estimate {
  const said = new Map(log.filter((l) => l.enough).map((l) => [l.kind as string, l]))
  const work = tasks.map((t) => spanOfTask(t, said))
  const defects = job.defects.filter((d) => d.state === 'work').length
  const there = pointsThere(job.points)
  const untraced =
    there.length -
    new Set(
      job.observations
        .filter((s) => !s.withdrawn && s.seen.kind === 'disconnected')
        .map((s) => (s.seen.kind === 'disconnected' ? s.seen.point : '')),
    ).size
  const tracing: readonly [number, number, number] = there.length
    ? [4 * Math.max(0, untraced) * 0.5, 4 * Math.max(0, untraced), 8 * Math.max(0, untraced)]
    : [0, 0, 0]
  const laid = job.circuits.flatMap((c) => c.cables.filter((k) => k.state !== 'existing'))
  const routed = laid.length > 0 && laid.every((k) => k.route)
  const questions = routed ? timeQuestions.filter((q) => !answeredByWays.includes(q.id)) : timeQuestions
  const asked = questions.map((q) => ({ question: q, answer: job.answers[q.id], span: adds(q, job.answers[q.id]) }))
  const spans = [...work, tracing, [30 * defects, 60 * defects, 150 * defects] as const, ...asked.map((a) => a.span)]
  const sum = (k: 0 | 1 | 2) => spans.reduce((total, s) => total + s[k], 0) / 60
  const [bestH, likelyH, worstH] = [sum(0), sum(1), sum(2)]
  const wideners = asked
    .map((a) => ({
      question: a.question,
      answer: a.question.choices.find((c) => c.id === a.answer)?.label ?? null,
      hours: (a.span[2] - a.span[0]) / 60,
    }))
    .toSorted((a, b) => b.hours - a.hours)
    .slice(0, 2)
  const presumed = tasks.filter((t) => t.presumed).length
  const jobs = Math.max(0, ...[...said.values()].map((l) => l.jobs))
  return {
    bestH,
    likelyH,
    worstH,
    expectedH: (bestH + 4 * likelyH + worstH) / 6,
    wideners,
    basis: [
      `${tasks.length} ${tasks.length === 1 ? 'task' : 'tasks'} of the day${presumed ? `, ${presumed} on a presumption` : ''}`,
      ...(said.size ? [`what ${jobs} jobs of the firm took`] : ['a spread of ours']),
      ...(routed ? ['the routes through the building'] : []),
      ...(untraced > 0 && there.length ? [`${untraced} boxes not opened while tracing`] : []),
      ...(defects ? [`${defects} findings of the report added to this job`] : []),
    ],
  }
}
