import { worldNames } from '../names'
import type { World } from '../world'
import { cableNames } from '../vocabulary'
import type { ConductorMetal } from '../types'
import {
  M_PER_KFT,
  naBreakerRatingsA,
  type NaCable,
  naCables,
  naCableSizes,
  naCircularMils,
  naClauses,
  naGroundingSize,
  naOhmPerKft,
  naSmallConductorLimitA,
} from './awg'

const wayToRun = (cable: NaCable) => ({
  words: cableNames[cable]!,
  cable,
  method: null,
  raceway: cable === 'thwn-2',
  dryOnly: cable === 'nm-b',
})

/** North America: 120/240 V, split phase, by NFPA 70. */
export const northAmerica: World = {
  id: 'north-america',
  words: {
    ...worldNames['north-america'],
    board: 'panel',
    space: 'space',
    spaces: 'spaces',
    breaker: 'breaker',
    rcd: 'GFCI',
    socketOutlet: 'receptacle',
    line: 'hot',
    neutral: 'neutral',
    protective: 'equipment ground',
    protectiveVerb: 'ground',
    cable: 'cable',
    cord: 'cord',
    box: 'box',
    paper: 'LETTER',
  },
  says: {
    leftLive: 'the other line stays live',
    leftLiveOfSupply: 'the other line stays live',
    mainDevice: 'breaker',
    residualShort: 'GFCI',
    aResidual: 'a GFCI',
    arcFault: 'AFCI',
    shutters: 'Tamper',
    raceway: 'Raceway',
    nearWater: 'Within 6 ft of a sink, bath or shower',
    outOfReach: '5½ ft',
    walls: 'Stretches of wall too far from an outlet are found and the fewest outlets that close them are placed (210.52).',
    curves: 'Usual inverse-time shape; the maker’s curve of the breaker in your hand decides.',
    inrushCure:
      'Motors may have a larger inverse-time breaker, up to 250 % of their current, where the cable is kept; or soften the start.',
    subBoard:
      'Four wires: two lines, neutral, equipment ground. At the sub-panel the neutral bar floats and the grounds have a bar of ' +
      'their own; the bonding screw stays out.',
    noEarth:
      'Nothing is extended from wiring without a ground. Run one back, or rewire; until then an old outlet may be a GFCI ' +
      'marked “no equipment ground”, and feeds nothing that needs one.',
    continuity: 'Continuity of the equipment ground',
  },
  cites: {
    motor: '430.22',
    charging: '625.41; 625.42',
    outletRating: '210.21(B)',
    cableEntry: '314.17',
    boxDepth: '314.24',
    boxWidth: '314.16(B)(4); 110.3(B)',
    outletInBreak: '210.52',
    outletHeight: '210.52',
    provedDead: 'NFPA 70E 120.5',
    load: '220.14(A); 210.19(A)',
    required: '210.19(A)(1); 210.20(A); Article 100, continuous load',
    overcurrent: `${naClauses.breakerRatings}; 240.4`,
    protectiveSize: `${naClauses.grounding}; 250.122(B)`,
    cord: '240.4; 240.5; 210.21',
    carries: '210.19(A)',
    branch: '240.4; 240.21',
    joints: '110.14(A)',
    torque: '110.14(D)',
  },
  units: 'imperial',
  letter: 'NA',
  currencySign: '$',
  lineV: 120,
  serviceV: 240,
  splitPhase: true,
  boardManner: 'columns',
  typedBreakers: false,
  breakerRatingsA: naBreakerRatingsA,
  pointFusesA: [],
  // No type is marked on them; inverse-time breakers act at once from 8 to 12 times their rating as usually made.
  magnetic: () => ({ from: 8, sure: 12 }),
  checkedToA: 100,
  rings: false,
  sharedNeutrals: true,
  fusedUnits: false,
  start: { cable: 'nm-b', method: null, residual: { at: 'none', ma: 5, type: null } },
  waysToRun: (['nm-b', 'mc-thhn', 'thwn-2'] as const).map(wayToRun),
  cables: naCables,
  cordSizes: naCableSizes('thwn-2', 'copper').slice(0, 4),
  personMa: 5,
  continuousShare: 0.8,
  recordedFactor: 1.25,
  drop: {
    percent: () => 3,
    totalPercent: () => 5,
    severity: 'warning',
    rule: 'voltage-drop-over-3-percent',
    clause: '210.19(A) informational note',
  },
  demandMethod: 'floor-area',
  demandUnit: 'VA',
  boxesBy: 'volume',
  racewayFill: 'area',
  outletsBy: 'spacing',
  socketHeightMm: null,
  boredHoles: 'error',
  sizes: (cable, metal: ConductorMetal) => naCableSizes(cable as NaCable, metal),
  protectiveSize: (_, size, breakerA) => {
    const base = naGroundingSize(breakerA)
    return naCircularMils(base) > naCircularMils(size) ? size : base
  },
  smallConductorA: (metal, size) => naSmallConductorLimitA(metal, size) ?? Number.POSITIVE_INFINITY,
  dropPerAm: (size, metal) => (2 * naOhmPerKft(metal, size)!) / M_PER_KFT,
  metric: null,
}
