import type { Accessory, CableSide } from '../catalogue/accessories'
import { type Conductor, type WireColour, wireColours } from '../region/colours'
import type { RegionId } from '../region/types'
import type { WiringPlan } from '../wiring/plan'
import { type Drawing, line, type Paint, type PathShape, type Shape, text, wrapText } from './shape'
import { worlds } from '../region/worlds'

type Point = readonly [x: number, y: number]
/** On a desk or on paper, and on a phone: where the device stands, where one cable comes in or two do, and how far its conductors part. */
const formats = {
  wide: {
    width: 580,
    device: { x: 125, y: 58, w: 330, h: 206 },
    aside: 40,
    one: 290,
    two: [150, 430],
    spread: 44,
    joints: 110,
    label: 260,
  },
  narrow: { width: 344, device: { x: 32, y: 58, w: 280, h: 206 }, aside: 24, one: 172, two: [86, 258], spread: 40, joints: 84, label: 164 },
} as const
const height = 490
const cableY = 430
const splitY = 370

/** A conductor drawn so that it reads in grey and in the dark: outline, colour, stripe, letters. */
function wire(from: Point, to: Point, c: Conductor, via?: Point): Shape[] {
  const [x1, y1] = from
  const [x2, y2] = to
  const mid: Point = via ?? [x2, y1 - (y1 - y2) * 0.35]
  const curve = [from, [x1, y1 - (y1 - y2) * 0.45] as Point, mid, to] as const
  const d = `M${x1} ${y1}C${curve[1][0]} ${curve[1][1]} ${mid[0]} ${mid[1]} ${x2} ${y2}`
  const stroke = (paint: Paint, w: number, dash?: string): PathShape => ({
    kind: 'path',
    d,
    stroke: paint,
    width: w,
    fill: 'none',
    cap: 'round',
    ...(dash ? { dash } : {}),
  })
  const colour = wireColours[c.colour]
  return [
    stroke('ink', 10.5),
    stroke(colour.fill, 7.5),
    ...('stripe' in colour ? [stroke(colour.stripe, 7.5, '9 9')] : []),
    ...(c.remark ? sleeve(curve, c.remark) : []),
  ]
}

/** Tape or sleeving near the end that is terminated, in the colour it stands for. */
function sleeve(curve: readonly [Point, Point, Point, Point], colour: WireColour): Shape[] {
  const at = (t: number): Point => {
    const u = 1 - t
    const f = (i: 0 | 1) => u ** 3 * curve[0][i] + 3 * u * u * t * curve[1][i] + 3 * u * t * t * curve[2][i] + t ** 3 * curve[3][i]
    return [f(0), f(1)]
  }
  const points = Array.from({ length: 7 }, (_, i) => at(0.7 + i * 0.035))
  const d = points.map(([x, y], i) => `${i ? 'L' : 'M'}${x.toFixed(1)} ${y.toFixed(1)}`).join('')
  const paint = wireColours[colour]
  const stroke = (p: Paint, w: number, dash?: string): Shape => ({
    kind: 'path',
    d,
    stroke: p,
    width: w,
    fill: 'none',
    cap: 'butt',
    ...(dash ? { dash } : {}),
  })
  return [stroke('ink', 14), stroke(paint.fill, 11), ...('stripe' in paint ? [stroke(paint.stripe, 11, '6 6')] : [])]
}

const screwNote: Record<Accessory['terminals'][number]['screw'], string> = {
  brass: 'brass',
  silver: 'silver',
  green: 'green',
  dark: 'dark',
  plain: '',
}

