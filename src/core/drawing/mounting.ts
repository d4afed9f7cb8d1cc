import { outlineOf } from '../catalogue/boxes'
import { CUT_OUTSIDE_MM, type MountReport } from '../build/mounting'
import { formatSmallLength, type UnitSystem } from '../base/format'
import { type Drawing, fitText, grounded, line, type Paint, type Shape, text, wideAs, wrapText } from './shape'

const layerFill: Readonly<Record<string, Paint>> = { gap: 'none', insulation: 'wash', cabinet: 'sheet', masonry: 'wash' }
const layerWords: Readonly<Record<string, string>> = {
  board: 'board',
  plaster: 'plaster',
  tile: 'tile',
  panelling: 'panelling',
  cabinet: 'cabinet',
  gap: 'gap',
  insulation: 'insulation',
  masonry: 'masonry',
}
export const nameOfLayer = (what: string): string => layerWords[what] ?? what

/** Where the cut through the wall is drawn, its face at the left. */
const CUT = { x: 60, y: 70, tall: 150 }
/** What is drawn, how large, and in which words. */
interface Shown {
  readonly report: MountReport
  readonly narrow: boolean
  /** Pixels of a millimetre across the wall. */
  readonly scale: number
  readonly mm: (x: number) => string
}

/** The layers of the wall from its face on, each to scale with its words below. */
function layerShapes({ report: { mount }, scale, mm }: Shown): Shape[] {
  const { x: face, y: top, tall } = CUT
  if (mount.layers.length === 0)
    return [
      { kind: 'rect', x: face, y: top, w: 60, h: tall, fill: 'none', stroke: 'ink3', width: 1.5, dash: '6 5' },
      text(face + 8, top + tall + 22, 'not checked yet', 14, { fill: 'ink2' }),
    ]
  let x = face
  return mount.layers.flatMap((l, i): Shape[] => {
    const w = l.mm * scale
    const middle = x + w / 2
    // The first is labelled lowest, so that no line down to another's words goes through its own.
    const row = top + tall + 24 + (mount.layers.length - 1 - i) * 20
    const layer: Shape = {
      kind: 'rect',
      x,
      y: top,
      w,
      h: tall,
      fill: layerFill[l.what] ?? (i % 2 ? 'paper' : 'sheet'),
      stroke: 'ink2',
      width: 1.5,
      ...(l.what === 'gap' ? { dash: '3 3' } : {}),
    }
    x += w
    return [
      layer,
      line(middle, top + tall, middle, row - 10, { stroke: 'ink3', width: 1 }),
      text(middle, row + 3, fitText(`${nameOfLayer(l.what)} ${mm(l.mm)}`, 220, 14), 14),
    ]
  })
}

/** How far the room behind the layers goes, where that was measured. */
function cavityShapes({ report: { mount }, scale, mm }: Shown): Shape[] {
  if (mount.cavityMm === null) return []
  const { y: top, tall } = CUT
  const from = mount.layers.reduce((x, l) => x + l.mm * scale, CUT.x)
  const end = from + mount.cavityMm * scale
  return [
    line(end, top - 8, end, top + tall + 8, { width: 3 }),
    text((from + end) / 2, top + tall - 10, `${mm(mount.cavityMm)} free`, 14, { anchor: 'middle', fill: 'ink2' }),
  ]
}

/** The box in the wall, as deep as it is, and between what its clamp grips. */
function boxShapes({ report: { box, thickMm, gripMm }, scale, mm }: Shown, depth: number): Shape[] {
  if (!box || depth === 0) return []
  const { x: face, y: top, tall } = CUT
  const w = depth * scale
  const words = `box ${mm(depth)}`
  const middle = face + Math.max(w / 2, wideAs(words, 14) / 2 + 4)
  const drawn: Shape[] = [
    {
      kind: 'path',
      d: `M${face} ${top + 32}L${face + w} ${top + 32}L${face + w} ${top + tall - 32}L${face} ${top + tall - 32}`,
      stroke: 'ink',
      width: 4,
      fill: 'none',
    },
    ...grounded(text(middle, top + tall / 2 + 5, words, 14, { anchor: 'middle', bold: true })),
  ]
  if (box.mounting !== 'clamps to a finished wall') return drawn
  const [from, to] = gripMm
  const at = face + Math.min(Math.max(thickMm, from), to) * scale
  return [
    ...drawn,
    ...[top + 22, top + tall - 22].map((y) => line(at, y - 14, at, y + 14, { width: 4 })),
    line(face + from * scale, top - 30, face + to * scale, top - 30, { width: 5 }),
    text(face, top - 46, `its clamp grips ${mm(from)} to ${mm(to)}`, 14),
    line(face + thickMm * scale, top - 38, face + thickMm * scale, top - 20, { width: 2.5 }),
  ]
}

