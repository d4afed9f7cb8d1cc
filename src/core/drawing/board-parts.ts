import type { Installation } from '../installation/installation'
import type { Way } from '../job/board'
import { sentence } from '../job/part'
import { formatA } from '../base/format'
import { worlds } from '../region/worlds'
import { boardName, type BoardReport, spacesOf } from '../survey/board'
import type { WayLoad } from '../survey/traced'
import { type Drawing, fitText, type Shape, text } from './shape'

/** A new circuit that is to be in a board: the spaces it was given, and what it is behind as `Circuit.behind` has it. */
export interface Planned {
  readonly name: string
  readonly spaces: readonly number[]
  readonly behind: string | null
}

/** What a board is drawn from. */
export interface BoardFacts {
  readonly job: Installation
  readonly report: BoardReport
  readonly loads: readonly WayLoad[]
  readonly proved: ReadonlySet<string>
  readonly planned?: readonly Planned[]
  /** In an outage: what is switched off, what is dead with it, and what stays alive. */
  readonly outage?: ReadonlyMap<string, 'opened' | 'dead' | 'live'>
}
const outageWords = { opened: 'OFF, LOCKED', dead: 'dead', live: 'STAYS LIVE' } as const
/** What is said of a way in an outage; undefined: there is none. */
export const inOutage = ({ outage }: BoardFacts, w: Pick<Way, 'id'>) => {
  if (!outage) return undefined
  const state = outage.get(w.id) ?? 'live'
  return { words: outageWords[state], fill: state === 'live' ? 'wash' : 'paper', width: state === 'opened' ? 4 : 1.5 } as const
}

export const rating = (w: Way): string => (w.ratingA === null ? '? A' : `${w.curve ?? ''}${formatA(w.ratingA)}`)
export const fedWords = (facts: BoardFacts, w: Way): string => {
  const { job, loads, proved } = facts
  const off = inOutage(facts, w)
  if (off) return off.words
  if (w.kind === 'feeder') return `feeds ${boardName(job.region, job.boards.find((b) => b.fedFrom === w.id) ?? { name: 'another board' })}`
  if (w.kind === 'source') return 'a source: feeds back'
  const load = loads.find((l) => l.way.id === w.id)
  if (!load || load.points.length === 0) return proved.has(w.id) ? 'feeds nothing found' : 'not proved'
  const names = load.points.map((p) => job.points.find((x) => x.id === p)?.name ?? p)
  return names.join(', ')
}
export const wayInWords = (facts: BoardFacts, w: Way): string =>
  `${w.label}, ${rating(w)}${w.poles === 2 ? ', two-pole' : ''}: ${fedWords(facts, w)}`

/** The main switch in an outage. */
export const mainInOutage = (facts: BoardFacts) =>
  facts.report.board.fedFrom === null && facts.outage?.has(MAIN_SWITCH) ? inOutage(facts, { id: MAIN_SWITCH }) : undefined
const MAIN_SWITCH = 'main'
/** "MAIN 100 A", or that it is off. */
export const mainWords = (facts: BoardFacts): string => {
  const off = mainInOutage(facts)
  return off && off.words !== outageWords.live ? 'MAIN OFF' : `MAIN ${amperes(facts.report.board.mainA)}`
}

/** A drawing as it grows: its shapes, and what each part is. */
export interface Sheet {
  readonly shapes: Shape[]
  readonly parts: Record<string, string>
}
export const drawn = ({ shapes, parts }: Sheet, { job }: BoardFacts, width: number, height: number): Drawing => ({
  width,
  height,
  title: `The ${worlds[job.region].words.board} as found`,
  shapes,
  parts,
  ring: 'box',
})

/** The board's name, in this world's words where it has none of its own. */
export const nameOf = ({ job, report }: BoardFacts): string =>
  boardName(job.region, report.board, report.board.fedFrom === null ? job.supply.board : '')
