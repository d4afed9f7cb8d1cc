import type { MotorRow } from './north-america/motors'
import type { MetricRegion } from './metric'
import type { BreakerType, ConductorMetal, RegionId, SignalKind } from './types'
import type { Vocabulary } from './vocabulary'

/** A limit of voltage drop, in per cent, and how grave it is to pass it. */
interface DropLimit {
  readonly percent: (lighting: boolean) => number
  /** From the supply to the last point, where feeder and circuit add up. */
  readonly totalPercent: (lighting: boolean) => number
  readonly severity: 'warning' | 'error'
  readonly rule: string
  readonly clause: string
}

/** Clauses that more than one place cites for the same thing. */
interface Cites {
  /** That a joint stays where it can be reached. */
  readonly jointReached: string
  /** What is worn or damaged. */
  readonly damaged: string
  readonly overload: string
  /** Two devices in one space, or one in a space that is not there. */
  readonly boardSpaces: string
  /** A neutral on the bar of another device. */
  readonly neutralBar: string
  /** Two breakers in the space of one. */
  readonly tandem: string
  readonly mainMissing: string
  readonly mainOnePole: string
  /** What stays live with the main switch off. */
  readonly mainLeavesLive: string
  readonly otherSource: string
  /** What is looked at before it is hidden. */
  readonly hidden: string
  readonly motor: string
  readonly charging: string
  readonly outletRating: string
  readonly cableEntry: string
  readonly boxDepth: string
  readonly boxWidth: string
  readonly outletInBreak: string
  readonly outletHeight: string
  readonly provedDead: string
  readonly load: string
  readonly required: string
  readonly overcurrent: string
  readonly protectiveSize: string
  readonly cord: string
  readonly joints: string
  readonly carries: string
  readonly branch: string
  readonly torque: string
  /** That work is done well, where nothing narrower says how. */
  readonly workmanship: string
  /** That what is written at a board, a box or a cable says what is there. */
  readonly labels: string
}

/** Sentences and names that a world says in its own way. */
interface Says {
  /** What a switch or breaker of one pole leaves live. */
  readonly leftLive: string
  readonly leftLiveOfSupply: string
  readonly mainDevice: string
  readonly residualShort: string
  /** The residual device with its article. */
  readonly aResidual: string
  readonly arcFault: string
  readonly shutters: string
  readonly raceway: string
  readonly nearWater: string
  readonly outOfReach: string
  readonly walls: string
  readonly curves: string
  readonly inrushCure: string
  readonly subBoard: string
  readonly noEarth: string
  /** What an outlet is marked with that takes the place of an old one where there is no protective conductor; empty: none may. */
  readonly noEarthMarks: readonly string[]
  readonly continuity: string
}

/** A cable with the manner of running it, where the world counts by manners. */
export interface WayToRun {
  readonly words: string
  readonly cable: string
  readonly method: string | null
  readonly raceway: boolean
  readonly dryOnly: boolean
}

/**
 * One electrical world, in one value: what code asks about a world it asks here, by the thing asked about and never by which world it
 * is. Its parts are next to it in its own folder.
 */
/** Questions whose answer can stop a job. */
export type FitnessId = 'permitted' | 'isolation' | 'board' | 'earth' | 'aluminium' | 'service' | 'dust' | 'unexplained'

