import 'server-only'
import { tmpdir } from 'node:os'
import path from 'node:path'
import pdfmake from 'pdfmake'
import type { Content, ContentText, Style, TableCell } from 'pdfmake/interfaces'
import type { Drawing, TextShape } from '@/core/drawing/shape'
import { svgFile } from '@/core/drawing/svg'
import type { RegionId } from '@/core/region/types'
import { worlds } from '@/core/region/worlds'
import { type FaceRun, faces, inFaces } from './faces'

pdfmake.setFonts(faces)
// Papers are made of what is on this machine, and of nothing that a text names.
pdfmake.setUrlAccessPolicy(() => false)
const shipped = new Set(Object.values(faces).flatMap((f) => [f.normal, f.bold]))
/** Folders in which pictures are made for a paper begin so. */
export const PICTURES = path.join(tmpdir(), 'synthema-')
pdfmake.setLocalAccessPolicy((file) => shipped.has(file) || (file.startsWith(PICTURES) && /\/[\da-f]+\.jpg$/.test(file)))

/** Reports the part of a paper that is written, from 0 to 1; laying it out, before, reports nothing. */
export const tellProgress = (tell: (part: number) => void): void => pdfmake.setProgressCallback(tell)

const MARGIN = 44
const WIDE = { A4: 595.28 - 2 * MARGIN, LETTER: 612 - 2 * MARGIN }
const quiet: Style = { color: '#444444', fontSize: 9.5 }

/** A word too long for a column of a table is broken wherever its line ends; signs that are pairs of codes are not. */
const inPieces = (r: FaceRun): ContentText[] =>
  r.text.split(/(\S{31,})/).flatMap((text, i) => {
    if (text === '') return []
    return [{ text, font: r.face, ...(i % 2 && r.face !== 'Signs' ? { wordBreak: 'break-all' as const } : {}) }]
  })

/** Words in whatever script they were typed. */
export function words(text: string, style: Style = {}): ContentText {
  const runs = inFaces(text, 'Text').flatMap(inPieces)
  return runs.length === 1 ? { ...style, ...runs[0]! } : { ...style, text: runs }
}
export const title = (text: string, fontSize = 22): Content => words(text, { fontSize, bold: true })
export const quietly = (text: string, style: Style = {}): Content => words(text, { ...quiet, ...style })
/** A heading that other pages point to. */
export interface Anchor {
  readonly text: string
  readonly id: string
}
const heading = (over: string | Anchor): ContentText => {
  const style: Style = { fontSize: 14, bold: true, margin: [0, 14, 0, 1] }
  return typeof over === 'string' ? words(over, style) : ({ ...words(over.text, style), id: over.id } as ContentText)
}
/** The number of the page an anchor is on; last in its sentence, as room is kept for a longer one. */
export const onPageOf = ({ id }: Anchor): Content => ({ pageReference: id, font: 'Text' })

/** A drawing on paper, `width` points wide. */
export const figure = (drawing: Drawing, width: number): Content => ({ svg: svgFile(drawing, svgText), width, margin: [0, 2, 0, 2] })

const svgText = (s: TextShape) => inFaces(s.text, s.mono ? 'Mono' : 'Text').map((r) => ({ text: r.text, family: r.face }))

const line = (black: number) => ({
  hLineWidth: (i: number) => (i === 0 ? 0 : i <= black ? 1 : 0.5),
  hLineColor: (i: number) => (i <= black ? '#000000' : '#bbbbbb'),
  vLineWidth: () => 0,
  paddingLeft: () => 0,
  paddingRight: () => 4,
  paddingTop: () => 2,
  paddingBottom: () => 2,
})

const spanning = (cell: Content, columns: number): TableCell[] => [
  { ...(cell as object), colSpan: columns } as TableCell,
  ...Array.from({ length: columns - 1 }, () => ({})),
]

