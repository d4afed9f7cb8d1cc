import type { StageId } from '../report/stages'
import { formatA } from '../base/format'
import type { Installation } from '../installation/installation'
import type { Reading } from '../job/reading'
import { boardName, spacesOf } from '../survey/board'
import { evaluateSurvey, proofOf } from '../survey/traced'
import type { Photograph } from '../verify/photograph'

/** Something in a job that words were found in, with what one usually wants to know of it. */
export interface Hit {
  readonly what: 'Point' | 'Way' | 'Circuit' | 'Reading' | 'Photograph'
  readonly name: string
  readonly says: string
  readonly stage: StageId
  readonly circuit: string | null
}
const MOST = 5

/** The words of a search, as they are looked for: in small letters, numbers whole. */
export const wordsOf = (search: string): readonly string[] => search.toLowerCase().match(/\d+(?:[.,]\d+)?|[\p{L}\p{N}]+/gu) ?? []
/** Whether every word begins some word of a text. */
const holds = (text: string, words: readonly string[]): boolean => {
  const own = wordsOf(text)
  return words.every((w) => own.some((o) => o.startsWith(w)))
}

/** A way of a board, by its place and its label. */
function wayWords(job: Installation, way: Installation['ways'][number]): string {
  const place = way.position === null ? 'a way whose place is not recorded' : `way ${spacesOf(job.region, way).join('-')}${way.half ?? ''}`
  const board = job.boards.find((b) => b.id === way.board)
  const of = board ? ` of ${boardName(job.region, board, board.id === job.boards[0]?.id ? job.supply.board : '')}` : ''
  const label = way.label ? `, labelled “${way.label}”` : ''
  const rating = way.ratingA === null ? '' : `, ${way.curve ?? ''}${formatA(way.ratingA)}`
  return `${place}${of}${label}${rating}`
}

const proofWords = { seen: 'switched off and seen', told: 'as someone said', 'left-over': 'left over, not switched off' } as const
/** What feeds a point, and how that is known. */
function fedBy(job: Installation, point: string): string {
  const of = job.circuitOfPoint.get(point)
  const circuit = job.circuits.find((c) => c.id === of)
  if (circuit) {
    const [way] = circuit.ways
    return `fed by ${circuit.name}${way ? `, ${wayWords(job, way)}` : ', on no way yet'}`
  }
  const load = evaluateSurvey(job).loads.find((l) => l.points.includes(point))
  return load ? `fed from ${wayWords(job, load.way)} (${proofWords[proofOf(load) ?? 'left-over']})` : 'what feeds it is not traced'
}

interface Besides {
  readonly readings: readonly Reading[]
  readonly photographs: readonly Photograph[]
}
/** Where in a job the words of a search are, points first, a few at the most. Pure. */
export function hitsOf(job: Installation, { readings, photographs }: Besides, search: string): readonly Hit[] {
  const words = wordsOf(search)
  if (words.length === 0) return []
  const nameOf = new Map([...job.points.map((p) => [p.id, p.name] as const), ...job.circuits.map((c) => [c.id, c.name] as const)])
  const points = job.points.flatMap((p): Hit[] => {
    const circuit = job.circuitOfPoint.get(p.id) ?? null
    if (!holds(`${p.name} ${p.room ?? ''} ${circuit === null ? '' : (nameOf.get(circuit) ?? '')}`, words)) return []
    const name = [p.name, p.room].filter(Boolean).join(', ')
    return [{ what: 'Point', name, says: fedBy(job, p.id), stage: circuit === null ? 'survey' : 'circuit', circuit }]
  })
  const circuits = job.circuits.flatMap((c): Hit[] => {
    if (!holds(`${c.name} ${c.load.name}`, words)) return []
    const [way] = c.ways
    return [{ what: 'Circuit', name: c.name, says: way ? wayWords(job, way) : 'on no way yet', stage: 'circuit', circuit: c.id }]
  })
  const ways = job.ways.flatMap((w): Hit[] =>
    w.label && holds(w.label, words) ? [{ what: 'Way', name: w.label, says: wayWords(job, w), stage: 'survey', circuit: null }] : [],
  )
  const read = readings.flatMap((r): Hit[] => {
    const value = r.value === null ? (r.mark ?? '') : `${r.value} ${r.unit}`
    const at = [nameOf.get(r.circuit), r.point === null ? '' : nameOf.get(r.point)].filter(Boolean).join(', ')
    const test = r.test.replaceAll('-', ' ')
    if (!holds(`${test} ${value} ${at} ${r.instrument} ${r.note} ${r.by}`, words)) return []
    const says = [value, r.at.slice(0, 10), r.by, r.instrument, r.note].filter(Boolean).join(', ')
    return [{ what: 'Reading', name: `${test}, ${at}`, says, stage: 'test', circuit: r.circuit }]
  })
  const pictured = photographs.flatMap((p): Hit[] =>
    !p.out && holds(`${p.words} ${p.marks.map((m) => m.words).join(' ')} ${nameOf.get(p.of.id) ?? ''}`, words)
      ? [
          {
            what: 'Photograph',
            name: p.words || 'nothing was said of it',
            says: [p.at.slice(0, 10), p.by].filter(Boolean).join(', '),
            stage: 'handover',
            circuit: null,
          },
        ]
      : [],
  )
  return [...points, ...circuits, ...ways, ...read, ...pictured].slice(0, MOST)
}
