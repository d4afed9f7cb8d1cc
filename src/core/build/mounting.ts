import { type BoxKind, type BoxMounting, outlineOf, USUAL_GRIP_MM } from '../catalogue/boxes'
import type { Finding, Severity } from '../base/finding'
import type { Circuit, Installation } from '../installation/installation'
import { type MountRecord, newMount } from '../job/mount'
import type { PlacedPoint } from '../job/point'
import { formatSmallLength, type UnitSystem } from '../base/format'
import { atLeast, atMost } from '../base/tolerance'
import { worlds } from '../region/worlds'
import { enclosureOf } from './choose-box'

/** Cut a little outside what is traced, on each side. */
export const CUT_OUTSIDE_MM = 1.5
/** Room beside a box for its clamp to turn, and behind it for its cables. */
const BESIDE_MM = 12
const BEHIND_MM = 6
/** Heights of neighbours that differ by less than this are meant to be alike, and the eye sees it. */
const IN_LINE_MM = 60
const SEEN_MM = 2

export interface MountAdvice {
  /** How it is best held here, and why; null while it is not known what is there. */
  readonly mounting: BoxMounting | null
  readonly why: string
}
export interface MountReport {
  readonly mount: MountRecord
  readonly box: BoxKind | null
  readonly advice: MountAdvice
  /** What a clamp must grip. */
  readonly thickMm: number
  readonly gripMm: readonly [number, number]
  /** What is cut, wide and high, and whether it was measured on the box in the hand. */
  readonly cutMm: readonly [number, number] | null
  readonly measured: boolean
  readonly findings: readonly Finding[]
  /** What is done here besides, in order. */
  readonly steps: readonly { readonly text: string; readonly clause?: string }[]
}

/** Which kind of box belongs here: by the wall, the place and the load. */
function adviceFor(job: Installation, point: PlacedPoint, mount: MountRecord, wet: boolean): MountAdvice {
  if (wet) return { mounting: 'surface', why: 'Where it is wet or out of doors: a weatherproof enclosure, with its gasket.' }
  if (point.kind === 'light' && point.wall === null && mount.behind !== 'surface') {
    const why =
      mount.fan === false
        ? 'On a ceiling where no fan will be hung: a round box.'
        : 'On a ceiling where a fan may be hung one day: a round box that is rated to carry one, fixed to the framing.'
    return { mounting: 'ceiling', why }
  }
  switch (mount.behind) {
    case 'finished':
      return {
        mounting: 'clamps to a finished wall',
        why: 'The wall is finished: it clamps to the lining, needs no stud, and can be moved later.',
      }
    case 'open':
      return worlds[job.region].boxesBy === 'volume'
        ? { mounting: 'nails to a stud', why: 'The framing is open: nailed to a stud it cannot move.' }
        : {
            mounting: 'set in masonry',
            why: 'The framing is open: screwed to a noggin set for it, its front flush with the finished wall.',
          }
    case 'masonry':
      return { mounting: 'set in masonry', why: 'Masonry: chased in and screwed, or on the surface where it may not be cut.' }
    case 'surface':
      return { mounting: 'surface', why: 'Nothing is cut: it is screwed to the face.' }
    default:
      return { mounting: null, why: 'What is behind the wall face is not recorded yet.' }
  }
}
const say = (rule: string, severity: Severity, message: string, clause = ''): Finding => ({ rule, severity, message, clause })

/** A box of another kind than that wall asks for; nobody looked at the wall: nothing can be said. */
function kindFindings({ behind }: MountRecord, box: BoxKind | null, advice: MountAdvice, wet: boolean): Finding[] {
  if (behind === null)
    return [
      {
        ...say('mount-not-looked', 'unknown', 'What is the wall made of there? Nothing can be said of how the box is held.'),
        asks: ['behind'],
      },
    ]
  if (!box || !advice.mounting || box.mounting === advice.mounting || (box.weatherproof && wet)) return []
  return [say('mount-other-kind', 'warning', `${box.name} ${box.mounting}. ${advice.why}`)]
}

function fanFindings(job: Installation, { fan }: MountRecord, box: BoxKind | null): Finding[] {
  if (box?.mounting !== 'ceiling' || fan === false || box.name.includes('fan rated') || worlds[job.region].boxesBy !== 'volume') return []
  const words = 'This ceiling box is not rated to carry a fan: record that no fan will be hung there, or fit a box that is rated.'
  return [say('mount-fan', 'warning', words, '314.27(C)')]
}

/** Neighbours that are nearly, and not quite, at one height. */
const lineFindings = (
  { heightMm }: PlacedPoint,
  neighbours: readonly Pick<PlacedPoint, 'id' | 'name' | 'heightMm'>[],
  mmOf: Words,
): Finding[] =>
  neighbours.flatMap((n) => {
    if (n.heightMm === null || heightMm === null) return []
    const apart = Math.abs(n.heightMm - heightMm)
    if (apart <= SEEN_MM || apart >= IN_LINE_MM) return []
    const both = `${n.name || 'Its neighbour'} is at ${mmOf(n.heightMm)}, this at ${mmOf(heightMm)}`
    return [say('mount-out-of-line', 'note', `${both}: near enough to look like a mistake.`)]
  })