export interface World {
  readonly id: RegionId
  readonly words: Vocabulary
  readonly says: Says
  readonly cites: Cites
  /** What each question whether the work may be done rests on. */
  readonly fitness: Readonly<Record<FitnessId, string>>
  readonly units: 'imperial' | 'metric'
  readonly letter: string
  /** Before an amount of money. */
  readonly currencySign: string
  /** Volts from a line to neutral, and between the service's outermost conductors. */
  readonly lineV: number
  readonly serviceV: number
  /** Two lines of opposite phase at the service: two-pole ways across them, legs to balance. */
  readonly splitPhase: boolean
  /** Columns of breakers down two legs, or a rail of modules behind their residual devices. */
  readonly boardManner: 'columns' | 'rail'
  readonly typedBreakers: boolean
  readonly breakerRatingsA: readonly number[]
  /** Fuses of plugs and connection units, and ratings a point may be protected at on its own. */
  readonly pointFusesA: readonly number[]
  /** In times the rating: least current at which the magnetic release may act, and where it surely does. */
  readonly magnetic: (type: BreakerType) => { readonly from: number; readonly sure: number }
  /** The largest breaker that is checked here, in amperes. */
  readonly checkedToA: number
  readonly rings: boolean
  readonly sharedNeutrals: boolean
  /** A neutral is brought to each switch for what may be fitted there later (NFPA 70 404.2(C)). */
  readonly neutralAtSwitches: boolean
  /** Fuses are in plugs and connection units. */
  readonly fusedUnits: boolean
  readonly start: {
    readonly cable: string
    readonly method: string | null
    readonly residual: { readonly at: 'none' | 'board'; readonly ma: number; readonly type: null }
  }
  /** Cables and manners of running that make sense to lay side by side. */
  readonly waysToRun: readonly WayToRun[]
  readonly cables: readonly string[]
  /** Conductors that flexible cords are made with, smallest first. */
  readonly cordSizes: readonly string[]
  /** What an outlet's or appliance's own residual device trips at, in milliamperes. */
  readonly personMa: number
  /** What of a rating a load of three hours or more may take. */
  readonly continuousShare: number
  /** What the classification codes of a condition report mean; null: reports have none. */
  readonly reportCodes: Readonly<Record<'C1' | 'C2' | 'C3' | 'FI', string>> | null
  /** What was recorded counts so many times in the demand of a service. */
  readonly recordedFactor: number
  /** The published full-load current of a single-phase motor by horsepower and volts; absent where the world has no such table. */
  readonly motorRow?: (hp: number, volts: number) => MotorRow | null
  readonly drop: DropLimit
  /** Demand is reckoned in volt-amperes (else amperes), from floor area, or by diversity; null: no published method. */
  readonly demandMethod: 'floor-area' | 'diversity' | null
  readonly demandUnit: 'VA' | 'A'
  /** Cables of extra-low voltage and telecommunication beside those of power. */
  readonly separation: {
    readonly clause: string
    /** In one raceway or box they may be together where all are insulated for the highest voltage there. */
    readonly insulationServes: boolean
    /** The least distance to cables of power where no divider is between them; null: none is published for them here. */
    readonly apartMm: number | null
    /** What is asked along the run, in a sentence. */
    readonly along: string
    readonly kindNames: Readonly<Record<SignalKind, string>>
  }
  /** Screws that hold an accessory to its box: the length that comes with it, as a rule, and longer ones that are sold. */
  readonly deviceScrews: { readonly thread: string; readonly suppliedMm: number; readonly lengthsMm: readonly number[] }
  /** Boxes are judged by their volume or by their depth. */
  readonly boxesBy: 'volume' | 'depth'
  /** Published table that judges what may be drawn into a raceway. */
  readonly racewayFill: 'area' | 'factors' | null
  /** Sockets behind fixed rules of spacing along walls, or by their height. */
  readonly outletsBy: 'spacing' | 'height'
  /** Heights between which sockets of a dwelling are; null where none is published. */
  readonly socketHeightMm: { readonly min: number; readonly max: number } | null
  /** A hole beyond the published figures is wrong (error), or against the usual guidance. */
  readonly boredHoles: 'error' | 'warning'
  /** How far apart a cable is fixed, level and upright. */
  readonly supports: { readonly clause: string; readonly levelM: number; readonly uprightM: number }
  /** Hidden cable is looked for so near to a corner or a ceiling, and level with or plumb over an accessory; null: nowhere is said. */
  readonly hiddenZones: { readonly clause: string; readonly edgeMm: number } | null
  /** How tightly a cable is bent at the least, inside, for its own thickness; null: its maker says. */
  readonly bends: { readonly clause: string; readonly times: (outerMm: number) => number } | null
  /** Round a bath or a shower no cable that does not belong there is laid; null: nowhere is said. */
  readonly bathZone: { readonly clause: string; readonly asideM: number; readonly highM: number } | null
  /** The clause on what is laid near something warm, and on what may be struck or pulled at. */
  readonly nearHeat: string
  readonly guarded: string
  /** The clauses on warmth round a cable, and on insulation round it; null: it counts for nothing there. */
  readonly thermal: { readonly ambient: string; readonly insulation: string | null }
  readonly sizes: (cable: string, metal: ConductorMetal) => string[]
  /** The protective conductor that goes with a line size behind a breaker. */
  readonly protectiveSize: (cable: string, size: string, breakerA: number) => string
  /** Largest breaker a small conductor may have; infinite where none is set. */
  readonly smallConductorA: (metal: ConductorMetal, size: string) => number
  /** Volts lost for an ampere over a metre of cable, there and back. */
  readonly dropPerAm: (size: string, metal: ConductorMetal, cable: string) => number
  /** How a 230 V world reckons fault loops, methods and factors; null where loops are not reckoned. */
  readonly metric: MetricRegion | null
}
