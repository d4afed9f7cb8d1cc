import 'server-only'
import { createRequire } from 'node:module'
import path from 'node:path'
import { Circle, Document, Font, G, Page, Path, Rect, renderToBuffer, StyleSheet, Svg, Text, View } from '@react-pdf/renderer'
import type { ReactElement, ReactNode } from 'react'
import type { Drawing, Paint, Shape } from '@/core/drawing/shape'
import type { RegionId } from '@/core/region/types'
import { worlds } from '@/core/region/worlds'

const packages = path.dirname(
  path.dirname(createRequire(path.join(process.cwd(), 'package.json')).resolve('dejavu-fonts-ttf/package.json')),
)
const atkinson = (weight: 400 | 700) =>
  path.join(packages, `@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-${weight}-normal.woff`)
const mono = path.join(packages, '@fontsource/atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-400-normal.woff')
const dejavu = (name: string) => path.join(packages, `dejavu-fonts-ttf/ttf/${name}.ttf`)

Font.register({ family: 'Text', fonts: [{ src: atkinson(400) }, { src: atkinson(700), fontWeight: 700 }] })
Font.register({ family: 'Mono', fonts: [{ src: mono }, { src: mono, fontWeight: 700 }] })
// Greek, mathematics and other scripts, which the first face lacks.
Font.register({ family: 'Wide', fonts: [{ src: dejavu('DejaVuSans') }, { src: dejavu('DejaVuSans-Bold'), fontWeight: 700 }] })
Font.registerHyphenationCallback((word) => [word])

/** Black on white; greys that copy. Real conductor colours are kept. */
const paints: Record<string, string> = {
  ink: '#000000',
  ink2: '#333333',
  ink3: '#666666',
  rule: '#bbbbbb',
  sheet: '#ffffff',
  paper: '#ffffff',
  wash: '#dddddd',
  error: '#a3005c',
  warning: '#785000',
}
const paint = (p: Paint | undefined): string => (p === undefined ? 'none' : (paints[p] ?? p))

function PdfShape({ s }: { s: Shape }) {
  if (s.kind === 'text') {
    return (
      <Text
        x={s.x}
        y={s.y}
        fill={paint(s.fill)}
        textAnchor={s.anchor ?? 'start'}
        style={{ fontSize: s.size, fontFamily: s.mono ? ['Mono', 'Wide'] : ['Text', 'Wide'], fontWeight: s.bold ? 700 : 400 }}
      >
        {s.text}
      </Text>
    )
  }
  const stroke = { fill: paint(s.fill), stroke: paint(s.stroke), strokeWidth: s.width ?? 1, ...(s.dash ? { strokeDasharray: s.dash } : {}) }
  if (s.kind === 'rect') return <Rect x={s.x} y={s.y} width={s.w} height={s.h} rx={s.r ?? 0} ry={s.r ?? 0} {...stroke} />
  if (s.kind === 'circle') return <Circle cx={s.x} cy={s.y} r={s.r} {...stroke} />
  return <Path d={s.d} strokeLinecap={s.cap ?? 'butt'} {...stroke} />
}

/** A drawing on paper, `width` points wide. */
export function PdfDrawing({ drawing, width }: { drawing: Drawing; width: number }) {
  return (
    <Svg viewBox={`0 0 ${drawing.width} ${drawing.height}`} width={width} height={(width * drawing.height) / drawing.width}>
      <G>
        {drawing.shapes.map((s, i) => (
          <PdfShape key={i} s={s} />
        ))}
      </G>
    </Svg>
  )
}

