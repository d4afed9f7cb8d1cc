import type { Abbreviation, LabelsRecord, TapeMm } from '../job/label'
import { ems, LARGEST, LEADING, READ_WELL, SMALLEST } from './label-type'
import type { Label } from './labels'

/** What is left free at either edge of a tape, in millimetres. */
const EDGE_MM = 1
/** The longest piece of tape that its place takes, in millimetres: a cover is so wide, a flag on a cable may be longer. */
const MOST_MM: Readonly<Record<Label['place'], number>> = {
  'cover-outside': 85,
  'cover-inside': 85,
  'cable-board': 150,
  'cable-point': 150,
  board: 100,
  found: 120,
}
/** The least height on which a label maker prints a QR code that a telephone reads, in millimetres. */
export const LEAST_CODE_MM = 18

/** A label as it comes out of a label maker. */
export interface TapeLabel extends Label {
  /** Whether it is no longer than its place; null: it is printed on a sheet, at the size of its place. */
  readonly fits: boolean | null
}

/** Lines put together so that there are no more rows than a tape takes, the rows about as long as each other. */
function inRows(lines: readonly string[], most: number): readonly string[] {
  const rows = lines.map((l) => [l])
  while (rows.length > most) {
    const long = rows.map((r) => ems(r.join(', ')))
    // The two neighbours that make the shortest row together.
    let at = 0
    for (let i = 1; i + 1 < rows.length; i++) if (long[i]! + long[i + 1]! < long[at]! + long[at + 1]!) at = i
    rows.splice(at, 2, [...rows[at]!, ...rows[at + 1]!])
  }
  return rows.map((r) => r.join(', '))
}

/** Words put shorter, whole words alone, the longest first. */
export function abbreviated(text: string, abbreviations: readonly Abbreviation[]): string {
  const shorter = new Map(abbreviations.map(({ word, short }) => [word.toLowerCase(), short]))
  if (shorter.size === 0) return text
  const words = [...shorter.keys()].toSorted((a, b) => b.length - a.length).map((w) => w.replaceAll(/[$()*+.?[\\\]^{|}]/g, String.raw`\$&`))
  return text.replaceAll(new RegExp(`(?<![\\p{L}\\p{N}])(?:${words.join('|')})(?![\\p{L}\\p{N}])`, 'giu'), (found) =>
    shorter.get(found.toLowerCase())!,
  )
}

/**
 * A label set for a tape: in as many rows as can be read well on it, in type as large as its place allows; where that is too long for its
 * place, with the firm's abbreviations, and then in more rows of the smallest type.
 */
export function onTape(label: Label, tapeMm: TapeMm, abbreviations: readonly Abbreviation[] = []): TapeLabel {
  const high = tapeMm - 2 * EDGE_MM
  const code = label.link && tapeMm >= LEAST_CODE_MM ? high + EDGE_MM : 0
  const free = MOST_MM[label.place] - code - 2 * EDGE_MM - 1
  const short = label.lines.map((l) => abbreviated(l, abbreviations))
  const setIn = (lines: readonly string[], least: number) => {
    const rows = inRows(lines, Math.max(1, Math.floor(high / (LEADING * least) + 1e-9)))
    const long = Math.max(...rows.map(ems), 0.01)
    const size = Math.max(Math.min(LARGEST, high / (LEADING * rows.length), free / long), least)
    return { rows, widthMm: Math.ceil(long * size + code + 2 * EDGE_MM + 0.1) }
  }
  const tries = [setIn(label.lines, READ_WELL), setIn(short, READ_WELL), setIn(short, SMALLEST)]
  const { rows, widthMm } = tries.find((t) => t.widthMm <= MOST_MM[label.place]) ?? tries.at(-1)!
  return { ...label, lines: rows, heightMm: tapeMm, widthMm, edgeMm: EDGE_MM, fits: widthMm <= MOST_MM[label.place] }
}

/** Labels as they are printed: on tape or on stickers, with a code or without. @param id of the job, which the code leads to */
export function asPrinted(
  labels: readonly Label[],
  record: LabelsRecord | undefined,
  id: string,
  abbreviations: readonly Abbreviation[] = [],
): readonly TapeLabel[] {
  const address = record?.address?.replace(/\/+$/, '')
  const tapeMm = record?.tapeMm ?? null
  return labels.map((label) => {
    const to = label.circuit === null ? 'survey?sheet=points' : `circuit?sheet=this&circuit=${encodeURIComponent(label.circuit)}`
    const linked = address ? { ...label, link: `${address}/jobs/${id}/${to}` } : label
    return tapeMm === null ? { ...linked, fits: null } : onTape(linked, tapeMm, abbreviations)
  })
}

/**
 * What the code of a label leads to, as a path of this server: the address printed on it may have changed since.
 * @param text as it was read from the code @returns null where it is no label's
 */
export function labelPath(text: string): string | null {
  if (!URL.canParse(text)) return null
  const { protocol, pathname, search } = new URL(text)
  if (protocol !== 'http:' && protocol !== 'https:') return null
  return /^\/jobs\/[\w-]+\/(circuit|survey)$/.test(pathname) ? pathname + search : null
}