/** Behind the finished face by so little, the screws that come with an accessory still hold it. */
const SCREWS_REACH_MM = 3
/** The screws that an accessory takes in a box set back behind its wall, longer than those that come with it. */
export interface LongScrews {
  readonly thread: string
  /** Null: none that is sold is long enough. */
  readonly lengthMm: number | null
}
/** Null: those that come with it do, or how far it is set back was not measured. */
export function longScrews(job: Pick<Installation, 'region'>, setBackMm: number | null | undefined): LongScrews | null {
  if (setBackMm == null || atMost(setBackMm, SCREWS_REACH_MM)) return null
  const { thread, suppliedMm, lengthsMm } = worlds[job.region].deviceScrews
  return { thread, lengthMm: lengthsMm.find((l) => atLeast(l, suppliedMm + setBackMm)) ?? null }
}

/** A box too far behind the face of its wall. */
function setBackFindings(job: Installation, { setBackMm }: MountRecord, mmOf: Words): Finding[] {
  if (setBackMm == null) return []
  const most = worlds[job.region].boxesBy === 'volume' ? 6.35 : null
  if (most !== null && !atMost(setBackMm, most))
    return [
      say(
        'mount-set-back',
        'error',
        `Its front is ${mmOf(setBackMm)} behind the finished face, and may be ${mmOf(most)} at most behind one that does not burn, none ` +
          'behind one that does: fit an extender that brings it forward.',
        '314.20',
      ),
    ]
  return longScrews(job, setBackMm)?.lengthMm === null
    ? [
        say(
          'mount-set-back',
          'warning',
          `Its front is ${mmOf(setBackMm)} behind the finished face, more than screws reach: fit an extender.`,
        ),
      ]
    : []
}

/** Whether the box of a point can be held where it is to be, and what to do where not. */
export function mountingOf(
  job: Installation,
  circuit: Pick<Circuit, 'environment'>,
  point: PlacedPoint,
  units: UnitSystem,
  neighbours: readonly Pick<PlacedPoint, 'id' | 'name' | 'heightMm'>[] = [],
): MountReport {
  const mount = point.box.mount ?? newMount()
  const box = enclosureOf(job.region, point.box)
  const environment = point.environment ?? circuit.environment ?? job.brief.environment
  const wet = environment === 'wet' || environment === 'outdoors'
  const advice = adviceFor(job, point, mount, wet)
  const thickMm = mount.layers.reduce((sum, l) => sum + l.mm, 0)
  const gripMm = mount.gripMm ?? USUAL_GRIP_MM
  const outline = mount.outlineMm ?? (box && outlineOf(box))
  const cutMm = outline && ([outline[0] + 2 * CUT_OUTSIDE_MM, outline[1] + 2 * CUT_OUTSIDE_MM] as const)
  const mmOf = (x: number) => formatSmallLength(x, units)
  return {
    mount,
    box,
    advice,
    thickMm,
    gripMm,
    cutMm,
    measured: mount.outlineMm !== null,
    findings: [
      ...kindFindings(mount, box, advice, wet),
      ...fanFindings(job, mount, box),
      ...(box?.mounting === 'clamps to a finished wall' ? clampFindings(mount, thickMm, gripMm, mmOf) : []),
      ...(box && box.mounting !== 'surface' ? depthFindings(box, mount, thickMm, mmOf) : []),
      ...(box && outline ? studFindings(box, mount, outline, mmOf) : []),
      ...setBackFindings(job, mount, mmOf),
      ...lineFindings(point, neighbours, mmOf),
    ],
    steps: stepsFor({ job, point, mount, box, cutMm, wet, mmOf }),
  }
}

type Words = (mm: number) => string
function clampFindings(mount: MountRecord, thickMm: number, [least, most]: readonly [number, number], mmOf: Words): Finding[] {
  if (mount.layers.length === 0)
    return [
      { ...say('mount-thickness', 'unknown', 'How thick is what its clamp must grip? Enter each layer, gaps too.'), asks: ['layers'] },
    ]
  const whose = mount.gripMm ? 'its maker’s figure' : 'a usual figure: read your box'
  if (!atMost(thickMm, most)) {
    const gap = mount.layers.find((l) => l.what === 'gap')
    const cure = gap
      ? `slip the clamp into the gap of ${mmOf(gap.mm)}, so that it grips only what is before it, or cut what is behind larger all round`
      : `cut the back layer larger all round, so that the clamp grips only the front`
    return [
      say(
        'mount-too-thick',
        'error',
        `Its clamp grips ${mmOf(least)} to ${mmOf(most)} (${whose}) and the wall is ${mmOf(thickMm)} there: ${cure}.`,
      ),
    ]
  }
  if (!atLeast(thickMm, least))
    return [
      say(
        'mount-too-thin',
        'error',
        `Its clamp grips from ${mmOf(least)} (${whose}) and there are ${mmOf(thickMm)}: ` +
          'pack it from behind, or take a box that screws to framing.',
      ),
    ]
  return []
}

