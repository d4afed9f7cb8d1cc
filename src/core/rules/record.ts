import type { Finding } from '../base/finding'
import { lruCache } from '../base/memory'
import { boardProtection } from '../installation/protection'
import type { Circuit, Installation } from '../installation/installation'
import { type Cable, cableM } from '../job/cable'
import { formatLength, formatSmallLength } from '../base/format'
import { worlds } from '../region/worlds'

/* What cannot be right in a record, whatever is designed: points that no cable reaches, lengths of zero, parts that are not listed. */

/** A finding of the record with the circuit it is of; null: of the job. */
export interface RecordFinding extends Finding {
  readonly circuit: string | null
}

const nameOf = (job: Installation, id: string): string => job.points.find((p) => p.id === id)?.name ?? 'the board'
const endName = (job: Installation, e: Cable['from']): string => (e.kind === 'point' ? nameOf(job, e.id) : 'the board')

/** Whether any cable of a circuit is what the checks below look at: most are none of it, and are passed over. */
/** No cable between two points of a building is so long: a figure was mistyped. */
const DOUBTED_M = 300
const isOdd = (k: Cable): boolean =>
  !k.inside && (k.type !== null || k.metal === 'aluminium' || k.lengthM === 0 || (k.lengthM ?? 0) > DOUBTED_M)

function cableFindings(job: Installation, circuit: Circuit): RecordFinding[] {
  if (!circuit.cables.some((k) => isOdd(k) || k.stretches.length > 0)) return []
  const { cables, words, cites } = worlds[job.region]
  return circuit.cables.flatMap((k): RecordFinding[] => {
    if (k.state === 'removed' || k.inside) return []
    const where = `The ${words.cable} from ${endName(job, k.from)} to ${endName(job, k.to)}`
    const about = k.to.kind === 'point' ? { about: `point:${k.to.id}` } : {}
    const say = (rule: string, severity: Finding['severity'], message: string, clause: string): RecordFinding => ({
      rule,
      severity,
      clause,
      message,
      circuit: circuit.id,
      ...about,
    })
    const copper = circuit.designs.every((d) => d.conductor === 'copper')
    return [
      ...(k.state === 'new' && cableM(k) === 0
        ? [say('length-zero', 'warning', `${where} is recorded as 0 long. Measure its length, or leave it blank.`, 'what was recorded')]
        : []),
      ...(k.state === 'new' && circuit.kind !== 'feeder' && (cableM(k) ?? 0) > DOUBTED_M
        ? [
            say(
              'length-doubtful',
              'warning',
              `${where} is recorded as ${formatLength(cableM(k)!, worlds[job.region].units)} long, which is more than a building ` +
                'asks for. Check the figure.',
              'what was recorded',
            ),
          ]
        : []),
      ...(k.type !== null && k.state === 'new' && !cables.includes(k.type)
        ? [
            say(
              'cable-not-listed',
              'error',
              `${where} is of a type that is not listed here: “${k.type}”. Choose a listed cable type.`,
              cites.carries,
            ),
          ]
        : []),
      ...(k.metal === 'aluminium' && copper
        ? [
            say(
              'cable-aluminium',
              'error',
              `${where} is aluminium and its circuit is copper: terminals and connectors must be marked for aluminium, and its size is ` +
                'larger for the same breaker. Replace it with copper, or have it checked by a licensed electrician.',
              cites.joints,
            ),
          ]
        : []),
    ]
  })
}

const unreachedAmong = lruCache<readonly RecordFinding[]>()
/** New points that no cable reaches. */
const unreached = (job: Installation): readonly RecordFinding[] => unreachedAmong([job.points, job.record.cables], () => unreachedIn(job))
function unreachedIn(job: Installation): readonly RecordFinding[] {
  const staying = job.record.cables.filter((k) => k.state !== 'removed')
  const reached = new Set(staying.flatMap((k) => [k.from, k.to].flatMap((e) => (e.kind === 'point' ? [e.id] : []))))
  return job.points
    .filter((p) => p.state === 'new' && !reached.has(p.id))
    .map((p) => ({
      rule: 'point-unreached',
      severity: 'warning',
      clause: 'what was recorded',
      message: `${p.name} is new and no cable reaches it: it has no supply. Put it on a circuit, or remove it.`,
      about: `point:${p.id}`,
      circuit: null,
    }))
}

const aboveAmong = lruCache<readonly RecordFinding[]>()
/** Points higher than the room they are in. */
const aboveCeiling = (job: Installation): readonly RecordFinding[] =>
  aboveAmong([job.points, job.boxes, job.rooms, job.region], () => aboveCeilingIn(job))
function aboveCeilingIn(job: Installation): readonly RecordFinding[] {
  return job.record.points.flatMap((p): RecordFinding[] => {
    const box = job.boxes.find((b) => b.id === p.box)
    const height = job.rooms.find((r) => r.id === box?.room)?.measured?.heightM
    if (!box || !height || box.heightMm === null || box.heightMm <= height * 1000 + 1e-6) return []
    const { units } = worlds[job.region]
    return [
      {
        rule: 'point-above-ceiling',
        severity: 'error',
        clause: 'what was measured',
        message:
          `${nameOf(job, p.id)} is ${formatSmallLength(box.heightMm, units)} above the floor, and the ceiling of its room is at ` +
          `${formatSmallLength(height * 1000, units)}. Measure its height again.`,
        about: `point:${p.id}`,
        circuit: null,
      },
    ]
  })
}

/** A time-delayed device where 30 mA is relied on to protect people. */
function delayed(job: Installation): RecordFinding[] {
  const { metric, words } = worlds[job.region]
  if (!metric) return []
  return job.residualDevices.flatMap((d): RecordFinding[] => {
    const used = job.circuits.some((c) => {
      const behind = boardProtection(job, c)
      return behind.kind === 'device' && behind.device.id === d.id
    })
    if (!used || d.delayed !== true || d.tripMa === null || d.tripMa > 30) return []
    return [
      {
        rule: 'residual-delayed',
        severity: 'error',
        clause: metric.rcdClause,
        message:
          `${d.name || words.rcd} is time-delayed (type S) and is relied on to protect people: it trips too late. Fit a ${d.tripMa} mA ` +
          `${words.rcd} without delay.`,
        about: `device:${d.id}`,
        circuit: null,
      },
    ]
  })
}

/** Points that stay and are worked on, whose condition was not recorded. */
const unexamined = (job: Installation): readonly RecordFinding[] =>
  job.points.flatMap((p): RecordFinding[] =>
    p.state === 'altered' && p.condition === null
      ? [
          {
            rule: 'condition-not-known',
            severity: 'unknown',
            clause: 'what was recorded',
            message: `The condition of ${p.name}, which stays and is altered, is not recorded. Inspect it and enter its condition.`,
            about: `point:${p.id}`,
            circuit: null,
          },
        ]
      : [],
  )

/** What is wrong with the record whatever is designed. Pure. */
export const recordFindings = (job: Installation): readonly RecordFinding[] => [
  ...job.circuits.flatMap((c) => cableFindings(job, c)),
  ...unreached(job),
  ...aboveCeiling(job),
  ...delayed(job),
  ...unexamined(job),
]