/** Seen from the front: the box, the stud beside it, and the floor below. */
function frontShapes({ report, narrow, mm }: Shown, below: number, foot: number, heightMm: number | null): Shape[] {
  const { mount, box, measured } = report
  const outline = mount.outlineMm ?? (box && outlineOf(box))
  if (!outline) return []
  const s = 110 / Math.max(outline[1], 80)
  const cx = narrow ? 180 : 445
  const cy = CUT.y + CUT.tall / 2 + (narrow ? below + 60 : 0)
  const [w, h] = [outline[0] * s, outline[1] * s]
  const studX = mount.studMm === null ? null : cx - Math.min(narrow ? 110 : 90, mount.studMm * s)
  return [
    box?.shape === 'round'
      ? { kind: 'circle', x: cx, y: cy, r: w / 2, fill: 'sheet', stroke: 'ink', width: 2.5 }
      : { kind: 'rect', x: cx - w / 2, y: cy - h / 2, w, h, r: 3, fill: 'sheet', stroke: 'ink', width: 2.5 },
    line(cx - 95, cy, cx + 95, cy, { stroke: 'ink3', width: 1, dash: '8 4' }),
    text(cx, cy + h / 2 + 20, `${mm(outline[0])} × ${mm(outline[1])}`, 14, { anchor: 'middle', bold: true }),
    text(cx, cy + h / 2 + 38, measured ? 'as measured' : 'usual: measure yours', 13, { anchor: 'middle', fill: 'ink2' }),
    ...(studX === null
      ? []
      : ([
          { kind: 'rect', x: studX - 12, y: cy - 89, w: 12, h: 178, fill: 'wash', stroke: 'ink2', width: 1 },
          text(studX - 6, cy + 105, `stud ${mm(mount.studMm!)}`, 13, { anchor: 'middle' }),
        ] satisfies Shape[])),
    ...(heightMm === null
      ? []
      : [
          line(cx + 78, cy, cx + 78, foot, { width: 1.5 }),
          line(cx + 70, cy, cx + 86, cy, {}),
          line(cx + 70, foot, cx + 86, foot, {}),
          text(cx + 72, (cy + foot) / 2 + 60, `${mm(heightMm)} up`, 14, { anchor: 'end' }),
        ]),
    line(cx - 100, foot, cx + 100, foot, { width: 3 }),
    text(cx - 100, foot + 18, heightMm === null ? 'floor: its height is not entered' : 'floor', 13, { fill: 'ink2' }),
  ]
}

/** The wall cut through where the box goes in: each layer to scale, what the clamp grips, how deep the box goes, and the stud beside it. */
export function mountingDrawing(
  report: MountReport,
  heightMm: number | null,
  units: UnitSystem,
  format: 'wide' | 'narrow' = 'wide',
): Drawing {
  const { mount, box, thickMm } = report
  const narrow = format === 'narrow'
  const depth = box && box.mounting !== 'surface' ? box.depthMm : 0
  const whole = Math.max(60, thickMm + (mount.cavityMm ?? 40), depth + 15)
  const shown: Shown = { report, narrow, scale: (narrow ? 220 : 300) / whole, mm: (x) => formatSmallLength(x, units) }
  // Beside the cut through the wall the box from the front; on a narrow screen below it.
  const below = narrow ? 130 + 20 * mount.layers.length : 0
  const foot = 380 + (narrow ? below + 30 : 0)
  const [width, height] = narrow ? [344, 460 + below] : [560, 430]
  const name = wrapText(box ? box.name : 'no box chosen yet', 300, 15, 2)
  const [nameX, nameY] = narrow ? [24, foot + 46] : [CUT.x, foot + 18]
  const shapes = [
    ...layerShapes(shown),
    ...cavityShapes(shown),
    ...boxShapes(shown, depth),
    text(CUT.x - 10, CUT.y + CUT.tall / 2, 'face', 14, { anchor: 'end', fill: 'ink2' }),
    ...frontShapes(shown, below, foot, heightMm),
    ...name.map((w, i) => text(nameX, nameY + i * 18, w, 15, { bold: true })),
  ]
  return { width, height, title: 'How the box is held', shapes }
}