function depthFindings(box: BoxKind, mount: MountRecord, thickMm: number, mmOf: Words): Finding[] {
  if (mount.behind === 'masonry' || mount.behind === 'surface' || mount.behind === null) return []
  if (mount.cavityMm === null)
    return [{ ...say('mount-cavity', 'unknown', `How deep is it behind? ${box.name} goes in ${mmOf(box.depthMm)}.`), asks: ['cavityMm'] }]
  const room = thickMm + mount.cavityMm
  return atMost(box.depthMm + BEHIND_MM, room)
    ? []
    : [
        say(
          'mount-too-deep',
          'error',
          `${box.name} goes in ${mmOf(box.depthMm)} and its cables turn behind it; there are ${mmOf(room)}. ` +
            'Take a shallower box with more width, or another place.',
        ),
      ]
}

function studFindings(box: BoxKind, mount: MountRecord, outline: readonly [number, number], mmOf: Words): Finding[] {
  if (mount.behind !== 'finished' && mount.behind !== 'open') return []
  if (mount.studMm === null)
    return [
      {
        ...say('mount-stud', 'unknown', 'How far is the nearest stud from the middle of the box? Feel for it before anything is cut.'),
        asks: ['studMm'],
      },
    ]
  const half = outline[0] / 2
  if (box.mounting === 'nails to a stud')
    return mount.studMm > half + 3
      ? [
          say(
            'mount-stud-far',
            'error',
            `It nails to a stud and the stud is ${mmOf(mount.studMm - half)} beside it: move it, or take one on a bar.`,
          ),
        ]
      : []
  if (box.mounting === 'clamps to a finished wall' && !atLeast(mount.studMm, half + BESIDE_MM))
    return [
      say(
        'mount-stud-near',
        'error',
        `A stud is ${mmOf(mount.studMm)} from its middle: the cut would meet it, or the clamp cannot turn. ` +
          `Move it to ${mmOf(half + BESIDE_MM)} or more.`,
      ),
    ]
  return []
}

/** The box that is there is taken out for another: in order, before the new outline is cut. */
const takeOut = (byVolume: boolean): MountReport['steps'] => [
  { text: 'Isolate, and prove it dead. Name every cable and write down what each splice joins before you part it.' },
  {
    text: byVolume
      ? 'Take the old box out: find its nails with a thin blade between box and stud and cut them, or undo its clamps; draw it out, ' +
        'its cables kept whole.'
      : 'Take the old box out: undo its screws, free it from plug and plaster, and draw it out with its cables kept whole.',
  },
  { text: 'Trace the new outline over the old hole, so that it covers it; patch what the new plate does not hide.' },
]

interface Mounted {
  readonly job: Installation
  readonly point: PlacedPoint
  readonly mount: MountRecord
  readonly box: BoxKind | null
  readonly cutMm: readonly [number, number] | null
  readonly wet: boolean
  readonly mmOf: Words
}
function stepsFor({ job, point, mount, box, cutMm, wet, mmOf }: Mounted): MountReport['steps'] {
  const long = longScrews(job, mount.setBackMm)
  const byVolume = worlds[job.region].boxesBy === 'volume'
  return [
    ...(point.box.planned ? takeOut(byVolume) : []),
    ...(cutMm
      ? [
          {
            text:
              `Cut ${mmOf(cutMm[0])} × ${mmOf(cutMm[1])}: traced level, a little outside the line; the ` +
              'template is that size. Look behind first, for cables and pipes.',
          },
        ]
      : []),
    ...(byVolume && cutMm
      ? [
          {
            text:
              `Its front is flush with a combustible surface, at most ${mmOf(6.35)} behind one that does not, however the stud is ` +
              'warped.',
            clause: '314.20',
          },
        ]
      : cutMm
        ? [{ text: 'Its lugs level, its front a little behind the finished face: longer screws, never a gap behind the plate.' }]
        : []),
    ...(long?.lengthMm
      ? [{ text: `Its front is ${mmOf(mount.setBackMm!)} behind the finished face: ${long.thread} screws of ${mmOf(long.lengthMm)}.` }]
      : []),
    ...(box?.metal ? [{ text: `Bond the metal of the box to the ${worlds[job.region].words.protective}, as carefully as anything.` }] : []),
    ...(wet
      ? [
          {
            text: 'Outdoors: the cover’s own longer screws, its gasket whole, holes at the top closed, a way out for water below.',
          },
        ]
      : []),
    ...(point.outlets > 0 || point.kind === 'fixed'
      ? [{ text: 'Turn it so that the cord of what is used there leaves downward without a sharp bend; pins follow that, not habit.' }]
      : []),
    ...(point.kind === 'box'
      ? [{ text: 'A joint box: a blank cover that says what it holds, and a place where a hand can reach it.' }]
      : []),
  ]
}