interface Rows {
  readonly title?: string | Anchor
  readonly widths: readonly (number | string)[]
  readonly names?: readonly string[]
  readonly rows: readonly (readonly Content[])[]
}

/** Rows with their heading above; heading and names go with the first row and are repeated on each page the rows run on to. */
function table({ title: over, widths, names, rows }: Rows): Content {
  const head = [
    ...(over === undefined ? [] : [spanning(heading(over), widths.length)]),
    ...(names ? [names.map((n) => words(n, { color: '#444444' }))] : []),
  ]
  const body = [...head, ...(rows.length ? rows : [widths.map(() => '')])] as TableCell[][]
  return {
    table: { widths: [...widths], headerRows: head.length, keepWithHeaderRows: 1, dontBreakRows: true, body },
    layout: line(head.length),
    // Rows that run on without their heading would be read without it.
    ...(head.length && rows.length <= KEPT_ROWS ? { unbreakable: true } : {}),
  }
}
/** Rows kept whole under their heading; more of them run on over the pages. */
const KEPT_ROWS = 6

/** Names and values; those without a value are left out. */
export const pairs = (rows: readonly (readonly [string, string])[], first = 150, over?: string | Anchor): Content =>
  table({
    ...(over === undefined ? {} : { title: over }),
    widths: [first, '*'],
    rows: rows.filter(([, value]) => value !== '').map(([name, value]) => [words(name, { color: '#444444' }), words(value)]),
  })

export interface Column {
  readonly name: string
  readonly flex: number
}

/** A table as wide as the paper, its columns sharing the width. */
export function columns(region: RegionId, list: readonly Column[], rows: readonly (readonly string[])[], over?: string): Content {
  const whole = list.reduce((sum, c) => sum + c.flex, 0)
  const wide = WIDE[worlds[region].words.paper]
  return table({
    ...(over === undefined ? {} : { title: over }),
    widths: list.map((c) => (wide * c.flex) / whole - 4),
    names: list.map((c) => c.name),
    rows: rows.map((r) => r.map((cell) => words(cell))),
  })
}

/** A block under its heading, not parted from it; what follows may be on the next page. */
export const headed = (over: string | Anchor, first: Content, ...rest: Content[]): Content[] => [
  { stack: [underlined(over), first], unbreakable: true },
  ...rest,
]
const underlined = (over: string | Anchor): Content => ({
  table: { widths: ['*'], body: [[heading(over)]] },
  layout: line(1),
  margin: [0, 0, 0, 3],
})

/** Drawings under their headings, each drawn once in a paper: where the same is wanted again, it says on which page it is. */
export function drawnOnce() {
  const drawn = new Map<string, Anchor>()
  return (over: string, drawing: Drawing, width: number): Content[] => {
    const same = JSON.stringify(drawing)
    const before = drawn.get(same)
    if (before) return headed(over, { text: [words('The same as on page '), onPageOf(before)] })
    const here = { text: over, id: `drawing ${drawn.size + 1}` }
    drawn.set(same, here)
    return headed(here, figure(drawing, width))
  }
}

/** What must not be overlooked. */
export const boxed = (text: string): Content => ({
  table: { widths: ['*'], body: [[words(text, { bold: true, margin: [4, 4, 4, 4] })]] },
  layout: { hLineWidth: () => 2, vLineWidth: () => 2 },
  margin: [0, 8, 0, 0],
})

/** Blocks side by side as they fit, row by row, each with the width it needs. */
export function sideBySide(region: RegionId, blocks: readonly { readonly width: number; readonly block: Content }[]): Content[] {
  const wide = WIDE[worlds[region].words.paper]
  const GAP = 10
  const rows: { width: number; block: Content }[][] = []
  let left = 0
  for (const b of blocks) {
    if (rows.length === 0 || b.width + GAP > left) {
      rows.push([])
      left = wide
    }
    rows.at(-1)!.push(b)
    left -= b.width + GAP
  }
  return rows.map((row) => ({
    columns: row.map(({ width, block }) => ({ width, stack: [block] })),
    columnGap: GAP,
    unbreakable: true,
    margin: [0, 0, 0, GAP],
  }))
}

