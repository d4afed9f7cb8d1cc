import Papa from 'papaparse'
import { applianceKinds } from '../catalogue/appliances'
import { readTyped } from '../base/typed'
import type { RegionId } from '../region/types'
import { sortDefect } from '../catalogue/defects'
import { blankPoint, conditions, type PointRecord, pointKinds, type TypedPoint } from '../job/point'
import { type Defect, type DefectCode, defectCodes, newDefect } from '../job/report'

export interface CsvRow<T> {
  /** Line in what was pasted, counted from 1. */
  readonly line: number
  readonly item: T | null
  readonly problem: string | null
}

/** Names a column may go by, first letters of a heading, in lower case. */
type Headings = Readonly<Record<string, readonly string[]>>

const pointHeadings: Headings = {
  name: ['point', 'name', 'what'],
  room: ['room', 'where', 'place'],
  kind: ['kind', 'type'],
  watts: ['load', 'watt', 'w'],
  heightMm: ['height'],
  condition: ['condition', 'state'],
  cable: ['cable'],
  appliance: ['appliance'],
}
const defectHeadings: Headings = {
  text: ['finding', 'observation', 'defect', 'text', 'description'],
  place: ['place', 'where', 'room', 'location'],
}

/** Cells by field; a first line with a known heading names the columns, else they are in the order of `headings`. */
function table(csv: string, headings: Headings): { line: number; cells: Record<string, string> }[] {
  const { data } = Papa.parse<string[]>(csv.trim(), { skipEmptyLines: 'greedy', delimitersToGuess: [',', '\t', ';', '|'] })
  const fieldOf = (heading: string) =>
    Object.entries(headings).find(([, names]) => names.some((n) => heading.trim().toLowerCase().startsWith(n)))?.[0]
  const first = data[0] ?? []
  const named = first.map(fieldOf)
  const hasHeadings =
    named[0] !== undefined &&
    first.every((c) => c.trim() === '' || fieldOf(c) !== undefined || !/\d/.test(c)) &&
    named.filter(Boolean).length >= Math.min(2, first.length)
  const columns = hasHeadings ? named : Object.keys(headings)
  return data.slice(hasHeadings ? 1 : 0).map((row, i) => ({
    line: i + (hasHeadings ? 2 : 1),
    cells: Object.fromEntries(row.flatMap((cell, k) => (columns[k] ? [[columns[k]!, cell.trim()]] : []))),
  }))
}

/** A cell in a unit; undefined: not a figure of that kind, or beyond what can be. */
const readAmount = (cell: string | undefined, unit: string): number | null | undefined => {
  if (!cell || cell === '?') return null
  const typed = readTyped(cell, unit)
  if ('error' in typed || typed.mark !== null || typed.value === null) return undefined
  return typed.value >= 0 && typed.value <= 1e6 ? typed.value : undefined
}

const kindWords: Readonly<Record<string, PointRecord['kind']>> = {
  receptacle: 'outlet',
  socket: 'outlet',
  'socket-outlet': 'outlet',
  plug: 'outlet',
  lamp: 'light',
  luminaire: 'light',
  appliance: 'fixed',
  'fixed appliance': 'fixed',
  junction: 'box',
  'junction box': 'box',
}

/** Points from a pasted table; each bad row says what is wrong with it and takes nothing else down. */
export function readPoints(csv: string, region: RegionId, newId: () => string): CsvRow<TypedPoint>[] {
  const appliances = applianceKinds(region)
  return table(csv, pointHeadings).map(({ line, cells }) => {
    const bad = (problem: string): CsvRow<TypedPoint> => ({ line, item: null, problem })
    if (!cells.name) return bad('no name')
    if (cells.name.length > 120 || (cells.room?.length ?? 0) > 120) return bad('a name or room of more than 120 letters')
    const word = (cells.kind ?? '').toLowerCase()
    const kind = word === '' ? 'outlet' : (pointKinds.find((k) => k === word) ?? kindWords[word])
    if (!kind) return bad(`“${cells.kind}” is no kind of point: ${pointKinds.join(', ')}`)
    const watts = readAmount(cells.watts, 'W')
    if (watts === undefined) return bad(`“${cells.watts}” is no load in watts`)
    const heightMm = readAmount(cells.heightMm, 'mm')
    if (heightMm === undefined) return bad(`“${cells.heightMm}” is no height in millimetres`)
    const condition = cells.condition ? conditions.find((c) => c === cells.condition!.toLowerCase()) : null
    if (condition === undefined) return bad(`“${cells.condition}” is not recognised. Enter one of: ${conditions.join(', ')}`)
    const appliance = cells.appliance
      ? (appliances.find((a) => a.id === cells.appliance || a.name.toLowerCase() === cells.appliance!.toLowerCase())?.id ?? null)
      : null
    return {
      line,
      problem: null,
      item: blankPoint(newId(), cells.name, {
        room: cells.room ?? '',
        kind,
        watts,
        heightMm,
        condition,
        appliance,
        cable: (cells.cable ?? '').slice(0, 80),
      }),
    }
  })
}

/** Findings of an inspection from a pasted table, each sorted by kind where its words say so. */
/** The code that is in a finding's words; the most urgent where there are several. */
const codeOf = (words: string): DefectCode | null => defectCodes.find((c) => new RegExp(`\\b${c}\\b`).test(words)) ?? null
/** `coded`: where reports have classification codes, one in the words is taken over. */
export function readDefects(csv: string, newId: () => string, coded = false): CsvRow<Defect>[] {
  return table(csv, defectHeadings).map(({ line, cells }) => {
    if (!cells.text) return { line, item: null, problem: 'no finding' }
    if (cells.text.length > 1000 || (cells.place?.length ?? 0) > 200) return { line, item: null, problem: 'longer than 1000 letters' }
    const code = coded ? codeOf(cells.text) : null
    const item = newDefect(newId(), cells.text, { place: cells.place ?? '', kind: sortDefect(cells.text), ...(code ? { code } : {}) })
    return { line, problem: null, item }
  })
}
