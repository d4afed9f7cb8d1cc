import type { Accessory, CableSide } from '../catalogue/accessories'
import { type Conductor, type WireColour, wireColours } from '../region/colours'
import type { RegionId } from '../region/types'
import type { WiringPlan } from '../build/plan'
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

type Format = keyof typeof formats
type Terminal = Accessory['terminals'][number]

/** A cable that comes to the device: which, where its middle is, and what is written under it. */
interface CableIn {
  readonly side: CableSide
  readonly conductors: readonly Conductor[]
  readonly label: string
  readonly x: number
}

/** The cable that feeds, and the one that goes on where there is one. */
function cablesTo(region: RegionId, fitted: Accessory, plan: WiringPlan, feed: string, format: Format): readonly CableIn[] {
  const { one, two } = formats[format]
  if (plan.load.length === 0) return [{ side: 'feed', conductors: plan.feed, label: feed, x: one }]
  const { cord } = worlds[region].words
  const onward =
    fitted.onward === 'cord' ? `${cord} to the appliance` : fitted.onward === 'optional-cable' ? 'onward, if any' : 'to the load'
  return [
    { side: 'feed', conductors: plan.feed, label: feed, x: two[0] },
    { side: 'load', conductors: plan.load, label: onward, x: two[1] },
  ]
}

/** Where each conductor leaves its cable: in the order of the terminals they go to, so that as few as can be cross. */
function startsOf(cables: readonly CableIn[], plan: WiringPlan, spread: number): ReadonlyMap<string, Point> {
  const towards = (c: Conductor) => plan.connections.find((k) => k.conductor.id === c.id)?.terminal.at[0] ?? 50
  return new Map(
    cables.flatMap(({ conductors, x }) =>
      conductors
        .toSorted((a, b) => towards(a) - towards(b))
        .map((c, i): [string, Point] => [c.id, [x + (i - (conductors.length - 1) / 2) * spread, splitY]]),
    ),
  )
}

type Device = (typeof formats)[Format]['device']
/** The device from behind, with its yoke. */
function deviceShapes({ x, y, w, h }: Device): Shape[] {
  const lug = (top: number): Shape => ({
    kind: 'rect',
    x: x + 60,
    y: top,
    w: w - 120,
    h: 22,
    r: 3,
    fill: 'sheet',
    stroke: 'ink',
    width: 1.5,
  })
  return [
    { kind: 'rect', x, y, w, h, r: 14, fill: 'sheet', stroke: 'ink', width: 2.5 },
    lug(y - 22),
    lug(y + h),
    text(x + w / 2, y - 32, 'the device seen from behind', 15, { anchor: 'middle', fill: 'ink2' }),
  ]
}
const placeOn = ({ x, y, w, h }: Device, t: Terminal): Point => [x + (w * t.at[0]) / 100, y + (h * t.at[1]) / 100]

type Joint = WiringPlan['joints'][number]
/** Conductors that come to a joint, and the tail from it to its terminal. */
function jointWires(j: Joint, [x, y]: Point, fitted: Accessory, device: Device, starts: ReadonlyMap<string, Point>): Shape[] {
  const onward = (c: Conductor) => c.id.startsWith('load-') || c.id.startsWith('cord-')
  const tail = j.joint.pigtail ? fitted.terminals.find((t) => t.takes.role === j.joint.role) : undefined
  return [
    ...j.conductors.flatMap((c) => wire(starts.get(c.id)!, [x + (onward(c) ? 10 : -10), y + 8], c)),
    ...(tail && j.conductors[0] ? wire([x, y - 6], placeOn(device, tail), { ...j.conductors[0] }) : []),
  ]
}
const jointShapes = (j: Joint, [x, y]: Point): Shape[] => [
  {
    kind: 'path',
    d: `M${x - 22} ${y + 12}L${x - 14} ${y - 14}L${x + 14} ${y - 14}L${x + 22} ${y + 12}Z`,
    fill: 'sheet',
    stroke: 'ink',
    width: 2,
  },
  text(x, y + 7, `${j.conductors.length + (j.joint.pigtail ? 1 : 0)}`, 14, { anchor: 'middle', bold: true }),
]