export interface Paper {
  readonly region: RegionId
  readonly title: string
  readonly place: string
  readonly date: string
  readonly revision: number
  /** Puts a sentence into the words of the job's world. */
  readonly worded: (text: string) => string
  /** Type to be read at arm's length. */
  readonly large?: boolean
  /** The number of the job, at the head of each page but the first. */
  readonly number?: string
}

/** What is not parted by the end of a page. */
export const together = (...stack: Content[]): Content => ({ stack, unbreakable: true })

/** The heading of a part of a document, which its contents and the reader’s bookmarks lead to. */
export const part = (text: string): Content =>
  ({
    ...words(text, { fontSize: 20, bold: true }),
    tocItem: true,
    tocStyle: { fontSize: 11 },
    outline: true,
    outlineText: text,
  }) as Content
/** The parts of a document with their pages. */
export const contents = (over: string): Content =>
  ({ toc: { title: words(over, { fontSize: 14, bold: true, margin: [0, 14, 0, 4] }) } }) as Content

/** What a paper is written from: each of its sections begins a page. */
export interface Document {
  readonly paper: Paper
  readonly sections: readonly (readonly Content[])[]
  readonly name: string
}

/** Keys under which a block of a document holds text or further blocks. */
const HOLDING = ['text', 'outlineText', 'stack', 'columns', 'ul', 'ol', 'table', 'body', 'toc', 'title'] as const

/** What a person wrote, which is put into no other words. */
export const asWritten = (text: string): Content => ({ ...(words(text) as object), asWritten: true }) as unknown as Content

/** A document in the words of a world, but for what a person wrote. */
function inWords<T>(worded: Paper['worded'], content: T): T {
  if (typeof content === 'string') return worded(content) as T
  if (Array.isArray(content)) return content.map((c) => inWords(worded, c)) as T
  if (typeof content !== 'object' || content === null || 'asWritten' in content) return content
  const made = new Map<string, unknown>(Object.entries(content))
  for (const key of HOLDING) if (made.has(key)) made.set(key, inWords(worded, made.get(key)))
  return Object.fromEntries(made) as T
}

/** Writes a document, with job, place, date, revision and page number at the foot of each page. */
export async function pdf({ paper, sections, name }: Document): Promise<Buffer> {
  const foot = [paper.title, paper.place].filter(Boolean).join(', ')
  const made = pdfmake.createPdf({
    // A reader's title bar and a screen reader's voice follow these. The package writes no structure, so nothing is marked as tagged.
    version: '1.7',
    language: worlds[paper.region].words.language,
    displayTitle: true,
    info: { title: name, creator: 'Synthema', producer: 'Synthema' },
    pageSize: worlds[paper.region].words.paper,
    pageMargins: [MARGIN, 40, MARGIN, 52],
    defaultStyle: { font: 'Text', fontSize: paper.large ? 12 : 10.5, lineHeight: 1.1 },
    content: inWords(
      paper.worded,
      sections.flatMap(([first, ...rest], i) => [
        i && typeof first === 'object' ? ({ ...first, pageBreak: 'before' } as Content) : (first ?? ''),
        ...rest,
      ]),
    ),
    ...(paper.number === undefined
      ? {}
      : {
          header: (page: number) =>
            page === 1
              ? ''
              : words(`${paper.title}, ${paper.number}`, {
                  margin: [MARGIN, 18, MARGIN, 0],
                  color: '#444444',
                  fontSize: 9,
                  alignment: 'right',
                }),
        }),
    footer: (page, count) =>
      words(`${foot}, ${paper.date}, revision ${paper.revision}, page ${page} of ${count}`, {
        margin: [MARGIN, 14, MARGIN, 0],
        color: '#444444',
        fontSize: paper.large ? 11 : 9,
      }),
  })
  return made.getBuffer()
}