/** Seen from behind, as it is held while terminating: device above, cables below, each conductor on its own terminal. */
export function wiringDrawing(
  region: RegionId,
  fitted: Accessory,
  plan: WiringPlan,
  size: string | null,
  feed = `from the ${worlds[region].words.board}`,
  format: keyof typeof formats = 'wide',
): Drawing {
  const { width, device, aside, one, two, spread, joints, label: labelWidth } = formats[format]
  const words = worlds[region].words
  const shapes: Shape[] = []
  const twoCables = plan.load.length > 0
  const centre: Record<CableSide, number> = { feed: twoCables ? two[0] : one, load: two[1] }
  const starts = new Map<string, Point>()
  const cables: { side: CableSide; conductors: readonly Conductor[]; label: string }[] = [
    { side: 'feed', conductors: plan.feed, label: `${feed}${size ? `, ${size.replace('mm2', 'mm²')}` : ''}` },
    ...(twoCables
      ? [
          {
            side: 'load' as const,
            conductors: plan.load,
            label:
              fitted.onward === 'cord'
                ? `${words.cord} to the appliance`
                : fitted.onward === 'optional-cable'
                  ? 'onward, if any'
                  : 'to the load',
          },
        ]
      : []),
  ]
  // Conductors stand in the order of the terminals they go to, so that as few as can be cross.
  const towards = (c: Conductor) => plan.connections.find((x) => x.conductor.id === c.id)?.terminal.at[0] ?? 50
  for (const cable of cables) {
    const cx = centre[cable.side]
    cable.conductors
      .toSorted((a, b) => towards(a) - towards(b))
      .forEach((c, i) => starts.set(c.id, [cx + (i - (cable.conductors.length - 1) / 2) * spread, splitY]))
  }

  shapes.push({ kind: 'rect', x: device.x, y: device.y, w: device.w, h: device.h, r: 14, fill: 'sheet', stroke: 'ink', width: 2.5 })
  shapes.push({
    kind: 'rect',
    x: device.x + 60,
    y: device.y - 22,
    w: device.w - 120,
    h: 22,
    r: 3,
    fill: 'sheet',
    stroke: 'ink',
    width: 1.5,
  })
  shapes.push({
    kind: 'rect',
    x: device.x + 60,
    y: device.y + device.h,
    w: device.w - 120,
    h: 22,
    r: 3,
    fill: 'sheet',
    stroke: 'ink',
    width: 1.5,
  })
  shapes.push(text(device.x + device.w / 2, device.y - 32, 'the device seen from behind', 15, { anchor: 'middle', fill: 'ink2' }))

  const place = (t: Accessory['terminals'][number]): Point => [device.x + (device.w * t.at[0]) / 100, device.y + (device.h * t.at[1]) / 100]
  const jointAt = plan.joints.map((_, i): Point => [one + (twoCables ? (i - (plan.joints.length - 1) / 2) * joints : 0), 312])

  for (const [i, j] of plan.joints.entries()) {
    const [jx, jy] = jointAt[i]!
    for (const c of j.conductors)
      shapes.push(...wire(starts.get(c.id)!, [jx + (c.id.startsWith('load-') || c.id.startsWith('cord-') ? 10 : -10), jy + 8], c))
    const tail = j.joint.pigtail ? fitted.terminals.find((t) => t.takes.role === j.joint.role) : undefined
    if (tail && j.conductors[0]) shapes.push(...wire([jx, jy - 6], place(tail), { ...j.conductors[0] }))
  }
  for (const { terminal, conductor } of plan.connections) {
    const [tx, ty] = place(terminal)
    const start = starts.get(conductor.id)!
    const upper = terminal.at[1] < 50
    const outside = terminal.at[0] < 50 ? device.x - aside : device.x + device.w + aside
    const onEdge = terminal.at[0] <= 12 || terminal.at[0] >= 88
    shapes.push(...wire(start, [tx, ty], conductor, upper && onEdge ? [outside, ty + 90] : undefined))
  }
  for (const [i, j] of plan.joints.entries()) {
    const [jx, jy] = jointAt[i]!
    shapes.push({
      kind: 'path',
      d: `M${jx - 22} ${jy + 12}L${jx - 14} ${jy - 14}L${jx + 14} ${jy - 14}L${jx + 22} ${jy + 12}Z`,
      fill: 'sheet',
      stroke: 'ink',
      width: 2,
    })
    shapes.push(text(jx, jy + 7, `${j.conductors.length + (j.joint.pigtail ? 1 : 0)}`, 14, { anchor: 'middle', bold: true }))
  }
  for (const t of fitted.terminals) {
    const [tx, ty] = place(t)
    shapes.push({ kind: 'circle', x: tx, y: ty, r: 9, fill: 'sheet', stroke: 'ink', width: 2 })
    shapes.push(line(tx - 5, ty - 5, tx + 5, ty + 5, { width: 2 }))
    shapes.push(...terminalLabel(t, tx, ty, format))
  }
  for (const cable of cables) {
    const cx = centre[cable.side]
    const half = (cable.conductors.length * spread) / 2
    for (const c of cable.conductors) {
      const [x, y] = starts.get(c.id)!
      shapes.push({ kind: 'rect', x: x - (spread - 2) / 2, y: y + 1, w: spread - 2, h: 21, r: 3, fill: 'sheet', stroke: 'ink', width: 1 })
      shapes.push(text(x, y + 17, wireColours[c.colour].letter, format === 'narrow' ? 13.5 : 15, { anchor: 'middle', bold: true }))
    }
    shapes.push({
      kind: 'path',
      d:
        `M${cx - half} ${cableY - 36}L${cx + half} ${cableY - 36}L${cx + 26} ${cableY - 8}L${cx + 26} ${height - 26}L${cx - 26} ` +
        `${height - 26}L${cx - 26} ${cableY - 8}Z`,
      fill: 'wash',
      stroke: 'ink',
      width: 2,
    })
    wrapText(cable.label, twoCables ? labelWidth : width - 20, 16, 2).forEach((words, i) =>
      shapes.push(text(cx, height - 8 + 18 * i, words, 16, { anchor: 'middle', bold: true })),
    )
  }
  const lowest = Math.max(...shapes.map((s) => (s.kind === 'text' ? s.y : 0)))
  return { width, height: Math.max(height, lowest + 8), title: `Wiring of ${fitted.name}`, shapes }
}

/** The terminal's mark beside its screw, on a ground of its own so that no conductor hides it. */
function terminalLabel(t: Accessory['terminals'][number], x: number, y: number, format: keyof typeof formats): Shape[] {
  const words = [t.mark, screwNote[t.screw]].filter(Boolean).join(' ')
  const size = 15
  const lines = format === 'narrow' ? words.split(' ') : [words]
  const w = Math.max(...lines.map((l) => l.length)) * size * 0.56 + 6
  const h = 17 * lines.length + 3
  const [left, top] = t.at[0] <= 12 ? [x + 14, y - h / 2] : t.at[0] >= 88 ? [x - 14 - w, y - h / 2] : [x - w / 2, y - h - 14]
  return [
    { kind: 'rect', x: left, y: top, w, h, r: 3, fill: 'sheet' },
    ...lines.map((l, i) => text(left + w / 2, top + 16 + 17 * i, l, size, { anchor: 'middle', bold: true })),
  ]
}
