import type { CircuitSystem, ConductorRole } from '../../region/colours'
import type { RegionId } from '../../region/types'

/** What a screw looks like, so that it can be found with the device in the hand. */
export type ScrewKind = 'brass' | 'silver' | 'green' | 'dark' | 'plain'
/** The cable a conductor comes from: the feed, or the one that continues to the load. */
export type CableSide = 'feed' | 'load'

export interface Terminal {
  readonly mark: string
  readonly screw: ScrewKind
  readonly takes: { readonly cable: CableSide; readonly role: ConductorRole }
  /** Place on the back of the device, in percent of its width and height. */
  readonly at: readonly [x: number, y: number]
}

export interface Joint {
  /** Conductors of the feed and of the load that meet in a connector, without touching the device. */
  readonly role: ConductorRole
  /** A short tail goes from the joint to the device too. */
  readonly pigtail: boolean
}

export type AccessoryKind = 'outlet' | 'switch' | 'isolator' | 'connection-unit' | 'thermostat' | 'light'

export interface Accessory {
  readonly id: string
  readonly name: string
  readonly region: RegionId
  readonly kind: AccessoryKind
  readonly ratingA: number
  readonly volts: number
  readonly system: CircuitSystem
  /** Outlets a plug can be put into; 0 where nothing is plugged in. */
  readonly outlets: 0 | 1 | 2
  readonly gangs: 1 | 2
  readonly residual: boolean
  /** Shutters behind its face by the standard it is made to, as household outlets of the 230 V worlds have. */
  readonly shutters: boolean
  readonly poles: 0 | 1 | 2 | 3
  readonly stripMm: number
  /** The largest conductor its terminals take. */
  readonly largestSize: string
  /** Least depth of box behind it with one cable of up to 4 mm². Metric worlds. */
  readonly boxDepthMm: number
  /** What runs on from it: nothing, another cable, or the appliance's flexible cord. */
  readonly onward: 'none' | 'cable' | 'cord' | 'optional-cable'
  readonly terminals: readonly Terminal[]
  readonly joints: readonly Joint[]
  readonly caution?: string
  /** What it is wired as; its terminals are then those of that pattern, in `devices.ts`. */
  readonly pattern?: WiringPattern
  /** It goes with others on one plate: a switch of a made-up plate, or a module on the frame of a grid. Metric worlds. */
  readonly shares?: keyof typeof sharing
}

/** How the terminals of a device are wired, where its screws do not say it by themselves. */
export type WiringPattern = 'two-way' | 'intermediate' | 'light' | 'fan' | 'fan-light' | 'fan-overrun' | 'speed' | 'timer' | 'shaver'

/** How many go on one gang. */
export const sharing = { plate: 3, grid: 2 } as const