/** A conductor to its terminal; to an upper one at the edge it comes round the device. */
function connectionWire({ terminal, conductor }: WiringPlan['connections'][number], start: Point, device: Device, aside: number): Shape[] {
  const [x, y] = placeOn(device, terminal)
  const outside = terminal.at[0] < 50 ? device.x - aside : device.x + device.w + aside
  const round = terminal.at[1] < 50 && (terminal.at[0] <= 12 || terminal.at[0] >= 88)
  return wire(start, [x, y], conductor, round ? [outside, y + 90] : undefined)
}

function terminalShapes(t: Terminal, [x, y]: Point, format: Format): Shape[] {
  return [
    { kind: 'circle', x, y, r: 9, fill: 'sheet', stroke: 'ink', width: 2 },
    line(x - 5, y - 5, x + 5, y + 5, { width: 2 }),
    ...terminalLabel(t, x, y, format),
  ]
}

/** The letters of a cable's conductors, its sheath, and what it is. */
function cableShapes({ conductors, label, x: middle }: CableIn, starts: ReadonlyMap<string, Point>, room: number, format: Format): Shape[] {
  const { spread } = formats[format]
  const half = (conductors.length * spread) / 2
  const sheath = [
    `M${middle - half} ${cableY - 36}L${middle + half} ${cableY - 36}L${middle + 26} ${cableY - 8}`,
    `L${middle + 26} ${height - 26}L${middle - 26} ${height - 26}L${middle - 26} ${cableY - 8}Z`,
  ].join('')
  return [
    ...conductors.flatMap((c): Shape[] => {
      const [x, y] = starts.get(c.id)!
      return [
        { kind: 'rect', x: x - (spread - 2) / 2, y: y + 1, w: spread - 2, h: 21, r: 3, fill: 'sheet', stroke: 'ink', width: 1 },
        text(x, y + 17, wireColours[c.colour].letter, format === 'narrow' ? 13.5 : 15, { anchor: 'middle', bold: true }),
      ]
    }),
    { kind: 'path', d: sheath, fill: 'wash', stroke: 'ink', width: 2 },
    ...wrapText(label, room, 16, 2).map((words, i) => text(middle, height - 8 + 18 * i, words, 16, { anchor: 'middle', bold: true })),
  ]
}

/** Seen from behind, as it is held while terminating: device above, cables below, each conductor on its own terminal. */
export function wiringDrawing(
  region: RegionId,
  fitted: Accessory,
  plan: WiringPlan,
  size: string | null,
  feed = `from the ${worlds[region].words.board}`,
  format: Format = 'wide',
): Drawing {
  const { width, device, aside, one, spread, joints: apart, label } = formats[format]
  const cables = cablesTo(region, fitted, plan, `${feed}${size ? `, ${size.replace('mm2', 'mm²')}` : ''}`, format)
  const starts = startsOf(cables, plan, spread)
  const many = cables.length > 1
  const joints = plan.joints.map((joint, i): { joint: Joint; at: Point } => ({
    joint,
    at: [one + (many ? (i - (plan.joints.length - 1) / 2) * apart : 0), 312],
  }))
  const shapes: Shape[] = [
    ...deviceShapes(device),
    ...joints.flatMap(({ joint, at }) => jointWires(joint, at, fitted, device, starts)),
    ...plan.connections.flatMap((k) => connectionWire(k, starts.get(k.conductor.id)!, device, aside)),
    ...joints.flatMap(({ joint, at }) => jointShapes(joint, at)),
    ...fitted.terminals.flatMap((t) => terminalShapes(t, placeOn(device, t), format)),
    ...cables.flatMap((k) => cableShapes(k, starts, many ? label : width - 20, format)),
  ]
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