export const styles = StyleSheet.create({
  page: {
    fontFamily: ['Text', 'Wide'],
    fontSize: 10.5,
    lineHeight: 1.35,
    paddingTop: 40,
    paddingBottom: 52,
    paddingHorizontal: 44,
    color: '#000000',
  },
  title: { fontSize: 22, fontWeight: 700, lineHeight: 1.2 },
  heading: {
    fontSize: 14,
    fontWeight: 700,
    marginTop: 14,
    marginBottom: 4,
    paddingBottom: 2,
    borderBottomWidth: 1,
    borderBottomColor: '#000000',
  },
  sub: { fontSize: 11.5, fontWeight: 700, marginTop: 8, marginBottom: 2 },
  quiet: { color: '#444444', fontSize: 9.5 },
  foot: { position: 'absolute', left: 44, right: 44, fontSize: 9, lineHeight: 1, color: '#444444' },
  row: { flexDirection: 'row', borderBottomWidth: 0.5, borderBottomColor: '#bbbbbb', paddingVertical: 2 },
})

export interface Paper {
  readonly region: RegionId
  readonly title: string
  readonly place: string
  readonly date: string
  readonly revision: number
}

/** Points from the top: text made while pages are counted is lost when it is placed from the bottom under a line height. */
const footTop = { A4: 810, LETTER: 760 }

/** A page with job, place, date, revision and page number at its foot. */
export function PaperPage({ paper, children, large }: { paper: Paper; children: ReactNode; large?: boolean }) {
  return (
    <Page size={worlds[paper.region].words.paper} style={large ? { ...styles.page, fontSize: 12 } : styles.page}>
      <Text
        style={{ ...styles.foot, top: footTop[worlds[paper.region].words.paper], ...(large ? { fontSize: 11 } : {}) }}
        fixed
        render={({ pageNumber, totalPages }) =>
          `${[paper.title, paper.place].filter(Boolean).join(', ')}, ${paper.date}, revision ${paper.revision}, page ` +
          `${pageNumber} of ${totalPages}`
        }
      />
      {children}
    </Page>
  )
}

export function Pairs({ rows, first = 150 }: { rows: readonly (readonly [string, string])[]; first?: number }) {
  return (
    <View>
      {rows
        .filter(([, value]) => value !== '')
        .map(([name, value], i) => (
          <View key={i} style={styles.row} wrap={false}>
            <Text style={{ width: first, color: '#444444' }}>{name}</Text>
            <Text style={{ flex: 1 }}>{value}</Text>
          </View>
        ))}
    </View>
  )
}

export interface Column {
  readonly name: string
  readonly flex: number
}

export function PdfTable({ columns, rows }: { columns: readonly Column[]; rows: readonly (readonly string[])[] }) {
  return (
    <View>
      <View style={{ ...styles.row, borderBottomColor: '#000000' }} wrap={false}>
        {columns.map((c) => (
          <Text key={c.name} style={{ flex: c.flex, color: '#444444', paddingRight: 4 }}>
            {c.name}
          </Text>
        ))}
      </View>
      {rows.map((r, i) => (
        <View key={i} style={styles.row} wrap={false}>
          {r.map((cell, k) => (
            <Text key={columns[k]!.name} style={{ flex: columns[k]!.flex, paddingRight: 4 }}>
              {cell}
            </Text>
          ))}
        </View>
      ))}
    </View>
  )
}

/** Rows that stand whole under their heading; more of them run on over the pages. */
const KEPT_ROWS = 18

/** A table under its heading, not parted from it. */
export function TitledTable({
  title,
  columns,
  rows,
  children,
}: {
  title: string
  columns: readonly string[]
  rows: readonly (readonly string[])[]
  children?: ReactNode
}) {
  return (
    <View wrap={rows.length > KEPT_ROWS}>
      <Text style={styles.heading} minPresenceAhead={70}>
        {title}
      </Text>
      <PdfTable columns={columns.map((name, i) => ({ name, flex: i === 0 ? 3 : 2 }))} rows={rows} />
      {children}
    </View>
  )
}

export function pdf(pages: ReactElement | ReactElement[], title: string): Promise<Buffer> {
  return renderToBuffer(
    <Document title={title} creator="Synthema" producer="Synthema">
      {pages}
    </Document>,
  )
}