export const amperes = (a: number | null): string => (a === null ? '? A' : formatA(a))

/** What is in a space that no way takes: a new circuit, nothing, or not known. */
export interface Space {
  readonly words: string
  readonly said: string
  readonly given: boolean
}
export function spaceIn({ job, report, planned }: BoardFacts, space: number): Space {
  const called = sentence(worlds[job.region].words.space)
  const given = planned?.find((p) => p.spaces.includes(space))
  if (given) return { words: `new: ${given.name}`, said: `${called} ${space}, for ${given.name}`, given: true }
  const seen = report.board.free?.includes(space) === true ? 'free' : 'not checked'
  return { words: seen, said: `${called} ${space}, ${seen}`, given: false }
}

/** Ways by the spaces they are in, and those whose place was not noted, or is another's too. */
export function placedWays({ job, report }: BoardFacts) {
  const taken = new Set<string>()
  const placed: { readonly way: Way; readonly spaces: readonly number[] }[] = []
  const loose: Way[] = []
  for (const way of report.ways) {
    const spaces = spacesOf(job.region, way)
    const halves = spaces.flatMap((s) => (way.half === null ? [`${s}a`, `${s}b`] : [`${s}${way.half}`]))
    if (spaces.length === 0 || halves.some((h) => taken.has(h))) loose.push(way)
    else {
      placed.push({ way, spaces })
      for (const h of halves) taken.add(h)
    }
  }
  return { placed, loose }
}
export const LOOSE = 'Place not noted, or another’s too'
export const spaceWords = (way: Way): string => (way.position === null ? '?' : String(way.position))

interface Place {
  readonly x: number
  readonly y: number
  readonly w: number
  readonly h: number
  /** The way's number is at the right, towards the spine. */
  readonly left: boolean
  readonly number: string
}

/** A way in its space, two lines of words where there is room for them. */
export function drawCell(facts: BoardFacts, { shapes, parts }: Sheet, w: Way, at: Place): void {
  const part = `way:${w.id}`
  parts[part] = wayInWords(facts, w)
  const off = inOutage(facts, w)
  const trusted = off !== undefined || facts.proved.has(w.id)
  shapes.push({
    kind: 'rect',
    x: at.x,
    y: at.y,
    w: at.w,
    h: at.h,
    r: 2,
    fill: off?.fill ?? (w.kind === 'spare' ? 'paper' : 'wash'),
    stroke: 'ink',
    width: off?.width ?? 1.5,
    part,
  })
  const middle = at.y + at.h / 2
  const small = at.h < 30
  const numberW = 40 + 9 * Math.max(0, at.number.length - 2)
  const inner = at.left ? at.x + at.w - 8 : at.x + 8
  shapes.push(text(inner, middle + 7, at.number, small ? 14 : 19, { anchor: at.left ? 'end' : 'start', bold: true, part }))
  const ratingX = at.left ? at.x + at.w - numberW - 10 : at.x + numberW + 10
  shapes.push(text(ratingX, middle + 6, rating(w), small ? 13.6 : 17, { anchor: at.left ? 'end' : 'start', bold: true, part }))
  const wordsX = at.left ? at.x + 8 : at.x + numberW + 84
  const wordsW = at.w - numberW - 92
  if (small)
    shapes.push(
      text(
        wordsX,
        middle + 5,
        fitText(off ? `${off.words}: ${w.label}` : `${w.label}${trusted ? '' : ' (not trusted)'}`, wordsW, 13.6),
        13.6,
        { part },
      ),
    )
  else {
    shapes.push(text(wordsX, middle - 3, fitText(w.label, wordsW, 15), 15, { bold: true, part }))
    shapes.push(
      text(wordsX, middle + 15, fitText(trusted || w.kind !== 'circuit' ? fedWords(facts, w) : 'label not trusted', wordsW, 13.6), 13.6, {
        fill: 'ink2',
        part,
      }),
    )
  }
}