const PT = 72 / 25.4
/** Paper is one to one: a unit of this drawing is a point, so that a printer that does not shrink cuts true. */
export function templateDrawing(report: MountReport, name: string, heightMm: number | null, units: UnitSystem): Drawing | null {
  const { cutMm, box } = report
  if (!cutMm || !box) return null
  const [w, h] = [cutMm[0] * PT, cutMm[1] * PT]
  const width = 500
  const [cx, cy] = [width / 2, 70 + h / 2]
  const out = CUT_OUTSIDE_MM * PT
  const round = box.shape === 'round'
  const ring = (grow: number, dash?: string): Shape =>
    round
      ? { kind: 'circle', x: cx, y: cy, r: w / 2 - grow, fill: 'none', stroke: 'ink', width: dash ? 0.75 : 1.25, ...(dash ? { dash } : {}) }
      : {
          kind: 'rect',
          x: cx - w / 2 + grow,
          y: cy - h / 2 + grow,
          w: w - 2 * grow,
          h: h - 2 * grow,
          fill: 'none',
          stroke: 'ink',
          width: dash ? 0.75 : 1.25,
          ...(dash ? { dash } : {}),
        }
  const corner = (sx: 1 | -1, sy: 1 | -1): Shape[] => {
    const [x, y] = [cx + (sx * w) / 2, cy + (sy * h) / 2]
    return [line(x, y, x + sx * 14, y, { width: 1 }), line(x, y, x, y + sy * 14, { width: 1 })]
  }
  const rule = cy + h / 2 + 70
  const ruleLeft = cx - 50 * PT
  const mm = (x: number) => formatSmallLength(x, units)
  const ruler = units === 'metric' ? { mm: 100, parts: 10, long: 5, words: '100 mm' } : { mm: 101.6, parts: 16, long: 4, words: '4 in' }
  const shapes: Shape[] = [
    ring(0),
    ring(out, '4 3'),
    line(20, cy, width - 20, cy, { width: 0.75, dash: '12 4' }),
    line(cx, cy - h / 2 - 34, cx, cy + h / 2 + 34, { width: 0.75, dash: '12 4' }),
    text(24, cy - 6, 'level', 12),
    text(cx + 6, cy - h / 2 - 24, 'up', 12),
    ...(round ? [] : ([1, -1] as const).flatMap((sx) => ([1, -1] as const).flatMap((sy) => corner(sx, sy)))),
    line(ruleLeft, rule, ruleLeft + ruler.mm * PT, rule, { width: 1 }),
    ...Array.from({ length: ruler.parts + 1 }, (_, i) => {
      const x = ruleLeft + ((i * ruler.mm) / ruler.parts) * PT
      return line(x, rule - (i % ruler.long ? 5 : 9), x, rule, { width: 0.75 })
    }),
    text(
      cx,
      rule + 18,
      `${ruler.words}: measure this line first. If it is not ${ruler.words}, print again without fitting to the page.`,
      11,
      {
        anchor: 'middle',
      },
    ),
    text(cx, rule + 42, fitText(`${name}: ${box.name}`, width - 20, 14), 14, { anchor: 'middle', bold: true }),
    text(
      cx,
      rule + 60,
      `Cut on the whole line, ${mm(cutMm[0])} × ${mm(cutMm[1])}; the broken line is the box` +
        `${report.measured ? ', as measured' : ': a usual size, hold yours to it first'}.`,
      11,
      { anchor: 'middle' },
    ),
    ...(heightMm === null ? [] : [text(cx, rule + 78, `The level line is ${mm(heightMm)} above the floor.`, 11, { anchor: 'middle' })]),
  ]
  return { width, height: rule + 92, title: `Template for ${name}`, shapes }
}
