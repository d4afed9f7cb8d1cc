import type { Element } from '../network/types'

/** What a hand tries on the wiring: nothing of it is in the record. */
export interface Trial {
  /** Devices of the board and isolators that are open, by element. */
  readonly open: readonly string[]
  /** Positions of actuators, by `box device actuator`; none: the first. */
  readonly positions: Readonly<Record<string, number>>
  /** Watts plugged in, by `box device socket`. */
  readonly plugged: Readonly<Record<string, number>>
  /** Ends that are not tight. */
  readonly loose: readonly string[]
  /** All that is there and stays draws at once what was entered of it; else nothing. */
  readonly drawing: boolean
}
export const noTrial: Trial = { open: [], positions: {}, plugged: {}, loose: [], drawing: false }

/** Of a feeder not measured, a conductor. */
export const SHORT_OHM = 0.01
/** A cable whose length is not entered is reckoned so long, and said to be. */
export const PRESUMED_M = 10
/** Of a metre of a conductor whose size was not read, about. */
export const PRESUMED_OHM_PER_M = 0.01

/** A part of the network that a hand can switch or that opens by itself. */
export interface Switching {
  readonly element: string
  readonly name: string
  readonly kind: 'main' | 'breaker' | 'residual'
  readonly circuit: string | null
  /** The point it is for, where it is in a box; none: the board. */
  readonly point?: string
  /** Of the breaker of a way: the ways it is, and where its line continues from it. */
  readonly ways?: readonly string[]
  readonly load?: string
}
/** A place where something draws power or may be plugged in. */
export interface Outlet {
  readonly id: string
  readonly point: string
  readonly name: string
  readonly line: string
  readonly other: string
  readonly earth: string | null
  readonly socket: boolean
  /** Of the load on it, where there is one. */
  readonly element: string | null
  /** The residual device that is in the same accessory, where there is one. */
  readonly guard: string | null
}
/** The name of a place of a box in the network. */
export const nodeOf = (box: string, name: string): string => `${box}|${name}`
export const barOf = (board: string, bar: 'N' | 'PE'): string => `${board}|${bar}`
export const positionKey = (box: string, deviceId: string, actuator: string): string => `${box} ${deviceId} ${actuator}`

/** What a network is put together with. */
export interface Laid {
  readonly trial: Trial
  readonly lineV: number
  /** What a residual device is called there. */
  readonly rcd: string
  readonly make: (e: Element) => void
  readonly outlets: Outlet[]
  readonly switching: Switching[]
  readonly notes: Set<string>
}
export const tie = (id: string, a: string, b: string): Element => ({ id, kind: 'switch', poles: [{ a, b }] })
