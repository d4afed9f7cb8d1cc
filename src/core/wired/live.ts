import { add, type Complex, magnitude, subtract } from '../network/complex'
import { atSource, residualMa, type Solution } from '../network/network'
import { sequence, type Trip } from '../network/sequence'
import type { Element } from '../network/types'
import { atLeast } from '../base/tolerance'
import { type House, LOOSE_OHM } from './house'
import { conductors, reachedFrom } from './reach'

/** What a place of a box is at: volts to the protective conductor of the supply; null: joined to nothing. */
export type Potential = number | null
export interface OutletState {
  readonly across: number
  readonly line: Potential
  readonly other: Potential
  readonly earth: Potential
  /** Whether conductors alone lead from its earth to that of the supply. */
  readonly earthed: boolean
  readonly watts: number
  /** Residual devices for persons that open on a leak from here; null: it is dead, so nobody can say. */
  readonly guardedBy: readonly string[] | null
}
/** The wiring as it is alive, after all that opens by itself has opened. */
export interface Live {
  readonly potentials: Readonly<Record<string, Potential>>
  /** Amperes in each wire; below zero where it flows from its end to its beginning. */
  readonly amps: Readonly<Record<string, number>>
  readonly residualMa: Readonly<Record<string, number>>
  readonly trips: readonly Trip[]
  readonly open: readonly string[]
  readonly outlets: Readonly<Record<string, OutletState>>
  /** Ends that are not tight, with the watts they turn to heat. */
  readonly hot: Readonly<Record<string, number>>
}

/** A leak that a device for persons must not bear, and what such a device trips at, in milliamperes. */
const LEAK_MA = 60
const PERSON_MA = 30
/** Volts below which nothing is called live. */
export const LIVE_V = 50

type State = Solution
const reference = 'PE'
const potentialIn = ({ live }: State, node: string): Potential =>
  atSource(live, node) ? magnitude(subtract(live.voltsAt(node), live.voltsAt(reference))) : null

/** Currents signed by whether power flows along: positive from `a` to `b`. */
function along({ live, polesOf }: State, e: Element & { kind: 'wire' }): number {
  const amps: Complex | undefined = polesOf(e.id)[0]
  if (!amps) return 0
  const mean = add(live.voltsAt(e.a), live.voltsAt(e.b))
  const power = mean.re * amps.re + mean.im * amps.im
  return power < 0 ? -magnitude(amps) : magnitude(amps)
}

type Guard = Element & { kind: 'rcd' }
/** The devices for persons that a leak from a place would open. */
function guarding(devices: readonly Guard[], state: State, from: string, volts: number): readonly string[] {
  if (devices.length === 0) return []
  const leaking = state.polesWith(from, reference, (volts * 1000) / LEAK_MA)
  if (leaking === null) return []
  return devices.flatMap((e) => {
    const [was, is] = [residualMa(state.polesOf(e.id)), residualMa(leaking(e.id))]
    return atLeast(is, e.tripMa) && is > was + LEAK_MA / 2 ? [e.id] : []
  })
}

export type LiveAsked = Pick<House, 'input' | 'outlets'>
/** Solves the wiring as it stands: what opens by itself, then what is alive, what flows where, what guards each outlet. */
export function liveOf({ input, outlets }: LiveAsked): Live {
  const { trips, open, end: state } = sequence(input)
  const { live, nodes, polesOf } = state
  const devices = input.elements.filter((e) => e.kind === 'rcd' && e.tripMa <= PERSON_MA && !open.includes(e.id)) as Guard[]
  // A neutral that is joined to it at the source is no earth.
  const reached = reachedFrom(input.elements, open, [reference], conductors)
  const outletStates = outlets.map((o): readonly [string, OutletState] => {
    const [line, other] = [potentialIn(state, o.line), potentialIn(state, o.other)]
    const across = line !== null && other !== null ? magnitude(subtract(live.voltsAt(o.line), live.voltsAt(o.other))) : 0
    const alive = Math.max(line ?? 0, other ?? 0)
    const from = (line ?? 0) >= (other ?? 0) ? o.line : o.other
    const amps = o.element === null ? undefined : polesOf(o.element)?.[0]
    return [
      o.id,
      {
        across,
        line,
        other,
        earth: o.earth === null ? null : potentialIn(state, o.earth),
        earthed: o.earth !== null && reached.has(o.earth),
        watts: amps ? magnitude(amps) * across : 0,
        guardedBy: alive < LIVE_V ? null : guarding(devices, state, from, alive),
      },
    ]
  })
  const wires = input.elements.filter((e) => e.kind === 'wire')
  return {
    potentials: Object.fromEntries([...nodes].map((n) => [n, potentialIn(state, n)])),
    amps: Object.fromEntries(wires.map((e) => [e.id, along(state, e)])),
    residualMa: Object.fromEntries(input.elements.flatMap((e) => (e.kind === 'rcd' ? [[e.id, residualMa(polesOf(e.id))] as const] : []))),
    trips,
    open,
    outlets: Object.fromEntries(outletStates),
    hot: Object.fromEntries(
      wires.flatMap((e) =>
        e.ohm === LOOSE_OHM && e.id.includes(' joint ') ? [[e.a, magnitude(polesOf(e.id)[0]!) ** 2 * LOOSE_OHM] as const] : [],
      ),
    ),
  }
}
